'use client';

import { countryName } from '@/core/country-names';
import { formatAmount, formatMoney, money } from '@/core/pricing/money';
import type { BundleSums } from './bundles-view';

/** `24.00`, or `24.00 – 31.50`. */
const spanText = ([least, most]: readonly [number, number], currency: string): string =>
  [...new Set([least, most])].map((minor) => formatAmount(money(minor, currency))).join(' – ');

/** `Ebb tee and 2 × Tide mug from Marsh & Wick, sent from GB: 5.20 GBP`. */
const parcelText = ({ goods, partnerName, from, shipping }: BundleSums['parcels'][number]): string =>
  `${goods.join(' and ')} from ${partnerName}, sent from ${countryName(from)}: ${formatMoney(shipping)}`;

interface Cell {
  readonly head: string;
  readonly value: string;
  readonly note?: string;
  readonly tone?: string;
}

function cellsOf(sums: BundleSums): Cell[] {
  const { currency, floorMinor, floorCountries: countries } = sums;
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const paid = (minor: number) => (minor > 0 ? `+ ${amount(minor)} shipping` : 'shipping in it');
  return [
    { head: 'Price', value: spanText(sums.price, currency), note: paid(sums.shippingPaidMinor) },
    {
      head: 'Bought apart',
      value: sums.apart ? spanText(sums.apart.price, currency) : '–',
      note: sums.apart ? paid(sums.apart.shippingPaidMinor) : 'one has no price here',
      tone: 'text-muted',
    },
    { head: 'Making', value: spanText(sums.making, currency) },
    { head: 'Shipping', value: amount(sums.shippingMinor), note: `to ${countryName(sums.country)}` },
    { head: 'Left', value: spanText(sums.left, currency), tone: sums.left[0] < 0 ? 'text-stop' : '' },
    {
      head: 'Floor',
      value: floorMinor === null ? 'none' : amount(floorMinor),
      note:
        countries.length > 0
          ? `because of ${countryName(countries[0]!)}${countries.length > 1 ? ` and ${countries.length - 1} more` : ''}`
          : undefined,
    },
  ];
}

/** What a bundle comes to: its price beside what all of it costs bought apart, what it costs, its parcels, what is left and its floor. */
export function Sums({ sums }: { sums: BundleSums }) {
  const { currency, parcels, losing } = sums;
  const cells = cellsOf(sums);
  return (
    <>
      <table className="w-full bg-sheet border-y border-hairline mt-2">
        <thead className="text-muted border-b border-hairline text-right">
          <tr>
            {cells.map(({ head }) => (
              <th key={head} className="font-normal py-1 px-2">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr className="text-right align-top">
            {cells.map(({ head, value, note, tone = '' }) => (
              <td key={head} className="py-1 px-2">
                <span className={`tabular-nums whitespace-nowrap ${tone}`}>{value}</span>
                {note && <span className="block text-tiny text-muted">{note}</span>}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-1">
        In {currency}. {parcels.length === 1 ? 'One parcel' : `${parcels.length} parcels`}:{' '}
        {parcels.map(parcelText).join('; ')}.
      </p>
      {losing > 0 && (
        <p className="text-stop mt-1">
          {losing === 1 ? 'One variant loses' : `${losing} variants lose`} money to a country in this bundle: raise its
          price to its floor, or do not sell it there.
        </p>
      )}
    </>
  );
}
