'use client';

import { followProduct, ownParts, type OwnPart } from '@/core/document/own-parts';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';
import type { Part } from '../parts';

/** Where each part is looked at; names of colors are below it. */
const PART_OF: { readonly [part in Exclude<OwnPart, 'shades'>]: Part } = {
  variants: 'variants',
  listings: 'variants',
  price: 'price',
  words: 'words',
  pictures: 'pictures',
};

/** What a store has of its own, each to be looked at or given back. */
export function OwnHere({ storeId, name }: { storeId: string; name: string }) {
  const { doc, edit, goTo } = useDesk('doc', 'edit', 'goTo');
  const own = ownParts(doc, storeId);
  if (own.length === 0) return null;
  return (
    <ul aria-label={`Only in ${name}`} className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1 text-small">
      <li className="text-muted">Only here:</li>
      {own.map(({ part, says }) => (
        <li key={part} className="flex items-baseline gap-2">
          {part === 'shades' ? (
            says
          ) : (
            <Button kind="quiet" onClick={() => goTo(PART_OF[part])}>
              {says}
            </Button>
          )}
          <Button
            kind="quiet"
            className="text-tiny"
            aria-label={`Follow the product’s ${part === 'shades' ? 'colors' : part} in ${name}`}
            onClick={() => edit(`Follow the product in ${name}`, (d) => followProduct(d, storeId, part))}
          >
            follow the product
          </Button>
        </li>
      ))}
    </ul>
  );
}
