'use client';

import { useEffect, useRef } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ShelfItem } from '@/core/shelf/shelf';
import { ShelfRow } from './ShelfRow';
import type { Shelf } from './use-shelf';
import { columns, LEFT_OUT, sortedBy } from './view';

const ROW_PX = 66;
/** Compare, picture, then the columns of `columns`; those that a narrow window leaves out are said by `LEFT_OUT`. */
export const GRID =
  'grid grid-cols-[28px_58px_minmax(132px,1.5fr)_minmax(82px,.8fr)_minmax(116px,1fr)_minmax(90px,.9fr)_minmax(82px,.8fr)_minmax(110px,1fr)_62px_minmax(76px,.6fr)_minmax(92px,.7fr)] max-[1240px]:grid-cols-[28px_58px_minmax(118px,1.5fr)_minmax(94px,1fr)_minmax(74px,.9fr)_minmax(66px,.8fr)_minmax(94px,1fr)_minmax(66px,.6fr)_minmax(84px,.7fr)] max-[900px]:grid-cols-[28px_58px_minmax(118px,1.5fr)_minmax(94px,1fr)_minmax(66px,.6fr)_minmax(84px,.7fr)] gap-x-2.5 items-center pl-3 pr-[18px]';

/** The table of blanks. Only rows in view are drawn; the rest of the catalog comes as it is scrolled to. */
export function ShelfTable({
  shelf,
  currency,
  compared,
  full,
  onCompare,
}: {
  shelf: Shelf;
  currency: string;
  compared: readonly string[];
  /** Whether no further blank can be compared. */
  full: boolean;
  /** Always the same function: rows that stay as they are are not drawn again while one scrolls. */
  onCompare: (item: ShelfItem) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { query, total, need } = shelf;
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 3,
  });
  const shown = rows.getVirtualItems();
  const [first, last] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0];
  useEffect(() => {
    if (total > 0) need(first, last);
  }, [first, last, total, need]);
  useEffect(() => {
    // Another question is read from its first answer on.
    scroller.current?.scrollTo({ top: 0 });
  }, [query]);
  return (
    <div
      ref={scroller}
      role="table"
      aria-label="Blanks"
      aria-rowcount={total + 1}
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto text-small focus-visible:outline-offset-[-2px]"
    >
      <Head shelf={shelf} />
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize() }}>
        {shown.map((row) => {
          const item = shelf.item(row.index);
          return (
            <div
              key={row.key}
              role="row"
              aria-rowindex={row.index + 2}
              data-partner={item?.partner.name}
              className={`${GRID} absolute inset-x-0 border-b border-hairline hover:bg-sheet`}
              style={{ height: ROW_PX, transform: `translateY(${row.start}px)` }}
            >
              {item ? (
                <ShelfRow
                  key={item.id}
                  item={item}
                  currency={currency}
                  compared={compared.includes(item.id)}
                  full={full}
                  families={query.families}
                  onCompare={onCompare}
                />
              ) : (
                <span role="cell" className="col-start-3 text-muted">
                  …
                </span>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** The headings, by which the table is sorted. */
function Head({ shelf: { query, change } }: { shelf: Shelf }) {
  return (
    <div role="rowgroup" className="sticky top-0 z-10 bg-paper">
      <div role="row" aria-rowindex={1} className={`${GRID} border-y border-hairline text-muted`}>
        <span role="columnheader" className="sr-only">
          Compare
        </span>
        <span role="columnheader" className="col-start-2" aria-label="Picture" />
        {columns(query).map((column) => {
          const on = query.sort === column.sort;
          return (
            <span
              key={column.sort}
              role="columnheader"
              aria-sort={on ? (query.descending ? 'descending' : 'ascending') : 'none'}
              className={`${column.right ? 'text-right' : ''} ${LEFT_OUT[column.sort] ?? ''}`}
            >
              <button
                type="button"
                title={column.says}
                className={`min-h-8 text-left hover:text-ink ${column.right ? 'text-right' : ''} ${on ? 'text-ink' : ''}`}
                onClick={() => change(sortedBy(query, column.sort))}
              >
                {column.name}
                <span aria-hidden>{on ? (query.descending ? ' ↓' : ' ↑') : ''}</span>
              </button>
            </span>
          );
        })}
      </div>
    </div>
  );
}
