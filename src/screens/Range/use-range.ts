'use client';

import { keepPreviousData, useInfiniteQuery, useQuery, type InfiniteData } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { rangeParameters, type RangeFilter } from '@/core/range';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
import { queries } from '@/ui/queries';
import type { RangeAnswer, RangeCounts, RangeData, RangeQuery, RangeRow } from './load';
import { queryText, rangeAddress, readRangeQuery } from './view';

type Pages = InfiniteData<RangeAnswer, string | null>;

export interface RangeState {
  readonly query: RangeQuery;
  readonly rows: readonly RangeRow[];
  readonly counts: RangeCounts;
  /** Whether there are rows after those that were read. */
  readonly hasMore: boolean;
  /** What is shown is of another question, whose answer is on its way. */
  readonly waiting: boolean;
  readonly problem: string | null;
  readonly change: (part: Partial<RangeFilter>) => void;
  readonly set: (query: RangeQuery) => void;
  readonly more: () => void;
  /** Reads all that is shown once more. */
  readonly reload: () => void;
}

/** The range as asked for: the address follows the question, pages come as they are scrolled to, and rows follow what happens. */
export function useRange(initial: RangeData): RangeState {
  const [query, set] = useState(initial.asked);
  useAddress(initial.asked, query, set);
  const text = queryText(query);
  const isFirst = text === queryText(initial.asked);
  const key = ['range', text];
  const { data, error, isFetching, isPlaceholderData, hasNextPage, fetchNextPage, refetch } = useInfiniteQuery(
    {
      queryKey: key,
      queryFn: ({ pageParam }) =>
        call<RangeAnswer>('GET', `/range?${text}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`),
      initialPageParam: null as string | null,
      getNextPageParam: ({ next }) => next,
      placeholderData: keepPreviousData,
      ...(isFirst ? { initialData: { pages: [initial.first], pageParams: [null] } } : {}),
    },
    queries(),
  );
  const filterText = rangeParameters(query.filter).toString();
  const counts = useQuery(
    {
      queryKey: ['range-counts', filterText],
      queryFn: () => call<RangeCounts>('GET', `/range/counts?${filterText}`),
      placeholderData: keepPreviousData,
      ...(isFirst ? { initialData: initial.counts } : {}),
    },
    queries(),
  );
  const pages = data?.pages ?? [initial.first];
  const recount = counts.refetch;
  const reload = useCallback(() => void Promise.all([refetch(), recount()]), [refetch, recount]);
  useFollowing(key, pages, reload, () => void recount());
  return {
    query,
    rows: pages.flatMap(({ rows }) => rows),
    counts: counts.data ?? initial.counts,
    hasMore: hasNextPage,
    waiting: isPlaceholderData && isFetching,
    problem: error?.message ?? counts.error?.message ?? null,
    change: (part) => set((before) => ({ ...before, filter: { ...before.filter, ...part } })),
    set,
    more: () => void fetchNextPage({ cancelRefetch: false }),
    reload,
  };
}

/** What happened is gathered for so long, ms, before rows are read again; counts are read no more often than this. */
const GATHER_MS = 400;
const COUNT_MS = 2000;
/** Rows that are asked for at once, and pages up to which all of them are read again. */
const MAX_ROWS = 200;
const FEW_PAGES = 3;

/** Reads rows again that something happened to; where products came or went, the pages, as long as they are few. */
function useFollowing(key: readonly string[], pages: readonly RangeAnswer[], reload: () => void, recount: () => void) {
  const told = useRef({ ids: new Set<string>(), whole: false, counted: 0 });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const follow = async () => {
    timer.current = null;
    const { ids, whole, counted } = told.current;
    const shown = new Set(pages.flatMap(({ rows }) => rows.map(({ id }) => id)));
    const touched = [...ids].filter((id) => shown.has(id)).slice(0, MAX_ROWS);
    told.current = { ids: new Set(), whole: false, counted };
    if (whole && pages.length <= FEW_PAGES) {
      reload();
      return;
    }
    if (touched.length > 0) await readRows(key, touched);
    if (performance.now() - counted < COUNT_MS) return;
    told.current.counted = performance.now();
    recount();
  };
  useEvents((topic, payload) => {
    if (!['listing', 'product', 'store', 'outcome', 'reset'].includes(topic)) return;
    const { productId } = payload as { productId?: unknown };
    if (typeof productId === 'string') told.current.ids.add(productId);
    if (typeof productId !== 'string' || topic === 'product') told.current.whole = true;
    // Nobody waits for it: what could not be read is told with the next question that somebody asks.
    timer.current ??= setTimeout(() => void follow().catch(() => undefined), GATHER_MS);
  });
}

/** Puts rows as they are now in place of those that are shown; what has left the range leaves the page. */
async function readRows(key: readonly string[], ids: readonly string[]): Promise<void> {
  const { rows } = await call<RangeAnswer>('GET', `/range?${ids.map((id) => `id=${id}`).join('&')}`);
  const now = new Map(rows.map((row) => [row.id, row]));
  const asked = new Set(ids);
  queries().setQueryData<Pages>(
    key,
    (before) =>
      before && {
        ...before,
        pages: before.pages.map((page) => ({
          ...page,
          rows: page.rows.flatMap((row) => (asked.has(row.id) ? (now.get(row.id) ?? []) : row)),
        })),
      },
  );
}

/** The address follows the question; who comes back by the browser's button gets the page as it was first loaded, and its address knows better. */
function useAddress(first: RangeQuery, query: RangeQuery, set: (query: RangeQuery) => void): void {
  const arrived = useRef(false);
  useEffect(() => {
    if (arrived.current) return;
    arrived.current = true;
    const there = readRangeQuery(new URLSearchParams(window.location.search));
    if (queryText(there) !== queryText(first)) set(there);
  }, [first, set]);
  useEffect(() => {
    if (!arrived.current) return;
    window.history.replaceState(window.history.state, '', rangeAddress(query));
  }, [query]);
}
