'use client';

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Ellipsis } from 'lucide-react';
import { useRouter } from 'next/navigation';
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
  const items: readonly (readonly [string, () => void])[] = [
    ['Duplicate', () => void duplicate(of, (id) => router.push(`/products/${id}`))],
    ['Archive', () => void archive(of, onChange)],
    ['Delete', () => void remove(of, onChange)],
  ];
  return (
    <Menu>
      <MenuButton
        aria-label={`Actions for ${of.title}`}
        className="inline-grid size-7 place-items-center rounded-paper text-muted hover:text-ink"
      >
        <Ellipsis size={16} aria-hidden />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-50 min-w-40 rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
      >
        {items.map(([name, act]) => (
          <MenuItem key={name}>
            <button
              type="button"
              className="block w-full px-3 py-1.5 text-left data-[focus]:bg-selection"
              onClick={act}
            >
              {name}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
