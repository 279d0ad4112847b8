'use client';

import { useCallback, useMemo, useState } from 'react';
import type { Blank } from '@/core/catalog/blank';
import type { ShelfItem } from '@/core/shelf/shelf';
import { MAX_COMPARED } from '@/core/catalog/limits';
import { queryParams } from '@/core/shelf/query';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { NamedSetsMenu } from '../NamedSetsMenu';
import { BlanksHead, Kinds, SearchBlanks } from './BlanksHead';
import { CompareTray, type TrayBlank } from './CompareTray';
import { Filters, UNFILTERED } from './Filters';
import type { BlanksData } from './load';
import { ShelfTable } from './ShelfTable';
import { queryOf, useShelf, type Shelf } from './use-shelf';
import { filterCount } from './view';

/** All blanks by what each really costs at the buyer’s door, narrowed and sorted as the address says. */
export function Blanks(data: BlanksData) {
  const { currency, country } = data;
  const { compared, ids, arrive, toggle, drop } = useCompared(data.compared);
  const shelf = useShelf(data, ids, arrive);
  const { query, total, change } = shelf;
  const [filtersOpen, setFiltersOpen] = useState(false);
  const filters = filterCount(query);
  return (
    <div className="h-full flex flex-col max-[900px]:min-h-[520px]">
      <BlanksHead shelf={shelf} currency={currency} country={country} />
      <div className="flex flex-wrap items-center gap-x-5 px-[18px] border-t border-hairline text-small">
        <Kinds shelf={shelf} />
        <button
          type="button"
          aria-expanded={filtersOpen}
          onClick={() => setFiltersOpen(!filtersOpen)}
          className="hidden min-h-6 text-primary underline max-[900px]:block"
        >
          {filtersOpen ? 'Hide filters' : filters > 0 ? `Filters (${filters})` : 'Filters'}
        </button>
        <SearchBlanks shelf={shelf} />
      </div>
      <div className="flex min-h-0 flex-1 border-t border-hairline">
        <Narrowing shelf={shelf} data={data} filters={filters} open={filtersOpen} />
        <div className="flex min-w-0 flex-1 flex-col">
          {shelf.problem && <Alert className="m-3">{shelf.problem}</Alert>}
          {total > 0 ? (
            <ShelfTable
              shelf={shelf}
              currency={currency}
              compared={ids}
              full={compared.length >= MAX_COMPARED}
              onCompare={toggle}
            />
          ) : (
            <Nothing filters={filters + (query.kind ? 1 : 0)} onClear={() => change({ ...UNFILTERED, kind: null })} />
          )}
        </div>
      </div>
      <CompareTray blanks={compared} country={query.country} items={query.items} onDrop={drop} />
    </div>
  );
}

/** The blanks that are laid beside each other, and how one comes to them and goes. */
function useCompared(given: readonly TrayBlank[]) {
  const [compared, setCompared] = useState(given);
  const ids = useMemo(() => compared.map((blank) => blank.id), [compared]);
  const arrive = useCallback(
    (asked: readonly string[]) => {
      if (asked.join() === given.map((blank) => blank.id).join()) return;
      void Promise.all(
        asked.slice(0, MAX_COMPARED).map((id) => call<Blank>('GET', `/blanks/${encodeURIComponent(id)}`)),
      ).then(
        (blanks) => setCompared(blanks.map(({ id, name, partner }) => ({ id, name, partner: partner.name }))),
        // What is not there any more is not compared.
        () => setCompared([]),
      );
    },
    [given],
  );
  const toggle = useCallback(
    ({ id, name, partner }: ShelfItem) =>
      setCompared((before) => {
        const rest = before.filter((blank) => blank.id !== id);
        if (rest.length < before.length) return rest;
        return before.length < MAX_COMPARED ? [...before, { id, name, partner: partner.name }] : before;
      }),
    [],
  );
  const drop = (id: string) => setCompared(compared.filter((blank) => blank.id !== id));
  return { compared, ids, arrive, toggle, drop };
}

/** How many blanks there are, and what narrows them. */
function Narrowing({ shelf, data, filters, open }: { shelf: Shelf; data: BlanksData; filters: number; open: boolean }) {
  const { currency, country } = data;
  const { query, total, change } = shelf;
  const saved = queryParams({ ...query, offset: 0 }, currency, country).toString();
  return (
    <aside
      aria-label="Filters of blanks"
      className={`w-[196px] shrink-0 overflow-auto border-r border-hairline px-[18px] pb-4 ${open ? '' : 'max-[900px]:hidden'}`}
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
          current={saved === '' ? null : { query: saved }}
          onUse={({ query: kept }) => change(queryOf(kept, currency, country))}
        />
      </div>
      <Filters shelf={shelf} currency={currency} />
    </aside>
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
