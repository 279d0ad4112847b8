'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, type KeyboardEvent, type RefObject } from 'react';
import { ownEntry } from '@/core/own-entry';
import { cellKey, moved, type Place } from './choose';
import type { Columns } from './columns';
import { AROUND_PX, cellId, HEAD_PX, ROW_PX } from './grid-look';
import { GridHead } from './GridHead';
import { GridRow } from './GridRow';
import type { RangeStore } from './load';
import type { RangeState } from './use-range';
import type { Selection } from './use-selection';
import { cellLabel } from './view';

/** Rows before the last one that was read, at which the next page is asked for. */
const AHEAD = 40;

/** Products down, stores across: only what is in view is drawn, both ways; keys are a spreadsheet's. */
export function RangeGrid({
  range,
  columns,
  selection,
}: {
  range: RangeState;
  columns: Columns;
  selection: Selection;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { rows, counts } = range;
  const { stores } = columns;
  const { down, across, leftPx } = useWindow(range, columns, scroller);
  const onKeyDown = useGridKeys(range, stores, selection, (place) => {
    down.scrollToIndex(place.row);
    if (place.col > 0) across.scrollToIndex(place.col - 1);
  });
  const draggingRef = useDragging();
  const widthPx = across.getTotalSize();
  const drawn = across
    .getVirtualItems()
    .map(({ index, start, size }) => ({ store: stores[index]!, index, start, size }));
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Range"
      aria-rowcount={counts.total + 1}
      aria-colcount={stores.length + 1}
      aria-multiselectable
      aria-activedescendant={selection.at ? cellId(selection.at) : undefined}
      tabIndex={0}
      data-wide
      className={`min-h-0 flex-1 overflow-auto text-small outline-none ${range.waiting ? 'opacity-60' : ''}`}
      onKeyDown={onKeyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget && !selection.at) selection.go({ row: 0, col: 0 });
      }}
    >
      <GridHead
        columns={columns}
        drawn={drawn}
        widthPx={widthPx}
        selection={selection}
        count={rows.length}
        range={range}
      />
      <div
        role="rowgroup"
        className="relative"
        style={{ height: down.getTotalSize(), width: widthPx, minWidth: '100%' }}
      >
        {down.getVirtualItems().map(({ index, start }) => (
          <GridRow
            key={rows[index]!.id}
            row={rows[index]!}
            index={index}
            top={start}
            leftPx={leftPx}
            drawn={drawn}
            selection={selection}
            draggingRef={draggingRef}
            reload={range.reload}
          />
        ))}
      </div>
    </div>
  );
}

/** What of the grid is in view, both ways; the next page is asked for before its end is. */
function useWindow(range: RangeState, columns: Columns, scroller: RefObject<HTMLDivElement | null>) {
  const { rows, hasMore, more } = range;
  const { stores, widthOf } = columns;
  const leftPx = columns.productPx + AROUND_PX;
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 4,
    // The headings stand over the rows, and the column of products over the stores: what one goes to comes out from under them.
    scrollPaddingEnd: HEAD_PX,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: stores.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widthOf(stores[i]!.id),
    paddingStart: leftPx,
    scrollPaddingStart: leftPx,
    overscan: 1,
  });
  const widths = stores.map(({ id }) => widthOf(id)).join();
  useEffect(() => across.measure(), [across, widths, leftPx]);
  const last = down.getVirtualItems().at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && last > rows.length - AHEAD) more();
  }, [hasMore, last, rows.length, more]);
  return { down, across, leftPx };
}

/** Whether a rectangle of cells is being drawn with the mouse: begun in a cell, and ended wherever the button is let go. */
function useDragging(): RefObject<boolean> {
  const draggingRef = useRef(false);
  useEffect(() => {
    const end = () => {
      draggingRef.current = false;
    };
    window.addEventListener('mouseup', end);
    return () => window.removeEventListener('mouseup', end);
  }, []);
  return draggingRef;
}

/** What keys do: go, choose, copy, open. */
function useGridKeys(
  { rows }: RangeState,
  stores: readonly RangeStore[],
  selection: Selection,
  show: (place: Place) => void,
) {
  const router = useRouter();
  const copy = () => {
    const lines = rows.flatMap((row) => {
      const own = stores.filter(({ id }) => selection.cells.has(cellKey(row.id, id)));
      const cells = own.map(({ id, name }) => cellLabel(ownEntry(row.cells, id), name));
      return own.length > 0 ? [[row.title, ...cells].join('\t')] : [];
    });
    if (lines.length > 0) void navigator.clipboard?.writeText(lines.join('\n'));
  };
  return (event: KeyboardEvent<HTMLDivElement>) => {
    if (event.target !== event.currentTarget || rows.length === 0) return;
    const at = selection.at ?? { row: 0, col: 0 };
    const far = event.ctrlKey || event.metaKey;
    const size = { rows: rows.length, cols: stores.length + 1, page: 10 };
    const to = moved(at, event.key, far, size);
    const row = rows[at.row]!;
    if (to) {
      selection.go(to, event.shiftKey);
      show(to);
    } else if (event.key === ' ') selection.turn(at);
    else if (event.key === 'a' && far) selection.tickAll(true);
    else if (event.key === 'c' && far) copy();
    else if (event.key === 'Escape') selection.clear();
    else if (event.key === 'Enter') router.push(`/products/${row.id}${at.col > 0 ? '?part=stores' : ''}`);
    else return;
    event.preventDefault();
  };
}
