'use client';

import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { formatAmount, money } from '@/core/pricing/money';
import { inOrder } from '@/core/order-key';
import { bundledKey, offerName } from '@/core/pricing/bundle';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { AXIS, STILL, TIP } from './chart-look';
import { CAUSE_CHOICES, causeText, drawnPrices, type ShownPoint } from './shown';
import { dayAndTime } from '@/ui/when';

interface Page {
  readonly prices: readonly ShownPoint[];
  /** Where the next page goes on; null at the first price of all. */
  readonly before: number | null;
}

const ALL = '';
const DAY_MS = 86_400_000;
/** A day, or the time where all that is drawn is of a day or two. */
const tick = (short: boolean) => (atMs: number) =>
  new Date(atMs).toLocaleString('en-GB', short ? { timeStyle: 'short' } : { day: 'numeric', month: 'short' });
const amount = (minor: number | null, currency: string) =>
  minor === null ? '–' : formatAmount(money(minor, currency));

/** What buyers saw of one variant in one store: its price over time, what had changed before it, and whose edit it was. */
export function ShownPrices({ store: asked }: { store: BenchStore | null }) {
  const { data, doc, variant } = useDesk('data', 'doc', 'variant');
  const [storeId, setStore] = useState(asked?.id ?? data.stores[0]?.id ?? '');
  const alone = data.blank.variants.map(({ key }) => key).filter((key) => Object.hasOwn(doc.variants, key));
  const bundles = inOrder(doc.bundles?.entries ?? {});
  const keys = [...alone, ...bundles.flatMap(([id]) => alone.map((one) => bundledKey(one, id)))];
  const [key, setKey] = useState(variant && keys.includes(variant) ? variant : (keys[0] ?? ''));
  const [cause, setCause] = useState(ALL);
  const store = data.stores.find(({ id }) => id === storeId);
  const query = new URLSearchParams({ store: storeId, variant: key, cause }).toString();
  const path = `/products/${data.product.id}/shown-prices?${query}`;
  const {
    data: pages,
    error,
    dataUpdatedAt,
    hasNextPage,
    fetchNextPage,
  } = useInfiniteQuery(
    {
      queryKey: ['listing', data.product.id, 'shown-prices', query],
      queryFn: ({ pageParam }) => call<Page>('GET', pageParam === null ? path : `${path}&before=${pageParam}`),
      initialPageParam: null as number | null,
      getNextPageParam: ({ before }) => before,
      enabled: store !== undefined && key !== '',
      meta: { topics: ['product'] },
    },
    queries(),
  );
  if (!store || !key) return null;
  const prices = pages?.pages.flatMap((page) => page.prices);
  return (
    <section className="mb-6">
      <h3 className="text-small font-medium mb-1">What buyers saw, {store.currency}</h3>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-2">
        {data.stores.length > 1 && (
          <Select
            label="In"
            value={storeId}
            choices={data.stores.map(({ id, name }) => ({ value: id, name }))}
            onChange={setStore}
          />
        )}
        <Select
          label="Variant"
          value={key}
          choices={keys.map((one) => ({ value: one, name: offerName(data.blank, doc, one) }))}
          onChange={setKey}
        />
        <Select
          label="What had changed"
          value={cause}
          choices={[{ value: ALL, name: 'anything' }, ...CAUSE_CHOICES]}
          onChange={setCause}
        />
      </div>
      {error ? (
        <Alert>{error.message}</Alert>
      ) : !prices ? (
        <p className="text-muted">Loading …</p>
      ) : prices.length === 0 ? (
        <p className="text-muted">
          {cause === ALL
            ? `${store.name} shows no price of this yet. Each price that it shows is kept from its first sending on, as long as the product.`
            : 'No price of this was moved by that.'}
        </p>
      ) : (
        <>
          {cause === ALL && <Drawn prices={prices} readAtMs={dataUpdatedAt} currency={store.currency} />}
          <Points prices={prices} />
          {hasNextPage && (
            <Button className="mt-2" onClick={() => void fetchNextPage()}>
              Older prices
            </Button>
          )}
        </>
      )}
    </section>
  );
}

/** The price over time, as steps; beside it the price to compare with while there was one. */
function Drawn({ prices, readAtMs, currency }: { prices: readonly ShownPoint[]; readAtMs: number; currency: string }) {
  const drawn = drawnPrices(prices, readAtMs);
  const short = drawn.at(-1)!.atMs - drawn[0]!.atMs < 2 * DAY_MS;
  const told = (value: unknown) => `${Number(value).toFixed(2)} ${currency}`;
  const said = prices
    .map(({ priceMinor, at }) => `${dayAndTime(at)}: ${amount(priceMinor, currency)}`)
    .toReversed()
    .join('; ');
  return (
    <div className="h-44 bg-sheet border border-hairline p-2 mb-2" role="img" aria-label={said}>
      <ResponsiveContainer>
        <LineChart data={drawn} margin={{ left: 0, right: 16, top: 8 }}>
          <CartesianGrid stroke="var(--color-hairline)" vertical={false} />
          <XAxis
            type="number"
            dataKey="atMs"
            scale="time"
            domain={['dataMin', 'dataMax']}
            {...AXIS}
            tickFormatter={tick(short)}
            minTickGap={40}
          />
          <YAxis {...AXIS} width={40} domain={['auto', 'auto']} />
          <Tooltip formatter={told} labelFormatter={(at) => `from ${dayAndTime(Number(at))}`} contentStyle={TIP} />
          <Line
            type="stepAfter"
            dataKey="compareAt"
            name="Compared with"
            stroke="var(--color-muted)"
            strokeDasharray="4 3"
            dot={false}
            {...STILL}
          />
          <Line
            type="stepAfter"
            dataKey="price"
            name="Price"
            stroke="var(--color-ink)"
            strokeWidth={1.8}
            dot={{ r: 2.5, fill: 'var(--color-ink)' }}
            {...STILL}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}

function Points({ prices }: { prices: readonly ShownPoint[] }) {
  return (
    <table className="w-full text-small bg-sheet border-y border-hairline">
      <TableHead
        className="border-b border-hairline"
        columns={[
          ['Since', 'py-1.5 pl-2'],
          ['Price', 'text-right pr-6'],
          ['Compared with', 'text-right pr-6'],
          'What had changed',
          'Who',
        ]}
      />
      <tbody>
        {prices.map(({ id, at, priceMinor, compareAtMinor, currency, causes, by }) => (
          <tr key={id} className="border-b border-hairline">
            <td className="py-1 pl-2 whitespace-nowrap">{dayAndTime(at)}</td>
            <td className="text-right pr-6 tabular-nums">{amount(priceMinor, currency)}</td>
            <td className="text-right pr-6 tabular-nums text-muted">{amount(compareAtMinor, currency)}</td>
            <td>{causeText(causes)}</td>
            <td className="text-muted">{by ?? '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
