'use client';

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Ellipsis } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { archive, duplicate, remove } from '../product-actions';
import { useDesk } from './desk';

const OtherBlank = dynamic(() => import('./OtherBlank').then((part) => part.OtherBlank));
const ITEM = 'block w-full px-3 py-1.5 text-left data-[focus]:bg-selection';

/** What can be done with the product as a whole. */
export function ProductMenu() {
  const { data, doc, session } = useDesk();
  const router = useRouter();
  const [moving, setMoving] = useState(false);
  const product = { id: data.product.id, title: doc.words.base.title.trim() || 'Untitled' };
  const leave = () => router.push('/range');
  const items: readonly (readonly [string, () => void])[] = [
    // What is not saved yet belongs to the copy too.
    ['Duplicate', () => void session.flush().then(() => duplicate(product, (id) => router.push(`/products/${id}`)))],
    ['Put on another blank …', () => setMoving(true)],
    ['Archive', () => void session.flush().then(() => archive(product, leave))],
    ['Delete', () => void session.flush().then(() => remove(product, leave))],
  ];
  return (
    <>
      <Menu>
        <MenuButton
          aria-label="Product"
          title="Duplicate, put on another blank, archive, delete"
          className="inline-grid size-6 shrink-0 place-items-center rounded-paper text-muted hover:text-ink"
        >
          <Ellipsis size={16} aria-hidden />
        </MenuButton>
        <MenuItems
          anchor="bottom start"
          className="z-50 min-w-52 rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
        >
          {items.map(([name, act]) => (
            <MenuItem key={name}>
              <button type="button" className={ITEM} onClick={act}>
                {name}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      {moving && <OtherBlank onClose={() => setMoving(false)} />}
    </>
  );
}
