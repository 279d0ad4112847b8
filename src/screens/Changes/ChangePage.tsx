'use client';

import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useState } from 'react';
import { formatAmount, formatMoney, money } from '@/core/pricing/money';
import { count } from '@/core/words/count';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { Select } from '@/ui/Select';
import { TableHead } from '@/ui/TableHead';
import { useAct } from '@/ui/use-act';
import { dayAndTime } from '@/ui/when';
import type { Change, ChangeData, Item, ItemWhat } from './load';
import { countsLine, isGoing, STATE_WORDS, WHAT_WORDS } from './view';

/** While something goes on it is read again so often, ms. */
const AGAIN_MS = 1000;
const ALL = '';
const PAGE = 100;

/** A change of many products: what it would do, then what it did; begun, and undone, from here. */
export function ChangePage(first: ChangeData) {
  const { id } = first.change;
  const { act, busy, problem } = useAct();
  const path = `/range/changes/${id}`;
  const { data: change, refetch } = useQuery(
    {
      queryKey: ['change', id],
      queryFn: () => call<Change>('GET', path),
      initialData: first.change,
      refetchInterval: ({ state: { data } }) => (data && isGoing(data) ? AGAIN_MS : false),
      meta: { topics: ['job'] },
    },
    queries(),
  );
  const [what, setWhat] = useState<ItemWhat | typeof ALL>(ALL);
  const move = (step: 'begin' | 'undo') =>
    void act(async () => {
      await call('POST', `${path}/${step}`);
      await refetch();
    });
  const toChange = change.counts.change ?? 0;
  const failed = isGoing(change) && (change.jobState === 'failed' || change.jobState === 'cancelled');
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12 text-small">
      <p className="mb-1">
        <Link className="text-primary underline" href="/changes">
          Changes of many
        </Link>
      </p>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h1 className="font-display text-[24px] font-semibold">{change.title}</h1>
        <span className="text-muted">
          {STATE_WORDS[change.state]}, by {change.by}, {dayAndTime(change.madeAt)}
        </span>
      </div>
      <p role="status" className="mb-3 text-base">
        {countsLine(change.counts)}
      </p>
      {problem && <Alert className="mb-3">{problem}</Alert>}
      {failed && (
        <Alert className="mb-3">
          This stopped before its end. What was done is kept; run its job again from the running work above.
        </Alert>
      )}
      <div className="mb-4 flex flex-wrap items-center gap-5">
        {change.state === 'planned' && (
          <Button kind="primary" disabled={busy || toChange === 0} onClick={() => move('begin')}>
            {toChange === 0 ? 'Nothing to do' : `${change.title}: ${count(toChange, 'product')}`}
          </Button>
        )}
        {change.canUndo && (
          <Button disabled={busy} onClick={() => move('undo')}>
            Undo
          </Button>
        )}
        {isGoing(change) && !failed && <span className="text-muted">{STATE_WORDS[change.state]} …</span>}
        <Select
          label="Show"
          value={what}
          choices={[
            { value: ALL, name: 'all' },
            ...Object.entries(WHAT_WORDS)
              .filter(([value]) => (change.counts[value as ItemWhat] ?? 0) > 0)
              .map(([value, name]) => ({ value: value as ItemWhat, name })),
          ]}
          onChange={setWhat}
        />
      </div>
      <Items first={first} change={change} what={what} />
    </div>
  );
}

function Items({ first, change, what }: { first: ChangeData; change: Change; what: ItemWhat | '' }) {
  const path = `/range/changes/${change.id}/items?${what === ALL ? '' : `what=${what}&`}`;
  const isFirst = what === ALL && change.state === first.change.state;
  const { data, hasNextPage, fetchNextPage } = useInfiniteQuery(
    {
      // What was looked at or done since is another list.
      queryKey: ['change-items', change.id, what, JSON.stringify(change.counts)],
      queryFn: ({ pageParam }) => call<{ items: Item[] }>('GET', `${path}after=${pageParam}`),
      initialPageParam: '',
      getNextPageParam: ({ items }) => (items.length === PAGE ? items.at(-1)!.productId : undefined),
      placeholderData: (before) => before,
      ...(isFirst ? { initialData: { pages: [{ items: [...first.items] }], pageParams: [''] } } : {}),
    },
    queries(),
  );
  const items = data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <table className="w-full">
        <TableHead
          className="border-y border-hairline"
          columns={[['Product', 'py-2'], 'What', 'Prices, and what is left']}
        />
        <tbody>
          {items.map((item) => (
            <tr key={`${item.productId} ${item.storeId}`} className="border-b border-hairline align-top">
              <td className="py-2 pr-4">
                <Link className="font-semibold hover:text-primary" href={`/products/${item.productId}`}>
                  {item.title || 'Untitled'}
                </Link>
              </td>
              <td className="py-2 pr-4">
                <span className={item.what === 'left' || item.what === 'kept' ? 'text-caution' : 'text-muted'}>
                  {WHAT_WORDS[item.what]}
                </span>
                {item.says && <span className="block text-muted">{item.says}</span>}
              </td>
              <td className="py-2">
                <Prices item={item} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {hasNextPage && (
        <p className="mt-3">
          <Button kind="quiet" onClick={() => void fetchNextPage()}>
            More
          </Button>
        </p>
      )}
    </>
  );
}

const span = ([least, most]: readonly [number, number], currency: string): string =>
  least === most
    ? formatAmount(money(least, currency))
    : `${formatAmount(money(least, currency))} – ${formatAmount(money(most, currency))}`;

/** Prices before and after, store by store, with what the worst leaves. */
function Prices({ item }: { item: Item }) {
  return (
    <>
      {item.prices.map(({ storeId, storeName, before, then, leftMinor, losing, currency }) => (
        <span key={storeId ?? ''} className="block tabular-nums">
          <span className="text-muted">{storeName || 'all stores'}:</span> {span(before, currency)} →{' '}
          {span(then, currency)} {currency},{' '}
          <span className={leftMinor < 0 || losing > 0 ? 'text-stop' : 'text-muted'}>
            {formatMoney(money(leftMinor, currency))} left
            {losing > 0 && `, ${count(losing, 'variant')} under the floor`}
          </span>
        </span>
      ))}
    </>
  );
}
