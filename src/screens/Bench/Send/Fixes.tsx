'use client';

import { money } from '@/core/pricing/money';
import type { Fix } from '@/core/rules/fix';
import { fixesFor } from '@/core/rules/fixes';
import { Button } from '@/ui/Button';
import { useDesk, type BenchListing } from '../desk';
import { ratesOf } from '../Price/priced';

/** Ways to keep what the product breaks in a store, each with what it is and what it becomes: taken for that store, or for all. */
export function Fixes({ listing, name }: { listing: BenchListing; name: string }) {
  const { doc, data, edit } = useDesk('doc', 'data', 'edit');
  const broken = listing.rules.flatMap(({ id, kept }) => (kept ? [] : [id]));
  const store = data.stores.find(({ id }) => id === listing.storeId);
  if (!store || broken.length === 0) return null;
  const { demands, shopName, currency, sizesIn, shades } = store;
  const fixes = fixesFor(
    {
      ...{ doc, blank: data.blank, storeId: store.id, number: listing.number },
      ...{ demands, shopName, currency, sizesIn, shades },
      sumHere: ({ minor, currency: of }) =>
        of === null || of === currency ? minor : ratesOf(data).convert(money(minor, of), currency).amountMinor,
    },
    broken,
  );
  if (fixes.length === 0) return null;
  const take = (taken: readonly Fix[], where: 'store' | 'everywhere') =>
    edit(`Fix for ${name}`, (now) => taken.reduce((next, fix) => fix.apply(next, where), now));
  return (
    <ul className="mt-3 text-small" aria-label={`Fixes for ${name}`}>
      {fixes.map((fix) => (
        <li
          key={fix.id}
          className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-l-[3px] border-hairline py-1 pl-2"
        >
          <span className="w-44 shrink-0">{fix.says}</span>
          <span className="min-w-0 flex-1 basis-64">
            <del className="text-muted">{fix.before || 'nothing'}</del>{' '}
            <ins className="no-underline">→ {fix.after}</ins>
          </span>
          <span className="flex gap-3">
            <Button kind="quiet" onClick={() => take([fix], 'store')}>
              For this store
            </Button>
            {fix.everywhere && (
              <Button kind="quiet" onClick={() => take([fix], 'everywhere')}>
                For all
              </Button>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
