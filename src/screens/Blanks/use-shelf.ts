'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { parseQuery, queryParams } from '@/core/catalog/query';
import { EMPTY_QUERY, type ShelfFacets, type ShelfItem, type ShelfQuery } from '@/core/catalog/shelf';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
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
  const { currency, country } = initial;
  const [query, setQuery] = useState(initial.query);
  const [head, setHead] = useState<Omit<ShelfPage, 'blanks'>>(initial.page);
  const [rows, setRows] = useState<ReadonlyMap<number, ShelfItem>>(() => byIndex(initial.page.blanks, 0));
  const [problem, setProblem] = useState(initial.problem);
  const [waiting, setWaiting] = useState(false);
  const latest = useRef({ query: initial.query, asked: 0, pages: new Set([0]) });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);

  const fetchPage = useCallback(
    async (asked: ShelfQuery, number: number) => {
      const params = queryParams(asked, currency, country);
      const page = await call<ShelfPage>('GET', `/blanks?${params.toString()}`);
      // An answer to what is not asked any more is thrown away.
      return latest.current.asked === number ? page : null;
    },
    [currency, country],
  );

  const ask = useCallback(
    async (asked: ShelfQuery) => {
      const number = ++latest.current.asked;
      latest.current.pages = new Set([0]);
      setWaiting(true);
      try {
        const page = await fetchPage(asked, number);
        if (!page) return;
        setHead(page);
        setRows(byIndex(page.blanks, 0));
        setProblem(null);
      } catch (error) {
        if (latest.current.asked === number) setProblem((error as Error).message);
      }
      if (latest.current.asked === number) setWaiting(false);
    },
    [fetchPage],
  );

  const change = useCallback(
    (patch: Partial<ShelfQuery>, typing = false) => {
      const next = { ...latest.current.query, ...patch, offset: 0 };
      latest.current.query = next;
      setQuery(next);
      if (timer.current) clearTimeout(timer.current);
      if (typing) timer.current = setTimeout(() => void ask(next), TYPING_MS);
      else void ask(next);
    },
    [ask],
  );

  const need = useCallback(
    (from: number, to: number) => {
      const { limit } = latest.current.query;
      for (let page = Math.floor(from / limit); page <= Math.floor(to / limit); page += 1) {
        if (latest.current.pages.has(page)) continue;
        latest.current.pages.add(page);
        const number = latest.current.asked;
        fetchPage({ ...latest.current.query, offset: page * limit }, number).then(
          (answer) => answer && setRows((have) => new Map([...have, ...byIndex(answer.blanks, page * limit)])),
          (error: Error) => {
            // Asked for again by the next scroll.
            latest.current.pages.delete(page);
            setProblem(error.message);
          },
        );
      }
    },
    [fetchPage],
  );

  // Someone who comes back to this page by the browser's button gets it as it was first loaded: its address knows better.
  const arrived = useRef(false);
  useEffect(() => {
    if (arrived.current) return;
    arrived.current = true;
    const there = new URLSearchParams(window.location.search);
    const given = addressOf(initial.query, currency, country, []);
    const asked = readQuery(there, currency, country);
    if (asked && addressOf(asked, currency, country, []) !== given) change(asked);
    onArrive(there.getAll('compare'));
  }, [initial.query, currency, country, change, onArrive]);

  useEffect(() => {
    if (!arrived.current) return;
    const address = addressOf(query, currency, country, compared);
    window.history.replaceState(window.history.state, '', address);
  }, [query, compared, currency, country]);

  useEvents((topic) => {
    if (topic === 'catalog' || topic === 'reset') void ask(latest.current.query);
  });

  return {
    query,
    total: head.total,
    facets: head.facets,
    partners: head.partners,
    ratesOf: head.ratesOf,
    problem,
    waiting,
    item: (index) => rows.get(index) ?? null,
    need,
    change,
  };
}

function addressOf(query: ShelfQuery, currency: string, country: string, compared: readonly string[]): string {
  const params = queryParams(query, currency, country);
  for (const id of compared) params.append('compare', id);
  const text = params.toString();
  return text ? `/blanks?${text}` : '/blanks';
}

/** The query of an address, or null where it cannot be read: then the server has said so already. */
function readQuery(params: URLSearchParams, currency: string, country: string): ShelfQuery | null {
  try {
    return { ...parseQuery(params, currency, country), offset: 0, limit: EMPTY_QUERY.limit };
  } catch {
    return null;
  }
}

const byIndex = (items: readonly ShelfItem[], offset: number): Map<number, ShelfItem> =>
  new Map(items.map((item, i) => [offset + i, item]));
