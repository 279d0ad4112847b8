'use client';

import Link from 'next/link';
import { useState } from 'react';
import { isWhole, rangeParameters, WHOLE_RANGE } from '@/core/range';
import { Alert } from '@/ui/Alert';
import { useColumns } from './columns';
import { Head } from './Head';
import type { RangeData } from './load';
import { RangeFilters } from './RangeFilters';
import { RangeGrid } from './RangeGrid';
import { SelectionBar } from './SelectionBar';
import { useRange, type RangeState } from './use-range';
import { useSelection } from './use-selection';

/** Products down, stores across; a cell is where a product stands in a store. */
export function Range(data: RangeData) {
  const range = useRange(data);
  const columns = useColumns(data.stores);
  const selection = useSelection(range.rows, columns.stores, rangeParameters(range.query.filter).toString());
  const [filters, setFilters] = useState(false);
  const isEmpty = range.rows.length === 0 && !range.waiting;
  return (
    <div className="flex h-full flex-col max-[900px]:min-h-[520px]">
      <Head range={range} />
      {range.problem && <Alert className="mx-[18px] mb-2">{range.problem}</Alert>}
      <p className="hidden px-[18px] pb-1 text-small max-[900px]:block">
        <button
          type="button"
          className="min-h-6 text-primary underline"
          aria-expanded={filters}
          onClick={() => setFilters(!filters)}
        >
          {filters ? 'Hide the filters' : 'Show the filters'}
        </button>
      </p>
      <div className="flex min-h-0 flex-1 border-t border-hairline max-[900px]:flex-col">
        <div
          className={`w-[204px] shrink-0 overflow-auto border-r border-hairline px-[18px] pt-1 pb-4 max-[900px]:max-h-[40vh] max-[900px]:w-full ${filters ? '' : 'max-[900px]:hidden'}`}
        >
          <RangeFilters range={range} stores={data.stores} />
        </div>
        <div className="flex min-w-0 flex-1 flex-col max-[900px]:min-h-[360px]">
          {isEmpty ? <Nothing range={range} /> : <RangeGrid range={range} columns={columns} selection={selection} />}
          {data.stores.length === 0 && (
            <p className="border-t border-hairline px-[18px] py-2 text-small">
              <Link className="text-primary underline" href="/stores">
                Connect a store
              </Link>{' '}
              <span className="text-muted">to see here where each product stands in it.</span>
            </p>
          )}
        </div>
      </div>
      {/* Below the rows: above them it would move them from under the pointer that chooses. */}
      <SelectionBar range={range} stores={columns.stores} selection={selection} />
    </div>
  );
}

const STEPS = [
  ['/blanks', 'Choose a blank', 'what you print on: a shirt, a mug, a poster'],
  ['/artwork', 'Upload artwork', 'PNG, JPEG, WebP or SVG'],
  ['/stores', 'Connect a store', 'where your products are sold'],
] as const;

/** What an empty range is for, and the next step; or that nothing is found, and the way back. */
function Nothing({ range: { query, change } }: { range: RangeState }) {
  if (!isWhole(query.filter))
    return (
      <p className="max-w-lg p-8 text-muted">
        No product is all of this. Words are looked for in titles, and at the beginning of SKUs.{' '}
        <button type="button" className="text-primary underline" onClick={() => change(WHOLE_RANGE)}>
          Show all
        </button>
      </p>
    );
  return (
    <div className="max-w-2xl px-8 py-4">
      <p className="py-3 text-muted">
        This is where all your products stand against all your stores. None is here yet. Begin with any of these:
      </p>
      <ol>
        {STEPS.map(([href, name, says]) => (
          <li key={href} className="flex items-baseline gap-4 border-t border-hairline py-2.5">
            <Link className="w-44 font-semibold text-primary underline" href={href}>
              {name}
            </Link>
            <span className="text-small text-muted">{says}</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
