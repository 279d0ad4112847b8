'use client';

import { printSizePx, TECHNIQUE_NAMES } from '@/core/geometry/area';
import { shippingTo } from '@/core/catalog/blank';
import { formatAmount, money } from '@/core/pricing/money';
import { countryName } from '../../countries';
import { useDesk } from '../desk';

/** What the product is made on: its facts, the exact size of each print area, and what the partner takes. */
export function BlankPart() {
  const { data, country } = useDesk();
  const { blank, list } = data;
  const line = shippingTo(list, country);
  const used = (key: string) => Object.keys(list.baseCostMinor).includes(key);
  const costs = [...new Set(blank.variants.filter((v) => used(v.key)).map((v) => list.baseCostMinor[v.key]!))].sort(
    (a, b) => a - b,
  );
  const names = (applies: { readonly [option: string]: readonly string[] }) =>
    Object.entries(applies)
      .map(([code, values]) =>
        blank.options
          .find((o) => o.code === code)
          ?.values.filter((v) => values.includes(v.code))
          .map((v) => v.name)
          .join(', '),
      )
      .join('; ') || 'all others';
  return (
    <div className="px-7 py-5 max-w-3xl">
      <h2 className="font-display text-[20px] font-semibold">{blank.name}</h2>
      <p className="text-muted mb-4">
        {blank.partner.name}, {countryName(blank.partner.country)} · made in {blank.makingDays.min}–
        {blank.makingDays.max} days
      </p>
      <p className="mb-4">{blank.description}</p>
      <dl className="grid grid-cols-[130px_1fr] gap-y-1 mb-6 text-small">
        {Object.entries(blank.facts).map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <h3 className="font-display text-[16px] mb-1.5">Print areas</h3>
      <table className="w-full text-small mb-6">
        <thead className="text-left text-muted border-y border-hairline">
          <tr>
            <th className="font-normal py-1.5">Area</th>
            <th className="font-normal">For</th>
            <th className="font-normal">Technique</th>
            <th className="font-normal text-right">Millimeters</th>
            <th className="font-normal text-right">Pixels of the file</th>
            <th className="font-normal text-right">DPI</th>
          </tr>
        </thead>
        <tbody>
          {blank.areas.flatMap((area) =>
            area.geometries.map((entry, i) => {
              const g = blank.geometries[entry.geometryId]!;
              const { widthPx, heightPx } = printSizePx(g);
              return (
                <tr key={`${area.key}/${entry.geometryId}/${i}`} className="border-b border-hairline">
                  <td className="py-1.5">{i === 0 ? area.name : '\u00a0'}</td>
                  <td>{names(entry.applies)}</td>
                  <td>{TECHNIQUE_NAMES[g.technique]}</td>
                  <td className="text-right">
                    {g.widthMm} × {g.heightMm}
                    {g.bleedMm > 0 ? ` + ${g.bleedMm} bleed` : ''}
                  </td>
                  <td className="text-right font-mono">
                    {widthPx} × {heightPx}
                  </td>
                  <td className="text-right">{g.dpi}</td>
                </tr>
              );
            }),
          )}
        </tbody>
      </table>
      <h3 className="font-display text-[16px] mb-1.5">What the partner takes</h3>
      <ul className="text-small border-t border-hairline">
        <li className="border-b border-hairline py-1.5 flex justify-between">
          <span>Base cost, one printed area included</span>
          <span>
            {[...new Set([costs[0]!, costs.at(-1)!])].map((c) => formatAmount(money(c, list.currency))).join(' – ')}{' '}
            {list.currency}
          </span>
        </li>
        {blank.areas.length > 1 && (
          <li className="border-b border-hairline py-1.5 flex justify-between">
            <span>Each further area</span>
            <span>
              {formatAmount(money(Math.max(...Object.values(list.extraAreaMinor)), list.currency))} {list.currency}
            </span>
          </li>
        )}
        <li className="border-b border-hairline py-1.5 flex justify-between">
          <span>Shipping to {countryName(country)}</span>
          <span>
            {line
              ? `first ${formatAmount(money(line.firstMinor, list.currency))}, each further ${formatAmount(money(line.furtherMinor, list.currency))} ${list.currency}, ${line.daysMin}–${line.daysMax} days`
              : 'not sent there'}
          </span>
        </li>
      </ul>
      <p className="text-tiny text-muted mt-2">Price list of {list.validFrom}.</p>
    </div>
  );
}
