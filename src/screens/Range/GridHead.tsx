'use client';

import Link from 'next/link';
import type { Columns } from './columns';
import { Edge } from './Edge';
import { AROUND_PX, HEAD_PX, type Drawn } from './grid-look';
import type { RangeState } from './use-range';
import type { Selection } from './use-selection';

/** What a column is dragged as. */
const COLUMN = 'text/x-typica-column';

/** Headings: products sort by their title, stores lead to their pages; edges are drawn to another width. */
export function GridHead({
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
      className="sticky top-0 z-20 border-y border-hairline bg-paper text-muted"
      style={{ width: widthPx, minWidth: '100%', height: HEAD_PX }}
    >
      <span
        role="columnheader"
        aria-sort={byTitle ? 'ascending' : 'none'}
        className="sticky left-0 z-10 flex h-full items-center bg-paper pl-2 max-[700px]:relative"
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
          className="absolute top-0 flex h-full cursor-grab flex-col justify-center border-l border-hairline px-2.5"
          style={{ left: start, width: size }}
          draggable
          onDragStart={(event) => event.dataTransfer.setData(COLUMN, store.id)}
          onDragOver={(event) => event.dataTransfer.types.includes(COLUMN) && event.preventDefault()}
          onDrop={(event) => columns.moveTo(event.dataTransfer.getData(COLUMN), store.id)}
        >
          <Link href={`/stores/${store.id}`} draggable={false} className="truncate hover:text-ink" title={store.name}>
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
