'use client';

import type { MouseEvent, RefObject } from 'react';
import { ownEntry } from '@/core/own-entry';
import { cellKey } from './choose';
import { cellId, ROW_PX, type Drawn } from './grid-look';
import type { RangeRow } from './load';
import { Cell, ProductName, Thumbnail } from './RangeCells';
import { RowMenu } from './RowMenu';
import type { Selection } from './use-selection';
import { cellLabel } from './view';

/** A product and where it stands in the stores in view. */
export function GridRow({
  row,
  index,
  top,
  leftPx,
  drawn,
  selection,
  draggingRef,
  reload,
}: {
  row: RangeRow;
  index: number;
  top: number;
  leftPx: number;
  drawn: readonly Drawn[];
  selection: Selection;
  draggingRef: RefObject<boolean>;
  reload: () => void;
}) {
  const ticked = selection.all || selection.rows.has(row.id);
  const isAt = (col: number) => selection.at?.row === index && selection.at.col === col;
  const choose = (event: MouseEvent, col: number) => {
    // A link, a box or a menu in the cell does what it says.
    if ((event.target as HTMLElement).closest('a, input, button') || event.button !== 0) return;
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
        className={`sticky left-0 z-[1] flex h-full max-[700px]:relative items-center bg-inherit pl-2 ${outline(isAt(0))}`}
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
      {drawn.map((column) => (
        <StoreCell
          key={column.store.id}
          row={row}
          index={index}
          column={column}
          selection={selection}
          draggingRef={draggingRef}
          outline={outline(isAt(column.index + 1))}
          onChoose={choose}
        />
      ))}
    </div>
  );
}

function StoreCell({
  row,
  index,
  column: { store, index: i, start, size },
  selection,
  draggingRef,
  outline,
  onChoose,
}: {
  row: RangeRow;
  index: number;
  column: Drawn;
  selection: Selection;
  draggingRef: RefObject<boolean>;
  outline: string;
  onChoose: (event: MouseEvent, col: number) => void;
}) {
  const chosen = selection.cells.has(cellKey(row.id, store.id));
  const cell = ownEntry(row.cells, store.id);
  return (
    <span
      role="gridcell"
      id={cellId({ row: index, col: i + 1 })}
      aria-colindex={i + 2}
      aria-selected={chosen}
      aria-label={cellLabel(cell, store.name)}
      className={`absolute top-0 flex h-full items-center overflow-hidden border-l border-hairline px-2.5 select-none ${chosen ? 'bg-selection' : ''} ${outline}`}
      style={{ left: start, width: size }}
      onMouseDown={(event) => {
        draggingRef.current = true;
        onChoose(event, i + 1);
      }}
      onMouseEnter={() => draggingRef.current && selection.go({ row: index, col: i + 1 }, true)}
    >
      <Cell cell={cell} row={row} store={store} />
    </span>
  );
}
