'use client';

import { useState } from 'react';
import type { Blank } from '@/core/catalog/blank';
import { sizeTable } from '@/core/catalog/size-guide';

/** The size guide in one unit at a time; nothing for a blank that has none. */
export function SizeGuide({ blank }: { blank: Blank }) {
  const [unit, setUnit] = useState<'cm' | 'inches'>('cm');
  const table = sizeTable(blank);
  if (!table) return null;
  return (
    <table className="text-small">
      <caption className="text-left pb-1.5">
        <span className="text-muted">
          {blank.sizeGuide?.of === 'body'
            ? 'Measured on the body'
            : 'Measured on the good laid flat, where it does not say otherwise'}
          , in
        </span>{' '}
        {(['cm', 'inches'] as const).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={unit === one}
            onClick={() => setUnit(one)}
            className={`min-h-6 px-1 ${unit === one ? 'font-semibold underline underline-offset-4' : 'text-muted hover:text-ink'}`}
          >
            {one}
          </button>
        ))}
      </caption>
      <thead>
        <tr className="border-y border-hairline text-muted">
          <th className="font-normal text-left py-1 pr-8">Measure</th>
          {table.rows.map((row) => (
            <th key={row.size} className="font-normal text-right min-w-14 pl-3">
              {row.size}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.measures.map((measure, i) => (
          <tr key={measure} className="border-b border-hairline">
            <th className="font-normal text-left py-1 pr-8">{measure}</th>
            {table.rows.map((row) => (
              <td key={row.size} className="text-right pl-3">
                {row[unit][i] ?? '–'}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
