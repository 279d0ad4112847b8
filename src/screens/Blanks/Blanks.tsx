'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { formatMoney, money } from '@/core/pricing/money';
import { RateTable } from '@/core/pricing/rates';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Swatch } from '@/ui/Mark';
import { Select } from '@/ui/Select';
import { countryName, destinationChoices } from '../countries';
import type { BlanksData } from './load';
import { blankRows, sortRows, type BlankRow, type SortKey } from './view';

/** All blanks with what each really costs at the buyer's door. */
export function Blanks({ blanks, exchangeRates, currency, country: home }: BlanksData) {
  const router = useRouter();
  const [country, setCountry] = useState(home);
  const [sort, setSort] = useState<{ key: SortKey; descending: boolean }>({ key: 'landedMinor', descending: false });
  const [making, setMaking] = useState<string | null>(null);
  const rates = useMemo(() => new RateTable(exchangeRates), [exchangeRates]);
  const rows = useMemo(
    () => sortRows(blankRows(blanks, rates, currency, country), sort.key, sort.descending),
    [blanks, rates, currency, country, sort],
  );
  const make = async (row: BlankRow) => {
    setMaking(row.id);
    try {
      const { id } = await call<{ id: string }>('POST', '/products', { blankId: row.id });
      router.push(`/products/${id}`);
    } catch (problem) {
      toast(`No product was made. ${(problem as Error).message}`);
      setMaking(null);
    }
  };
  const head = (key: SortKey, label: string, right = false) => (
    <th
      className={`font-normal py-2 ${right ? 'text-right' : ''}`}
      aria-sort={sort.key === key ? (sort.descending ? 'descending' : 'ascending') : 'none'}
    >
      <button
        type="button"
        className="hover:text-ink"
        onClick={() => setSort({ key, descending: sort.key === key && !sort.descending })}
      >
        {label}
        <span aria-hidden>{sort.key === key ? (sort.descending ? ' ↓' : ' ↑') : ''}</span>
      </button>
    </th>
  );
  return (
    <div className="px-8 py-6">
      <div className="flex items-baseline gap-8 mb-4">
        <h1 className="font-display text-[24px] font-semibold">Blanks</h1>
        <Select label="Landed cost to" value={country} choices={destinationChoices(home)} onChange={setCountry} />
      </div>
      {rows.length === 0 ? (
        <p className="text-muted max-w-lg">
          This is where unprinted goods are compared by what they cost at the buyer’s door. No partner’s catalog is
          loaded yet: run <code className="font-mono">npm run catalog</code> in the project’s folder.
        </p>
      ) : (
        <table className="w-full text-small">
          <thead className="text-left text-muted border-y border-hairline">
            <tr>
              <th className="w-[86px]" aria-label="Picture" />
              {head('name', 'Blank')}
              {head('partner', 'Print partner')}
              <th className="font-normal">Colors</th>
              <th className="font-normal">Sizes</th>
              <th className="font-normal">Print areas</th>
              <th className="font-normal">Making</th>
              {head('costMinor', 'From', true)}
              {head('landedMinor', `Landed, ${countryName(country)}`, true)}
              <th aria-label="Actions" />
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id} className="border-b border-hairline align-middle">
                <td className="py-1.5">
                  <img
                    src={`/api/v1/blanks/${row.id}/picture${row.firstColor ? `?color=${row.firstColor}` : ''}`}
                    alt=""
                    width={68}
                    height={68}
                    className="rounded-paper border border-hairline size-[68px] object-cover"
                  />
                </td>
                <td>
                  <span className="text-base font-semibold block">{row.name}</span>
                  <span className="block text-muted">{row.technique}</span>
                </td>
                <td>
                  {row.partner}
                  <span className="block text-muted">from {countryName(row.from)}</span>
                </td>
                <td>
                  {row.colors.length === 0 ? (
                    <span className="text-muted">one</span>
                  ) : (
                    <span className="inline-flex gap-1">
                      {row.colors.map((color) => (
                        <Swatch key={color.code} hex={color.hex} name={color.name} />
                      ))}
                    </span>
                  )}
                </td>
                <td>{row.sizes}</td>
                <td className="font-mono text-tiny">
                  {row.areas.map((area) => (
                    <span key={area} className="block">
                      {area}
                    </span>
                  ))}
                </td>
                <td>{row.makingDays}</td>
                <td className="text-right">{formatMoney(money(row.costMinor, currency))}</td>
                <td className="text-right">
                  <span className="font-semibold">
                    {row.landedMinor === null ? '–' : formatMoney(money(row.landedMinor, currency))}
                  </span>
                  <span className="block text-muted">{row.shipping}</span>
                </td>
                <td className="text-right pl-6">
                  <Button onClick={() => void make(row)} disabled={making !== null}>
                    {making === row.id ? 'Making …' : 'Make a product'}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
