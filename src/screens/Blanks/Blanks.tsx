'use client';

import Link from 'next/link';
import { useCallback, useMemo, useRef, useState } from 'react';
import { Search } from 'lucide-react';
import type { Blank } from '@/core/catalog/blank';
import { MAX_COMPARED } from '@/core/catalog/limits';
import { MAX_ITEMS, queryParams } from '@/core/catalog/query';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { usePageKeys } from '@/ui/keys';
import { allDestinations } from '../countries';
import { NamedSetsMenu } from '../NamedSetsMenu';
import { CompareTray, type TrayBlank } from './CompareTray';
import { Filters, UNFILTERED } from './Filters';
import type { BlanksData } from './load';
import { ShelfTable } from './ShelfTable';
import { queryOf, useShelf } from './use-shelf';
import { filterCount } from './view';
import { calendarDay } from '@/ui/when';

/** All blanks by what each really costs at the buyer's door, narrowed and sorted as the address says. */
export function Blanks(data: BlanksData) {
  const { currency, country } = data;
  const [compared, setCompared] = useState<readonly TrayBlank[]>(data.compared);
  const comparedIds = useMemo(() => compared.map((blank) => blank.id), [compared]);
  const given = data.compared;
  const arrive = useCallback(
    (ids: readonly string[]) => {
      if (ids.join() === given.map((blank) => blank.id).join()) return;
      void Promise.all(
        ids.slice(0, MAX_COMPARED).map((id) => call<Blank>('GET', `/blanks/${encodeURIComponent(id)}`)),
      ).then(
        (blanks) => setCompared(blanks.map(({ id, name, partner }) => ({ id, name, partner: partner.name }))),
        // What is not there any more is not compared.
        () => setCompared([]),
      );
    },
    [given],
  );
  const shelf = useShelf(data, comparedIds, arrive);
  const { query, total, facets, change } = shelf;
  const destinations = useMemo(() => allDestinations(country), [country]);
  const search = useRef<HTMLInputElement>(null);
  const [filtersOpen, setFiltersOpen] = useState(false);
  usePageKeys({
    singles: (e) => {
      if (e.key !== '/') return false;
      search.current?.focus();
      return true;
    },
  });

  const compare = (id: string) => {
    if (comparedIds.includes(id)) return setCompared(compared.filter((blank) => blank.id !== id));
    for (let i = 0; i < total; i += 1) {
      const item = shelf.item(i);
      if (item?.id === id) return setCompared([...compared, { id, name: item.name, partner: item.partner.name }]);
    }
  };
  const filters = filterCount(query);
  const savedQuery = queryParams({ ...query, offset: 0 }, currency, country).toString();
  const kinds = facets.kind.reduce((sum, facet) => sum + facet.count, 0);
  return (
    <div className="h-full flex flex-col max-[900px]:min-h-[520px]">
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
          read={(typed) => {
            const items = Number(typed);
            if (!Number.isInteger(items) || items < 1 || items > MAX_ITEMS)
              throw new Error(`Enter 1 to ${MAX_ITEMS} items, not “${typed}”.`);
            change({ items });
          }}
          step={(by) => change({ items: Math.min(MAX_ITEMS, Math.max(1, query.items + Math.sign(by))) })}
        />
        {shelf.ratesOf && (
          <span className="text-tiny text-muted">
            in {currency}, rates of {calendarDay(shelf.ratesOf)}
          </span>
        )}
        <Link href="/blanks/price-lists" className="ml-auto text-small text-primary underline underline-offset-2">
          Partners’ price lists
        </Link>
      </div>
      <div className="flex flex-wrap items-center gap-x-5 px-[18px] border-t border-hairline text-small">
        <nav aria-label="Kinds" className="flex flex-wrap gap-x-4">
          <Kind name="all" count={kinds} on={query.kind === null} onClick={() => change({ kind: null })} />
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
        <button
          type="button"
          aria-expanded={filtersOpen}
          onClick={() => setFiltersOpen(!filtersOpen)}
          className="hidden min-h-6 text-primary underline max-[900px]:block"
        >
          {filtersOpen ? 'Hide filters' : filters > 0 ? `Filters (${filters})` : 'Filters'}
        </button>
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
      </div>
      <div className="flex min-h-0 flex-1 border-t border-hairline">
        <aside
          aria-label="Filters of blanks"
          className={`w-[196px] shrink-0 overflow-auto border-r border-hairline px-[18px] pb-4 ${filtersOpen ? '' : 'max-[900px]:hidden'}`}
        >
          <p className="flex min-h-9 items-center justify-between text-small" role="status">
            <span className={shelf.waiting ? 'text-muted' : ''}>{total === 1 ? '1 blank' : `${total} blanks`}</span>
            {filters > 0 && (
              <Button
                kind="quiet"
                onClick={() => change({ ...UNFILTERED, ...(query.sort === 'match' ? { sort: 'landed' } : {}) })}
              >
                Clear {filters}
              </Button>
            )}
          </p>
          <div className="border-t border-hairline py-1.5">
            <NamedSetsMenu<{ query: string }>
              label="Saved filters"
              kind="blank-filter"
              empty="Set filters, sorting and search as you want them, then save them here under a name."
              current={savedQuery === '' ? null : { query: savedQuery }}
              onUse={({ query: kept }) => change(queryOf(kept, currency, country))}
            />
          </div>
          <Filters shelf={shelf} currency={currency} />
        </aside>
        <div className="flex min-w-0 flex-1 flex-col">
          {shelf.problem && <Alert className="m-3">{shelf.problem}</Alert>}
          {total > 0 ? (
            <ShelfTable
              shelf={shelf}
              currency={currency}
              compared={comparedIds}
              full={compared.length >= MAX_COMPARED}
              onCompare={compare}
            />
          ) : (
            <Nothing filters={filters + (query.kind ? 1 : 0)} onClear={() => change({ ...UNFILTERED, kind: null })} />
          )}
        </div>
      </div>
      <CompareTray
        blanks={compared}
        country={query.country}
        items={query.items}
        onDrop={(id) => setCompared(compared.filter((blank) => blank.id !== id))}
      />
    </div>
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

function Nothing({ filters, onClear }: { filters: number; onClear: () => void }) {
  if (filters > 0)
    return (
      <div className="p-8 max-w-lg">
        <p className="mb-3">No blank matches all of this. Remove a filter, or clear them all.</p>
        <Button onClick={onClear}>Clear the filters</Button>
      </div>
    );
  return (
    <p className="p-8 max-w-lg text-muted">
      This is where unprinted goods are compared by what they cost at the buyer’s door. No partner’s catalog is loaded
      yet; whoever runs this copy of Typica can load one.
    </p>
  );
}
