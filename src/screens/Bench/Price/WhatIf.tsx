'use client';

import { useState } from 'react';
import { countryName } from '@/core/country-names';
import { formatAmount, formatPercent, money, parsePercentPpm } from '@/core/pricing/money';
import { deepestSale, largestVoucherMinor } from '@/core/pricing/sale';
import type { PricedVariant } from '@/core/pricing/pricer';
import { whatIf, type WhatIf as Change } from '@/core/pricing/what-if';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { usePrices } from './priced';
import { tierRows } from './prices';

const NOTHING: Change = { costPpm: 0, ratePpm: 0, salePpm: 0 };
const TRIED: readonly (readonly [string, Partial<Change>])[] = [
  ['Costs +8 %', { costPpm: 80_000 }],
  ['Rate −5 %', { ratePpm: -50_000 }],
  ['A sale of 20 %', { salePpm: 200_000 }],
];

/** What would be left of today's prices if costs, the rate or the price changed: all tiers beside today, and how deep a sale may go. */
export function WhatIf({ store }: { store: BenchStore | null }) {
  const { data, doc } = useDesk('data', 'doc');
  const { priced, world } = usePrices().pricesAt(store);
  const { currency } = world.outlet;
  const [change, setChange] = useState<Change>({ ...NOTHING, costPpm: 80_000 });
  const [keepPpm, setKeep] = useState(0);
  const foreign = data.list.currency === currency ? null : data.list.currency;
  return (
    <div>
      <Tried change={change} setChange={setChange} currency={currency} foreign={foreign} />
      <table className="w-full text-small bg-sheet border-y border-hairline">
        <thead className="text-muted border-b border-hairline">
          <tr>
            <th className="font-normal text-left py-2 pl-2">Tier</th>
            <th className="font-normal text-right">Price, {currency}</th>
            <th className="font-normal text-right pl-4">Left today</th>
            <th className="font-normal text-right pl-4">Left then</th>
            <th className="font-normal text-right pl-4">Change</th>
            <th className="font-normal text-right px-4 whitespace-nowrap">
              <EntryField
                label="Deepest sale at"
                width="w-10"
                text={`${keepPpm / 10_000}`}
                read={(typed) => {
                  const ppm = parsePercentPpm(typed);
                  if (ppm < 0 || ppm >= 1_000_000) throw new Error('A margin to be kept lies from 0 % to below 100 %.');
                  setKeep(ppm);
                }}
              />{' '}
              % margin
            </th>
            <th className="font-normal text-right pr-2 whitespace-nowrap">Voucher up to</th>
          </tr>
        </thead>
        <tbody>
          {tierRows(doc, data.blank, data.list, priced).map((row) => (
            <Line
              key={row.id}
              row={row}
              one={priced.find(({ key }) => key === row.variantKeys[0])!}
              change={change}
              keepPpm={keepPpm}
              currency={currency}
            />
          ))}
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-2">
        Prices stay as they are today; nothing is changed. Each line is one item of the tier’s first variant, to the
        destination that would leave least. The deepest sale, or code of a share, and the largest voucher on one item
        keep that margin to every destination.
      </p>
    </div>
  );
}

interface Asked {
  readonly name: keyof Change;
  readonly label: string;
  readonly leastPpm: number;
  readonly mostPpm: number;
  readonly hint: string;
}

/** The fields of what is tried, and some that are tried often. */
function Tried({
  change,
  setChange,
  currency,
  foreign,
}: {
  change: Change;
  setChange: (change: Change) => void;
  currency: string;
  /** Currency of the partner where it is another. */
  foreign: string | null;
}) {
  const asked: readonly Asked[] = [
    {
      name: 'costPpm',
      label: 'Costs',
      leastPpm: -900_000,
      mostPpm: 9_000_000,
      hint: 'All of the partner’s sums: making and shipping',
    },
    ...(foreign === null
      ? []
      : [
          {
            name: 'ratePpm',
            label: 'Rate',
            leastPpm: -900_000,
            mostPpm: 9_000_000,
            hint: `What ${currency} buys of ${foreign}`,
          } as const,
        ]),
    { name: 'salePpm', label: 'Sale', leastPpm: 0, mostPpm: 1_000_000, hint: 'Taken off every price' },
  ];
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 mb-3">
      {asked.map((one) => (
        <AskedField
          key={one.name}
          asked={one}
          ppm={change[one.name]}
          put={(ppm) => setChange({ ...change, [one.name]: ppm })}
        />
      ))}
      <span className="flex gap-3">
        {TRIED.filter(([, part]) => foreign !== null || part.ratePpm === undefined).map(([name, part]) => (
          <Button key={name} kind="quiet" onClick={() => setChange({ ...NOTHING, ...part })}>
            {name}
          </Button>
        ))}
      </span>
    </div>
  );
}

function AskedField({ asked, ppm, put }: { asked: Asked; ppm: number; put: (ppm: number) => void }) {
  const { label, leastPpm, mostPpm, hint } = asked;
  return (
    <span className="inline-flex items-baseline gap-1" title={hint}>
      <EntryField
        label={label}
        width="w-14"
        text={`${ppm / 10_000}`.replace('-', '−')}
        read={(typed) => {
          const read = parsePercentPpm(typed.replace('−', '-'));
          if (read < leastPpm || read > mostPpm)
            throw new Error(`From ${formatPercent(leastPpm, 0)} to ${formatPercent(mostPpm, 0)} can be entered.`);
          put(read);
        }}
      />
      <span className="text-muted text-small">%</span>
    </span>
  );
}

function Line({
  row,
  one,
  change,
  keepPpm,
  currency,
}: {
  row: ReturnType<typeof tierRows>[number];
  /** The tier's first variant. */
  one: PricedVariant;
  change: Change;
  keepPpm: number;
  currency: string;
}) {
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const share = (ppm: number | null) => (ppm === null ? '–' : formatPercent(ppm));
  const { country, today, then } = whatIf(one.to, one.retailMinor, change);
  const orders = one.to.map(({ terms }) => terms);
  const keep = { kind: 'margin', ppm: keepPpm } as const;
  const sale = deepestSale(orders, one.retailMinor, keep);
  const voucher = largestVoucherMinor(orders, one.retailMinor, keep);
  return (
    <tr className="border-b border-hairline">
      <td className="py-1.5 pl-2 font-semibold">
        {row.name}
        {one.to.length > 1 && <span className="block text-tiny font-normal text-muted">to {countryName(country)}</span>}
      </td>
      <td className="text-right">
        {row.retail}
        {change.salePpm > 0 && (
          <span className="block text-tiny text-muted">{amount(then.itemsMinor)} in the sale</span>
        )}
      </td>
      <td className="text-right">
        {amount(today.profitMinor)}
        <span className="block text-tiny text-muted">{share(today.marginPpm)}</span>
      </td>
      <td className={`text-right font-semibold ${then.profitMinor < 0 ? 'text-stop' : ''}`}>
        {amount(then.profitMinor)}
        <span className="block text-tiny font-normal">
          {then.profitMinor < 0 ? 'a loss' : <span className="text-muted">{share(then.marginPpm)}</span>}
        </span>
      </td>
      <td className="text-right">{amount(then.profitMinor - today.profitMinor)}</td>
      <td className="text-right px-4">
        {sale ? `${formatPercent(sale.salePpm)} → ${amount(sale.priceMinor)}` : 'none'}
      </td>
      <td className="text-right pr-2">{voucher === null ? 'none' : amount(voucher)}</td>
    </tr>
  );
}
