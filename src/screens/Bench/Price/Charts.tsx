'use client';

import { useState } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { countryName } from '@/core/country-names';
import { formatAmount, money } from '@/core/pricing/money';
import type { Outlet } from '@/core/pricing/outlet';
import type { PricedVariant } from '@/core/pricing/pricer';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { AXIS, STILL, TIP } from './chart-look';
import { costBars, marksApart, niceTicks, profitCurve } from './charts';
import { usePrices } from './priced';
import { tierRows, type TierRow } from './prices';

const PARTS = [
  ['making', 'Making', 'var(--color-ink)'],
  ['shipping', 'Shipping', 'var(--color-muted)'],
  ['tax', 'Tax', 'var(--color-caution)'],
  ['fees', 'Store takes', 'var(--color-primary)'],
  ['left', 'Left', 'var(--color-kept)'],
] as const;

/** What each tier's price is made of, and how profit follows the price of one. */
export function Charts({ store }: { store: BenchStore | null }) {
  const { data, doc } = useDesk('data', 'doc');
  const { pricesAt } = usePrices();
  const { priced, world } = pricesAt(store);
  const rows = tierRows(doc, data.blank, data.list, priced);
  if (rows.length === 0)
    return <p className="text-muted">There is nothing to draw yet: choose colors and sizes first.</p>;
  return (
    <div className="grid grid-cols-1 gap-5 xl:grid-cols-2">
      <CostFigure rows={rows} priced={priced} currency={world.outlet.currency} />
      <ProfitFigure rows={rows} priced={priced} outlet={world.outlet} />
    </div>
  );
}

interface FigureProps {
  readonly rows: readonly TierRow[];
  readonly priced: readonly PricedVariant[];
}

const amountIn = (currency: string) => (value: unknown) => `${Number(value).toFixed(2)} ${currency}`.replace('-', '−');

function CostFigure({ rows, priced, currency }: FigureProps & { currency: string }) {
  const bars = costBars(rows, priced);
  const used = PARTS.filter(([part]) => bars.some((bar) => bar[part] !== 0));
  const sums = bars.map((bar) => used.reduce((sum, [part]) => sum + Math.max(0, bar[part]), 0));
  const ticks = niceTicks(Math.min(0, ...bars.map(({ left }) => left)), Math.max(...sums));
  return (
    <figure>
      <figcaption className="mb-1 flex min-h-7 items-end text-small font-medium">
        From cost to what the buyer pays, {currency}
      </figcaption>
      <div className="h-60 bg-sheet border border-hairline p-2" role="img" aria-label={barsText(bars, currency)}>
        <ResponsiveContainer>
          <BarChart data={bars} layout="vertical" stackOffset="sign" margin={{ left: 8, right: 12 }}>
            <CartesianGrid horizontal={false} stroke="var(--color-hairline)" />
            <XAxis type="number" ticks={ticks} domain={[ticks[0]!, ticks.at(-1)!]} {...AXIS} />
            <YAxis type="category" dataKey="name" width={72} {...AXIS} />
            <Tooltip formatter={amountIn(currency)} contentStyle={TIP} cursor={{ fill: 'var(--color-selection)' }} />
            {used.map(([part, name, color]) => (
              <Bar key={part} dataKey={part} name={name} stackId="price" fill={color} barSize={20} {...STILL} />
            ))}
          </BarChart>
        </ResponsiveContainer>
      </div>
      <ul className="flex flex-wrap gap-x-4 text-tiny mt-1">
        {used.map(([part, name, color]) => (
          <li key={part} className="inline-flex items-center gap-1.5">
            <span aria-hidden className="inline-block size-2.5" style={{ background: color }} />
            {name}
          </li>
        ))}
      </ul>
    </figure>
  );
}

const MARKS = { floor: 'var(--color-stop)', aim: 'var(--color-caution)', price: 'var(--color-kept)' } as const;

function ProfitFigure({ rows, priced, outlet: { currency, aimsAt } }: FigureProps & { outlet: Outlet }) {
  const [tierId, setTier] = useState<string | null>(null);
  const row = rows.find((one) => one.id === tierId) ?? rows[0]!;
  const one = priced.find(({ key }) => key === row.variantKeys[0])!;
  const { points, ...at } = profitCurve(one, aimsAt);
  const prices = niceTicks(points[0]!.price, points.at(-1)!.price);
  const profits = points.map(({ profit }) => profit);
  const left = niceTicks(Math.min(0, ...profits), Math.max(...profits));
  const span = prices.at(-1)! - prices[0]!;
  const marks = marksApart(
    (['floor', 'aim', 'price'] as const).flatMap((name) =>
      at[name] === null ? [] : [{ name, at: at[name], color: MARKS[name] }],
    ),
    span * 0.06,
  );
  const told = amountIn(currency);
  return (
    <figure>
      <figcaption className="mb-1 flex min-h-7 items-end justify-between gap-3 text-small font-medium">
        <span>What is left by the price, {currency}</span>
        {rows.length > 1 && (
          <Select
            label="Tier"
            quiet
            value={row.id}
            choices={rows.map(({ id, name }) => ({ value: id, name }))}
            onChange={setTier}
          />
        )}
      </figcaption>
      <div
        className="h-60 bg-sheet border border-hairline p-2"
        role="img"
        aria-label={`Profit of ${row.name}: ${row.profit} ${currency} at ${row.retail}; its floor is ${row.floor}.`}
      >
        <ResponsiveContainer>
          <LineChart data={[...points]} margin={{ left: 0, right: 16, top: 18 }}>
            <CartesianGrid stroke="var(--color-hairline)" />
            <XAxis
              type="number"
              dataKey="price"
              ticks={prices}
              domain={[prices[0]!, prices.at(-1)!]}
              allowDataOverflow
              {...AXIS}
            />
            <YAxis ticks={left} domain={[left[0]!, left.at(-1)!]} {...AXIS} width={40} />
            <Tooltip formatter={told} labelFormatter={(value) => `at ${told(value)}`} contentStyle={TIP} />
            <ReferenceLine y={0} stroke="var(--color-ink)" />
            {marks.map(({ at: x, names, color }) => (
              <ReferenceLine
                key={names}
                x={x}
                stroke={color}
                strokeDasharray="4 3"
                label={{ value: names, position: 'top', fill: color, fontSize: 11 }}
              />
            ))}
            <Line dataKey="profit" name="Left" stroke="var(--color-ink)" strokeWidth={1.6} dot={false} {...STILL} />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <p className="text-tiny text-muted mt-1">
        To the destination that leaves least at each price. Floor {row.floor}
        {row.floorWhy && ` (${row.floorWhy})`}, price {row.retail}, left{' '}
        {formatAmount(money(one.quote.profitMinor, currency))} to {countryName(one.country)}. A step down is where
        shipping becomes free.
      </p>
    </figure>
  );
}

const barsText = (bars: ReturnType<typeof costBars>, currency: string): string =>
  bars
    .map(
      (bar) =>
        `${bar.name}: making ${bar.making.toFixed(2)}, shipping ${bar.shipping.toFixed(2)}, store ${bar.fees.toFixed(2)}, left ${bar.left.toFixed(2)} ${currency}`,
    )
    .join('; ');
