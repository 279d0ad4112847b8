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
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { AXIS, STILL, TIP } from './chart-look';
import { costBars, profitCurve } from './charts';
import { usePrices } from './priced';
import { tierRows } from './prices';

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
  const { currency } = world.outlet;
  const rows = tierRows(doc, data.blank, data.list, priced);
  const [tierId, setTier] = useState<string | null>(null);
  const row = rows.find((one) => one.id === tierId) ?? rows[0];
  const one = priced.find(({ key }) => key === row?.variantKeys[0]);
  if (!row || !one) return <p className="text-muted">There is nothing to draw yet: choose colors and sizes first.</p>;
  const bars = costBars(rows, priced);
  const curve = profitCurve(one, world.outlet.aimsAt);
  const told = (value: unknown) => `${Number(value).toFixed(2)} ${currency}`.replace('-', '−');
  const used = PARTS.filter(([part]) => bars.some((bar) => bar[part] !== 0));
  return (
    <div className="grid grid-cols-1 gap-5 xl:grid-cols-2">
      <figure>
        <figcaption className="text-small font-medium mb-1">From cost to what the buyer pays, {currency}</figcaption>
        <div className="h-60 bg-sheet border border-hairline p-2" role="img" aria-label={barsText(bars, currency)}>
          <ResponsiveContainer>
            <BarChart data={bars} layout="vertical" stackOffset="sign" margin={{ left: 8, right: 12 }}>
              <CartesianGrid horizontal={false} stroke="var(--color-hairline)" />
              <XAxis type="number" {...AXIS} />
              <YAxis type="category" dataKey="name" width={72} {...AXIS} />
              <Tooltip formatter={told} contentStyle={TIP} cursor={{ fill: 'var(--color-selection)' }} />
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
      <figure>
        <figcaption className="flex items-baseline justify-between gap-3 text-small font-medium mb-1">
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
            <LineChart data={[...curve.points]} margin={{ left: 0, right: 16, top: 18 }}>
              <CartesianGrid stroke="var(--color-hairline)" />
              <XAxis
                type="number"
                dataKey="price"
                domain={['dataMin', 'dataMax']}
                {...AXIS}
                tickFormatter={(v: number) => v.toFixed(0)}
              />
              <YAxis {...AXIS} width={40} />
              <Tooltip formatter={told} labelFormatter={(value) => `at ${told(value)}`} contentStyle={TIP} />
              <ReferenceLine y={0} stroke="var(--color-ink)" />
              {curve.floor !== null && <Marked x={curve.floor} name="floor" color="var(--color-stop)" />}
              {curve.aim !== null && <Marked x={curve.aim} name="aim" color="var(--color-caution)" />}
              <Marked x={curve.price} name="price" color="var(--color-kept)" low />
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
    </div>
  );
}

/** A line at a price, with its name. */
function Marked({ x, name, color, low = false }: { x: number; name: string; color: string; low?: boolean }) {
  return (
    <ReferenceLine
      x={x}
      stroke={color}
      strokeDasharray="4 3"
      label={{ value: name, position: low ? 'insideBottomRight' : 'top', fill: color, fontSize: 11 }}
    />
  );
}

const barsText = (bars: ReturnType<typeof costBars>, currency: string): string =>
  bars
    .map(
      (bar) =>
        `${bar.name}: making ${bar.making.toFixed(2)}, shipping ${bar.shipping.toFixed(2)}, store ${bar.fees.toFixed(2)}, left ${bar.left.toFixed(2)} ${currency}`,
    )
    .join('; ');
