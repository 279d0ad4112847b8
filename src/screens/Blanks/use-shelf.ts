'use client';

import { keepPreviousData, useQueries, type UseQueryResult } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { parseQuery, queryParams } from '@/core/shelf/query';
import { EMPTY_QUERY, type ShelfFacets, type ShelfItem, type ShelfQuery } from '@/core/shelf/shelf';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import type { BlanksData, ShelfPage } from './load';

/** How long typing must rest before it is searched for. */
const TYPING_MS = 120;

export interface Shelf {
  readonly query: ShelfQuery;
  readonly total: number;
  readonly facets: ShelfFacets;
  readonly partners: { readonly [id: string]: string };
  readonly ratesOf: string | null;
  readonly problem: string | null;
  readonly waiting: boolean;
  /** The row, or null while its page is on its way. */
  item(index: number): ShelfItem | null;
  /** Rows that are in view. */
  need(from: number, to: number): void;
  change(patch: Partial<ShelfQuery>, typing?: boolean): void;
}

/** The catalog as asked for: the address follows the query, and pages come as they are scrolled to. */
export function useShelf(
  initial: BlanksData,
  compared: readonly string[],
  /** Told once what the address says is laid aside. */
  onArrive: (compared: readonly string[]) => void,
): Shelf {
  const [query, setQuery] = useState(initial.query);
  const [asked, setAsked] = useState(initial.query);
  const change = useTyped(query, setQuery, setAsked);
  const { head, problem, waiting, item, need } = usePages(initial, asked);
  useAddress(initial, query, compared, change, onArrive);
  return {
    query,
    total: head.total,
    facets: head.facets,
    partners: head.partners,
    ratesOf: head.ratesOf,
    problem,
    waiting,
    item,
    need,
    change,
  };
}

/** Changes of the query: shown at once, and asked for at once or when typing rests. */
function useTyped(
  query: ShelfQuery,
  show: (query: ShelfQuery) => void,
  ask: (query: ShelfQuery) => void,
): Shelf['change'] {
  const latest = useRef(query);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  return useCallback(
    (patch, typing = false) => {
      const next = { ...latest.current, ...patch, offset: 0 };
      latest.current = next;
      show(next);
      if (timer.current) clearTimeout(timer.current);
      if (typing) timer.current = setTimeout(() => ask(next), TYPING_MS);
      else ask(next);
    },
    [show, ask],
  );
}

/** The pages in view of what is asked for, and the first, which says how many there are; while a query is new, the rows of the one before. */
function usePages({ currency, country, ...initial }: BlanksData, asked: ShelfQuery) {
  const { limit } = asked;
  const addressOfPage = (page: number) => queryParams({ ...asked, offset: page * limit }, currency, country).toString();
  // What was in view of another question says nothing of this one.
  const [seen, setSeen] = useState({ asked, from: 0, to: 0 });
  const { from, to } = seen.asked === asked ? seen : { from: 0, to: 0 };
  const pages = [...new Set([0, ...Array.from({ length: to - from + 1 }, (_, i) => from + i)])];
  const first = queryParams(initial.query, currency, country).toString();
  const { answers, waiting, error } = useQueries(
    {
      queries: pages.map((page) => {
        const address = addressOfPage(page);
        return {
          queryKey: ['catalog', address],
          queryFn: () => call<ShelfPage>('GET', `/blanks?${address}`),
          ...(page === 0 ? { placeholderData: keepPreviousData } : {}),
          ...(address === first && initial.problem === null ? { initialData: initial.page } : {}),
        };
      }),
      combine: (results: UseQueryResult<ShelfPage>[]) => ({
        answers: results.map(({ data }) => data),
        waiting: results[0]!.isFetching,
        error: results.find((result) => result.error)?.error?.message ?? null,
      }),
    },
    queries(),
  );
  const head = answers[0] ?? initial.page;
  const need = (firstRow: number, lastRow: number) => {
    const [start, end] = [Math.floor(firstRow / limit), Math.floor(lastRow / limit)];
    setSeen((before) =>
      before.asked === asked && before.from === start && before.to === end ? before : { asked, from: start, to: end },
    );
  };
  return {
    head,
    waiting,
    problem: error ?? (answers[0] ? null : initial.problem),
    need,
    item: (index: number) => answers[pages.indexOf(Math.floor(index / limit))]?.blanks[index % limit] ?? null,
  };
}

/** Someone who comes back to this page by the browser's button gets it as it was first loaded: its address knows better. */
function useAddress(
  { currency, country, query: given }: BlanksData,
  query: ShelfQuery,
  compared: readonly string[],
  change: Shelf['change'],
  onArrive: (compared: readonly string[]) => void,
): void {
  const arrived = useRef(false);
  useEffect(() => {
    if (arrived.current) return;
    arrived.current = true;
    const there = new URLSearchParams(window.location.search);
    const asked = readQuery(there, currency, country);
    if (asked && addressOf(asked, currency, country, []) !== addressOf(given, currency, country, [])) change(asked);
    onArrive(there.getAll('compare'));
  }, [given, currency, country, change, onArrive]);
  useEffect(() => {
    if (!arrived.current) return;
    const address = addressOf(query, currency, country, compared);
    window.history.replaceState(window.history.state, '', address);
  }, [query, compared, currency, country]);
}

function addressOf(query: ShelfQuery, currency: string, country: string, compared: readonly string[]): string {
  const params = queryParams(query, currency, country);
  for (const id of compared) params.append('compare', id);
  const text = params.toString();
  return text ? `/blanks?${text}` : '/blanks';
}

/** A query that was saved; what of it cannot be read any more is as if nothing was asked. */
export const queryOf = (text: string, currency: string, country: string): ShelfQuery =>
  readQuery(new URLSearchParams(text), currency, country) ?? { ...EMPTY_QUERY, country };

/** The query of an address, or null where it cannot be read: then the server has said so already. */
function readQuery(params: URLSearchParams, currency: string, country: string): ShelfQuery | null {
  try {
    return { ...parseQuery(params, currency, country), offset: 0, limit: EMPTY_QUERY.limit };
  } catch {
    return null;
  }
}
