'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import { ownEntry } from '@/core/own-entry';
import { cellKey, moved, type Place } from './choose';
import type { Columns } from './columns';
import { Edge } from './Edge';
import type { RangeRow, RangeStore } from './load';
import { Cell, ProductName, Thumbnail } from './RangeCells';
import { RowMenu } from './RowMenu';
import type { RangeState } from './use-range';
import type { Selection } from './use-selection';
import { cellLabel, cellLine } from './view';

const ROW_PX = 62;
/** The box and the picture before a product's name, and the menu after it. */
const AROUND_PX = 36 + 60 + 34;
/** Rows before the last one that was read, at which the next page is asked for. */
const AHEAD = 40;

const cellId = ({ row, col }: Place) => `range-${row}-${col}`;

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
  const { rows, hasMore, more, counts } = range;
  const { stores, widthOf } = columns;
  const leftPx = columns.productPx + AROUND_PX;
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 4,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: stores.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widthOf(stores[i]!.id),
    paddingStart: leftPx,
    overscan: 1,
  });
  const widths = stores.map(({ id }) => widthOf(id)).join();
  useEffect(() => across.measure(), [across, widths, leftPx]);
  const last = down.getVirtualItems().at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && last > rows.length - AHEAD) more();
  }, [hasMore, last, rows.length, more]);
  const onKeyDown = useGridKeys(range, stores, selection, (place) => {
    down.scrollToIndex(place.row);
    if (place.col > 0) across.scrollToIndex(place.col - 1);
  });
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
      <Head columns={columns} drawn={drawn} widthPx={widthPx} selection={selection} count={rows.length} range={range} />
      <div
        role="rowgroup"
        className="relative"
        style={{ height: down.getTotalSize(), width: widthPx, minWidth: '100%' }}
      >
        {down.getVirtualItems().map(({ index, start }) => (
          <Row
            key={rows[index]!.id}
            row={rows[index]!}
            index={index}
            top={start}
            leftPx={leftPx}
            drawn={drawn}
            selection={selection}
            reload={range.reload}
          />
        ))}
      </div>
    </div>
  );
}

interface Drawn {
  readonly store: RangeStore;
  readonly index: number;
  readonly start: number;
  readonly size: number;
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

/** Headings: products sort by their title, stores lead to their pages; edges are drawn to another width. */
function Head({
  columns,
  drawn,
  widthPx,
  selection,
  count,
  range,
}: {
  columns: Columns;
  drawn: readonly Drawn[];
  widthPx: number;
  selection: Selection;
  count: number;
  range: RangeState;
}) {
  const { query, set } = range;
  const byTitle = query.sort === 'title';
  const every = count > 0 && selection.rows.size === count;
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-20 h-[42px] border-y border-hairline bg-paper text-muted"
      style={{ width: widthPx, minWidth: '100%' }}
    >
      <span
        role="columnheader"
        aria-sort={byTitle ? 'ascending' : 'none'}
        className="sticky left-0 z-10 flex h-full items-center bg-paper pl-2"
        style={{ width: columns.productPx + AROUND_PX }}
      >
        <label className="grid size-8 place-items-center">
          <input
            type="checkbox"
            className="size-4 accent-primary"
            aria-label="Select all that were read"
            checked={every}
            onChange={() => selection.tickAll(!every)}
          />
        </label>
        <button
          type="button"
          className={`ml-1 min-h-6 flex-1 text-left hover:text-ink ${byTitle ? 'text-ink' : ''}`}
          onClick={() => set({ ...query, sort: byTitle ? 'changed' : 'title' })}
        >
          Product<span aria-hidden>{byTitle ? ' ↑' : ''}</span>
        </button>
        <Edge name="Product" px={columns.productPx} onResize={(px) => columns.resize(null, px)} />
      </span>
      {drawn.map(({ store, index, start, size }) => (
        <span
          key={store.id}
          role="columnheader"
          aria-colindex={index + 2}
          className="absolute top-0 flex h-full flex-col justify-center border-l border-hairline px-2.5"
          style={{ left: start, width: size }}
        >
          <Link href={`/stores/${store.id}`} className="truncate hover:text-ink" title={store.name}>
            {store.name}
          </Link>
          <span className="truncate text-tiny">
            {store.channel}, {store.currency}
          </span>
          <Edge
            name={store.name}
            px={size}
            onResize={(px) => columns.resize(store.id, px)}
            onShift={(by) => columns.shift(store.id, by)}
          />
        </span>
      ))}
    </div>
  );
}

function Row({
  row,
  index,
  top,
  leftPx,
  drawn,
  selection,
  reload,
}: {
  row: RangeRow;
  index: number;
  top: number;
  leftPx: number;
  drawn: readonly Drawn[];
  selection: Selection;
  reload: () => void;
}) {
  const ticked = selection.all || selection.rows.has(row.id);
  const isAt = (col: number) => selection.at?.row === index && selection.at.col === col;
  const choose = (event: MouseEvent, col: number) => {
    // A link, a box or a menu in the cell does what it says.
    if ((event.target as HTMLElement).closest('a, input, button')) return;
    const place = { row: index, col };
    if (event.ctrlKey || event.metaKey) selection.turn(place);
    else selection.go(place, event.shiftKey);
  };
  const outline = (on: boolean) => (on ? 'outline-2 -outline-offset-2 outline-primary' : '');
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={ticked}
      className={`absolute inset-x-0 border-b border-hairline ${ticked ? 'bg-selection' : 'bg-paper'}`}
      style={{ height: ROW_PX, transform: `translateY(${top}px)` }}
    >
      <span
        role="rowheader"
        id={cellId({ row: index, col: 0 })}
        className={`sticky left-0 z-[1] flex h-full items-center bg-inherit pl-2 ${outline(isAt(0))}`}
        style={{ width: leftPx }}
        onClick={(event) => choose(event, 0)}
      >
        <label className="grid size-8 shrink-0 place-items-center">
          <input
            type="checkbox"
            className="size-4 accent-primary"
            aria-label={`Select ${row.title || 'Untitled'}`}
            checked={ticked}
            onChange={(event) => selection.onRow(row.id, (event.nativeEvent as unknown as MouseEvent).shiftKey)}
          />
        </label>
        <span className="mr-2.5">
          <Thumbnail row={row} />
        </span>
        <ProductName row={row} />
        <RowMenu product={row} onChange={reload} />
      </span>
      {drawn.map(({ store, index: i, start, size }) => {
        const chosen = selection.cells.has(cellKey(row.id, store.id));
        const cell = ownEntry(row.cells, store.id);
        return (
          <span
            key={store.id}
            role="gridcell"
            id={cellId({ row: index, col: i + 1 })}
            aria-colindex={i + 2}
            aria-selected={chosen}
            aria-label={cell ? `${store.name}: ${cell.state.replaceAll('-', ' ')}, ${cellLine(cell)}` : undefined}
            className={`absolute top-0 flex h-full items-center overflow-hidden border-l border-hairline px-2.5 select-none ${chosen ? 'bg-selection' : ''} ${outline(isAt(i + 1))}`}
            style={{ left: start, width: size }}
            onClick={(event) => choose(event, i + 1)}
          >
            <Cell cell={cell} row={row} store={store} />
          </span>
        );
      })}
    </div>
  );
}
