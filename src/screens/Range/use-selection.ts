'use client';

import { useState } from 'react';
import { betweenInList, cellKey, NONE_TICKED, rectangle, tick, type Place } from './choose';
import type { RangeRow, RangeStore } from './load';

export interface Selection {
  /** Where one stands; null before one came to the grid. */
  readonly at: Place | null;
  /** Ids of ticked products. */
  readonly rows: ReadonlySet<string>;
  /** Keys of chosen cells. */
  readonly cells: ReadonlySet<string>;
  /** All that is found is meant, on whatever page. */
  readonly all: boolean;
  /** Goes somewhere; with `extend` all from where the last choice began is chosen. */
  readonly go: (place: Place, extend?: boolean) => void;
  /** Takes a cell, or the product of a row, in or out. */
  readonly turn: (place: Place) => void;
  readonly onRow: (productId: string, extend: boolean) => void;
  readonly tickAll: (on: boolean) => void;
  readonly setAll: (all: boolean) => void;
  readonly clear: () => void;
}

const NO_CELLS: ReadonlySet<string> = new Set();

/** What of the grid is chosen: products by their boxes, cells as a rectangle or one by one. What has left the page is not chosen any more; nothing is once another `question` is asked. */
export function useSelection(rows: readonly RangeRow[], stores: readonly RangeStore[], question: string): Selection {
  const [at, setAt] = useState<Place | null>(null);
  const [from, setFrom] = useState<Place | null>(null);
  const [ticked, setTicked] = useState(NONE_TICKED);
  const [cells, setCells] = useState(NO_CELLS);
  const [all, setAll] = useState(false);
  const [asked, setAsked] = useState(question);
  // What was chosen of one question is not meant of another: “all that is found” least of all.
  if (asked !== question) {
    setAsked(question);
    setAll(false);
    setTicked(NONE_TICKED);
    setCells(NO_CELLS);
    setFrom(null);
  }
  const ids = rows.map(({ id }) => id);
  const storeIds = stores.map(({ id }) => id);
  const here = new Set(ids);
  const on = new Set([...ticked.on].filter((id) => here.has(id)));
  const onRow = (id: string, extend: boolean) => {
    setAll(false);
    setTicked(tick({ on, last: ticked.last }, id, extend, betweenInList(ids)));
  };
  const keyAt = ({ row, col }: Place): string | null =>
    col > 0 && ids[row] !== undefined ? cellKey(ids[row], storeIds[col - 1]!) : null;
  return {
    at: at && ids.length > 0 ? { row: Math.min(at.row, ids.length - 1), col: Math.min(at.col, storeIds.length) } : null,
    rows: on,
    cells: new Set([...cells].filter((key) => here.has(key.split(':')[0]!))),
    all,
    go: (place, extend = false) => {
      const start = extend ? (from ?? at ?? place) : place;
      setAt(place);
      setFrom(start);
      setCells(extend ? new Set(rectangle(start, place, ids, storeIds)) : NO_CELLS);
    },
    turn: (place) => {
      setAt(place);
      setFrom(place);
      const key = keyAt(place);
      if (key === null) {
        if (ids[place.row] !== undefined) onRow(ids[place.row]!, false);
        return;
      }
      const next = new Set(cells);
      if (!next.delete(key)) next.add(key);
      setCells(next);
    },
    onRow,
    tickAll: (every) => {
      setAll(false);
      setTicked({ on: new Set(every ? ids : []), last: null });
    },
    setAll,
    clear: () => {
      setAll(false);
      setTicked(NONE_TICKED);
      setCells(NO_CELLS);
    },
  };
}
