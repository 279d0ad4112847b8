'use client';

import { Ellipsis } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { ActionMenu } from '@/ui/ActionMenu';
import { archive, duplicate, remove } from '../product-actions';

/** What can be done with one product of the range. */
export function RowMenu({
  product,
  onChange,
}: {
  product: { readonly id: string; readonly title: string };
  onChange: () => void;
}) {
  const router = useRouter();
  const of = { id: product.id, title: product.title || 'Untitled' };
  return (
    <ActionMenu
      label={`Actions for ${of.title}`}
      anchor="bottom end"
      className="inline-grid size-7 place-items-center rounded-paper text-muted hover:text-ink"
      entries={[
        { name: 'Duplicate', act: () => void duplicate(of, (id) => router.push(`/products/${id}`)) },
        { name: 'Archive', act: () => void archive(of, onChange) },
        { name: 'Delete', act: () => void remove(of, onChange) },
      ]}
    >
      <Ellipsis size={16} aria-hidden />
    </ActionMenu>
  );
}
