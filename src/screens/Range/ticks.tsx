'use client';

import { createContext, use, useState } from 'react';
import { betweenInGrid, betweenInList, cellKey, NONE_TICKED, tick } from './choose';
import type { RangeData, RangeRow } from './load';

interface Ticks {
  readonly rows: ReadonlySet<string>;
  readonly cells: ReadonlySet<string>;
  readonly onRow: (productId: string, extend: boolean) => void;
  readonly onCell: (key: string, extend: boolean) => void;
  readonly onAll: () => void;
  readonly clearRows: () => void;
  readonly clearCells: () => void;
  readonly all: boolean;
}

/** What of the range is ticked: the columns are made once, and read it from here. */
export const TicksOf = createContext<Ticks | null>(null);

/** The ticked rows and cells of what is on the page; what has left it is not ticked any more. */
export function useTicks({ rows, stores }: Pick<RangeData, 'rows' | 'stores'>): Ticks {
  const [tickedRows, setRows] = useState(NONE_TICKED);
  const [tickedCells, setCells] = useState(NONE_TICKED);
  const ids = rows.map(({ id }) => id);
  const storeIds = stores.map(({ id }) => id);
  const [inList, inGrid] = [betweenInList(ids), betweenInGrid(ids, storeIds)];
  const here = new Set(ids.flatMap((id) => [id, ...storeIds.map((storeId) => cellKey(id, storeId))]));
  const on = (all: ReadonlySet<string>) => new Set([...all].filter((key) => here.has(key)));
  const [onRows, onCells] = [on(tickedRows.on), on(tickedCells.on)];
  const all = ids.length > 0 && onRows.size === ids.length;
  return {
    rows: onRows,
    cells: onCells,
    onRow: (id, extend) => setRows({ ...tick({ on: onRows, last: tickedRows.last }, id, extend, inList) }),
    onCell: (key, extend) => setCells({ ...tick({ on: onCells, last: tickedCells.last }, key, extend, inGrid) }),
    onAll: () => setRows({ on: new Set(all ? [] : ids), last: null }),
    clearRows: () => setRows(NONE_TICKED),
    clearCells: () => setCells(NONE_TICKED),
    all,
  };
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (extend: boolean) => void }) {
  return (
    <label className="grid size-8 place-items-center">
      <input
        type="checkbox"
        className="size-4 accent-primary"
        aria-label={label}
        checked={on}
        onChange={(event) => onChange((event.nativeEvent as MouseEvent).shiftKey)}
      />
    </label>
  );
}

export function AllTick() {
  const { all, onAll } = use(TicksOf)!;
  return <Tick label="Select all on this page" on={all} onChange={onAll} />;
}

export function RowTick({ row }: { row: RangeRow }) {
  const { rows, onRow } = use(TicksOf)!;
  return (
    <Tick
      label={`Select ${row.title || 'Untitled'}`}
      on={rows.has(row.id)}
      onChange={(extend) => onRow(row.id, extend)}
    />
  );
}

/** The box of one cell: seen where the pointer is, and everywhere once one is ticked. */
export function CellTick({ row, storeId, storeName }: { row: RangeRow; storeId: string; storeName: string }) {
  const { cells, onCell } = use(TicksOf)!;
  const key = cellKey(row.id, storeId);
  return (
    <label className="absolute top-0 right-0 grid size-7 place-items-center">
      <input
        type="checkbox"
        aria-label={`Select ${row.title || 'Untitled'} in ${storeName}`}
        checked={cells.has(key)}
        onChange={(event) => onCell(key, (event.nativeEvent as MouseEvent).shiftKey)}
        className={`size-3.5 accent-primary group-hover:opacity-100 focus:opacity-100 ${cells.size > 0 ? '' : 'opacity-0 pointer-coarse:opacity-100'}`}
      />
    </label>
  );
}
