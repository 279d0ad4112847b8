'use client';

import {
  createColumnHelper,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type SortingState,
} from '@tanstack/react-table';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { dayText } from '@/ui/when';
import { count } from '@/core/words/count';
import type { RangeData, RangeQuery, RangeRow } from './load';
import { ManyBar } from './ManyBar';
import { CellBar } from './CellBar';
import { Cell, ProductName, Thumbnail } from './RangeCells';
import { RowMenu } from './RowMenu';
import { AllTick, RowTick, TicksOf, useTicks } from './ticks';
import { priceLine, SORT_OF_COLUMN } from './view';

const features = tableFeatures({ rowSortingFeature });
const helper = createColumnHelper<typeof features, RangeRow>();

/** Classes of a column's cells and heading, by its id; stores' columns are alike. */
const LOOKS: ReadonlyMap<string, string> = new Map([
  ['select', 'w-8'],
  ['picture', 'w-14 py-1'],
  // Stays in view where many stores make the table wider than the window.
  ['title', 'sticky left-0 z-[1] min-w-52 bg-inherit pr-4 max-[900px]:min-w-44'],
  ['price', 'px-3 text-right whitespace-nowrap'],
  ['changed', 'px-3 text-right whitespace-nowrap text-muted max-[1100px]:hidden'],
  ['actions', 'w-8'],
]);
const STORE_LOOK = 'min-w-24 border-l border-hairline px-2.5';
const lookOf = (id: string) => LOOKS.get(id) ?? STORE_LOOK;

function columnsFor(stores: RangeData['stores'], refresh: () => void) {
  return helper.columns([
    helper.display({
      id: 'select',
      header: () => <AllTick />,
      cell: ({ row }) => <RowTick row={row.original} />,
    }),
    helper.display({ id: 'picture', header: '', cell: ({ row }) => <Thumbnail row={row.original} /> }),
    helper.accessor('title', { id: 'title', header: 'Product', cell: ({ row }) => <ProductName row={row.original} /> }),
    helper.display({
      id: 'price',
      header: 'Price',
      cell: ({ row }) => (
        <Link href={`/products/${row.original.id}?part=price`} className="hover:text-primary">
          {priceLine(row.original.prices)}
        </Link>
      ),
    }),
    helper.accessor('changedAt', { id: 'changed', header: 'Changed', cell: ({ getValue }) => dayText(getValue()) }),
    ...stores.map((store, i) =>
      helper.display({
        id: store.id,
        header: () => (
          <>
            <Link href={`/stores/${store.id}`} className="hover:text-ink">
              {store.name}
            </Link>
            <span className="block text-tiny">{store.channel}</span>
          </>
        ),
        cell: ({ row }) => (
          <Cell cell={row.original.cells[i]!} row={row.original} storeId={store.id} storeName={store.name} />
        ),
      }),
    ),
    helper.display({
      id: 'actions',
      header: () => <span className="sr-only">Actions</span>,
      cell: ({ row }) => <RowMenu product={row.original} onChange={refresh} />,
    }),
  ]);
}

/** A column's heading; where products can stand in its order, it sorts. */
function Heading({
  columnId,
  asked,
  onSort,
  children,
}: Pick<RangeData, 'asked'> & {
  columnId: string;
  onSort: (sort: RangeQuery['sort']) => void;
  children: React.ReactNode;
}) {
  const sort = SORT_OF_COLUMN.get(columnId);
  const on = sort !== undefined && sort === asked.sort;
  const falls = sort === 'changed';
  return (
    <th
      className={`py-2 font-normal ${lookOf(columnId)}`}
      aria-sort={on ? (falls ? 'descending' : 'ascending') : undefined}
    >
      {sort ? (
        <button type="button" className={`min-h-6 hover:text-ink ${on ? 'text-ink' : ''}`} onClick={() => onSort(sort)}>
          {children}
          <span aria-hidden>{on ? (falls ? ' ↓' : ' ↑') : ''}</span>
        </button>
      ) : (
        children
      )}
    </th>
  );
}

/** What can be done with what is ticked: whole products, and single listings. */
function SelectionBars({
  ticks,
  rows,
  stores,
  asked,
  total,
}: Pick<RangeData, 'stores' | 'rows' | 'asked' | 'total'> & { ticks: ReturnType<typeof useTicks> }) {
  const router = useRouter();
  const selected = rows.filter(({ id }) => ticks.rows.has(id));
  return (
    <>
      {selected.length > 0 && (
        <ManyBar
          products={selected}
          stores={stores}
          asked={asked}
          total={total}
          onDone={() => {
            ticks.clearRows();
            router.refresh();
          }}
          onClear={ticks.clearRows}
        />
      )}
      {ticks.cells.size > 0 && <CellBar cells={ticks.cells} stores={stores} onClear={ticks.clearCells} />}
    </>
  );
}

/** The products of a page against the stores; headings sort, ticks take several at once. */
export function RangeTable({
  stores,
  rows,
  asked,
  total,
  onSort,
}: Pick<RangeData, 'stores' | 'rows' | 'asked' | 'total'> & { onSort: (sort: RangeQuery['sort']) => void }) {
  const router = useRouter();
  // By what the stores are, not by which array holds them: a refresh brings a new one, and new columns would make every cell anew, with an
  // open menu and the focus in it.
  const storesText = JSON.stringify(stores);
  const columns = useMemo(
    () => columnsFor(JSON.parse(storesText) as RangeData['stores'], () => router.refresh()),
    [storesText, router],
  );
  const ticks = useTicks({ rows, stores });
  const sorted = [...SORT_OF_COLUMN].find(([, sort]) => sort === asked.sort)?.[0];
  const sorting: SortingState = sorted ? [{ id: sorted, desc: sorted === 'changed' }] : [];
  const table = useTable({
    features,
    columns,
    data: rows as RangeRow[],
    getRowId: (row) => row.id,
    // The server sorts: all pages, not this one.
    manualSorting: true,
    state: { sorting },
    onSortingChange: () => undefined,
  });
  return (
    <>
      <SelectionBars ticks={ticks} rows={rows} stores={stores} asked={asked} total={total} />
      <TicksOf value={ticks}>
        <div data-wide className="overflow-x-auto">
          <table className="w-full text-small" aria-label={`Range, ${count(rows.length, 'product')} on this page`}>
            <thead className="border-y border-hairline text-left text-muted">
              {table.getHeaderGroups().map((group) => (
                <tr key={group.id} className="bg-paper">
                  {group.headers.map((header) => (
                    <Heading key={header.id} columnId={header.column.id} asked={asked} onSort={onSort}>
                      <table.FlexRender header={header} />
                    </Heading>
                  ))}
                </tr>
              ))}
            </thead>
            <tbody>
              {table.getRowModel().rows.map((row) => (
                <tr
                  key={row.id}
                  className={`border-b border-hairline ${ticks.rows.has(row.id) ? 'bg-selection' : 'bg-paper'}`}
                >
                  {row.getAllCells().map((cell) => (
                    <td key={cell.id} className={lookOf(cell.column.id)}>
                      <table.FlexRender cell={cell} />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </TicksOf>
      {stores.length === 0 && (
        <p className="mt-3 text-small">
          <Link className="text-primary underline" href="/stores">
            Connect a store
          </Link>{' '}
          <span className="text-muted">to see here where each product stands in it.</span>
        </p>
      )}
    </>
  );
}
