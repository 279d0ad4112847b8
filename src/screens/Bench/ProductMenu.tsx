'use client';

import { Ellipsis } from 'lucide-react';
import { later } from '@/ui/later';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ActionMenu } from '@/ui/ActionMenu';
import { toast } from '@/ui/toast';
import { archive, duplicate, remove } from '../product-actions';
import { useDesk } from './desk';

const OtherBlank = later(() => import('./OtherBlank').then((part) => part.OtherBlank));

/** What can be done with the product as a whole. */
export function ProductMenu() {
  const { data, doc, session } = useDesk('data', 'doc', 'session');
  const router = useRouter();
  const [moving, setMoving] = useState(false);
  const product = { id: data.product.id, title: doc.words.base.title.trim() || 'Untitled' };
  const leave = () => router.push('/range');
  /** Does something with the product as it is saved; while it is not, that is said instead. */
  const whenSaved = async (then: () => Promise<void>) => {
    await session.flush();
    if (session.getState().save === 'saved') await then();
    else toast.error('Your last changes are not saved yet. Try again when they are.');
  };
  return (
    <>
      <ActionMenu
        label="Product"
        title="Duplicate, put on another blank, archive, delete"
        className="inline-grid size-6 shrink-0 place-items-center rounded-paper text-muted hover:text-ink"
        entries={[
          // What is not saved yet belongs to the copy too.
          {
            name: 'Duplicate',
            act: () => void whenSaved(() => duplicate(product, (id) => router.push(`/products/${id}`))),
          },
          { name: 'Put on another blank …', act: () => setMoving(true) },
          { name: 'Archive', act: () => void whenSaved(() => archive(product, leave)) },
          { name: 'Delete', act: () => void whenSaved(() => remove(product, leave)) },
        ]}
      >
        <Ellipsis size={16} aria-hidden />
      </ActionMenu>
      {moving && <OtherBlank onClose={() => setMoving(false)} />}
    </>
  );
}
