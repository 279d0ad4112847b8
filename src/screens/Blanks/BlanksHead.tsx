'use client';

import { Search } from 'lucide-react';
import Link from 'next/link';
import { useMemo, useRef } from 'react';
import { MAX_ITEMS } from '@/core/shelf/query';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { usePageKeys } from '@/ui/keys';
import { calendarDay } from '@/ui/when';
import { allDestinations } from '../countries';
import type { Shelf } from './use-shelf';

/** Where the parcel goes and how much is in it. */
export function BlanksHead({ shelf, currency, country }: { shelf: Shelf; currency: string; country: string }) {
  const { query, change, ratesOf } = shelf;
  const destinations = useMemo(() => allDestinations(country), [country]);
  const readItems = (typed: string) => {
    const items = Number(typed);
    if (!Number.isInteger(items) || items < 1 || items > MAX_ITEMS)
      throw new Error(`Enter 1 to ${MAX_ITEMS} items, not “${typed}”.`);
    change({ items });
  };
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 px-[18px] pt-3 pb-2">
      <h1 className="font-display text-[24px] font-semibold">Blanks</h1>
      <CountryField
        label="Landed cost to"
        value={query.country}
        choices={destinations}
        onChange={(to) => change({ country: to })}
      />
      <EntryField
        label="items in the parcel"
        width="w-8"
        text={String(query.items)}
        read={readItems}
        step={(by) => change({ items: Math.min(MAX_ITEMS, Math.max(1, query.items + Math.sign(by))) })}
      />
      {ratesOf && (
        <span className="text-tiny text-muted">
          in {currency}, rates of {calendarDay(ratesOf)}
        </span>
      )}
      <Link href="/blanks/price-lists" className="ml-auto text-small text-primary underline underline-offset-2">
        Partners’ price lists
      </Link>
    </div>
  );
}

export function Kinds({ shelf }: { shelf: Shelf }) {
  const { query, facets, change } = shelf;
  const all = facets.kind.reduce((sum, facet) => sum + facet.count, 0);
  return (
    <nav aria-label="Kinds" className="flex flex-wrap gap-x-4">
      <Kind name="all" count={all} on={query.kind === null} onClick={() => change({ kind: null })} />
      {facets.kind.map((facet) => (
        <Kind
          key={facet.value}
          name={facet.value}
          count={facet.count}
          on={query.kind === facet.value}
          onClick={() => change({ kind: query.kind === facet.value ? null : facet.value })}
        />
      ))}
      {query.kind !== null && !facets.kind.some((facet) => facet.value === query.kind) && (
        <Kind name={query.kind} count={0} on onClick={() => change({ kind: null })} />
      )}
    </nav>
  );
}

export function SearchBlanks({ shelf }: { shelf: Shelf }) {
  const { query, change } = shelf;
  const search = useRef<HTMLInputElement>(null);
  usePageKeys({
    singles: (e) => {
      if (e.key !== '/') return false;
      search.current?.focus();
      return true;
    },
  });
  return (
    <label className="ml-auto flex items-center gap-1.5 border-b border-edge focus-within:border-primary">
      <Search size={14} aria-hidden className="text-muted" />
      <input
        ref={search}
        type="search"
        aria-label="Search blanks"
        placeholder="Search blanks  /"
        className="w-52 min-h-7 bg-transparent px-0.5 placeholder:text-muted"
        value={query.text}
        onChange={(e) => {
          const text = e.target.value;
          // Only what is typed is sorted by how well it matches; a sorting that was chosen stays.
          const sorted = query.sort === 'match' || query.sort === 'landed';
          change({ text, ...(sorted ? { sort: text.trim() ? 'match' : 'landed', descending: false } : {}) }, true);
        }}
      />
    </label>
  );
}

function Kind({ name, count, on, onClick }: { name: string; count: number; on: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-8 border-b-2 first-letter:uppercase ${on ? 'border-primary font-semibold' : 'border-transparent hover:border-hairline'}`}
    >
      {name} <span className="text-tiny font-normal text-muted">{count}</span>
    </button>
  );
}
