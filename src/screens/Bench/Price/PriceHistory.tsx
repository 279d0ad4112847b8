'use client';

import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EditCause } from '@/core/listing/shown-prices';
import { formatAmount, money } from '@/core/pricing/money';
import { offerName } from '@/core/pricing/bundle';
import type { Aim } from '@/core/pricing/solve';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { aimText } from './prices';
import { dayAndTime } from '@/ui/when';

interface Change {
  readonly storeId: string | null;
  readonly variantKey: string;
  readonly what: string;
  readonly was: unknown;
  readonly now: unknown;
  readonly revision: number;
  readonly by: string;
  readonly cause: EditCause;
  readonly at: string;
}

const ALL = '';
const EDIT_WORDS: { readonly [cause in EditCause]: string } = { typed: 'hand', rule: 'a price rule', file: 'a file' };

interface Page {
  readonly changes: Change[];
  /** Where the next page goes on; null at the first change of all. */
  readonly before: number | null;
}

/** Who fixed which price, and when, down to the first; what one revision did to many variants alike stands on one line. */
export function PriceHistory() {
  const { data, doc, variant } = useDesk('data', 'doc', 'variant');
  const [store, setStore] = useState(ALL);
  const [only, setOnly] = useState(ALL);
  const asked = new URLSearchParams({ store, variant: only }).toString();
  const path = `/products/${data.product.id}/price-history?${asked}`;
  const {
    data: pages,
    error,
    hasNextPage,
    fetchNextPage,
  } = useInfiniteQuery(
    {
      queryKey: ['product', data.product.id, 'price-history', asked],
      queryFn: ({ pageParam }) => call<Page>('GET', pageParam === null ? path : `${path}&before=${pageParam}`),
      initialPageParam: null as number | null,
      getNextPageParam: ({ before }) => before,
    },
    queries(),
  );
  if (error) return <Alert>{error.message}</Alert>;
  if (!pages) return <p className="text-muted">Loading …</p>;
  const changes = pages.pages.flatMap((page) => page.changes);
  const choices = (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-2">
      <Select
        label="Where"
        value={store}
        choices={[
          { value: ALL, name: 'everywhere' },
          { value: 'base', name: 'all stores' },
          ...data.stores.map(({ id, name }) => ({ value: id, name })),
        ]}
        onChange={setStore}
      />
      {variant && (
        <Select
          label="For"
          value={only}
          choices={[
            { value: ALL, name: 'every variant' },
            { value: variant, name: variantName(data.blank, variant) },
          ]}
          onChange={setOnly}
        />
      )}
    </div>
  );
  if (changes.length === 0)
    return (
      <>
        {choices}
        <p className="text-muted">
          No price was changed here yet. Each change is kept as long as the product, with who and when.
        </p>
      </>
    );
  const currencyOf = (storeId: string | null) =>
    data.stores.find((store) => store.id === storeId)?.currency ?? doc.price.currency;
  const said = (what: string, value: unknown, currency: string): string => {
    if (value === null) return what === 'aim' ? 'follows' : 'none';
    if (what === 'aim') return aimText(value as Aim, currency);
    if (what === 'differencePpm') return `all stores and ${Number(value) / 10_000} %`;
    if (what === 'freeFromMinor') return `shipping free from ${formatAmount(money(Number(value), currency))}`;
    if (what === 'shipping') return value === 'charged' ? 'shipping paid by the buyer' : 'shipping in the price';
    if (what === 'ending') return `ends in ${String(value)}`;
    if (what === 'leastMinor' || what === 'mostMinor')
      return `at ${what === 'leastMinor' ? 'least' : 'most'} ${formatAmount(money(Number(value), currency))}`;
    if (what === 'way') return `rounded ${String(value)}`;
    if (what === 'notTo')
      return Object.keys(value as object).length > 0
        ? `not sold to ${Object.keys(value as object).join(', ')}`
        : 'sold everywhere';
    if (what === 'items') return bundleText(value as unknown[]);
    return String(value);
  };
  return (
    <>
      {choices}
      <table className="w-full text-small bg-sheet border-y border-hairline">
        <TableHead
          className="border-b border-hairline"
          columns={[['When', 'py-1.5 pl-2'], 'Who', 'Where', 'For', 'Was', 'Now', 'By']}
        />
        <tbody>
          {grouped(changes).map(({ change, keys }, i) => {
            const currency = currencyOf(change.storeId);
            return (
              <tr key={i} className="border-b border-hairline">
                <td className="py-1 pl-2 whitespace-nowrap">{dayAndTime(change.at)}</td>
                <td>{change.by}</td>
                <td>
                  {change.storeId === null
                    ? 'all stores'
                    : (data.stores.find((store) => store.id === change.storeId)?.channelName ?? 'a store that is gone')}
                </td>
                <td>
                  {keys[0] === '*'
                    ? 'all'
                    : keys.length === 1
                      ? offerName(data.blank, doc, keys[0]!)
                      : `${keys.length} variants`}
                </td>
                <td className="text-muted">{said(change.what, change.was, currency)}</td>
                <td>{said(change.what, change.now, currency)}</td>
                <td className="text-muted">{EDIT_WORDS[change.cause]}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {hasNextPage && (
        <Button className="mt-2" onClick={() => void fetchNextPage()}>
          Older changes
        </Button>
      )}
    </>
  );
}

/** How many goods a bundle holds beside the product. */
const bundleText = (items: readonly unknown[]): string =>
  items.length === 1 ? '1 product beside it' : `${items.length} products beside it`;

/** Changes of one revision that are alike but for their variant, together. */
function grouped(changes: readonly Change[]): { change: Change; keys: string[] }[] {
  const groups = new Map<string, { change: Change; keys: string[] }>();
  for (const change of changes) {
    const id = JSON.stringify([
      change.revision,
      change.storeId,
      change.what,
      change.was,
      change.now,
      change.variantKey === '*',
    ]);
    const have = groups.get(id);
    if (have) have.keys.push(change.variantKey);
    else groups.set(id, { change, keys: [change.variantKey] });
  }
  return [...groups.values()];
}
