'use client';

import { ArrowDown, ArrowUp } from 'lucide-react';
import type { Option, OptionValue } from '@/core/catalog/blank';
import { moveValue } from '@/core/variants/order';
import { IconButton } from '@/ui/IconButton';
import { Swatch } from '@/ui/Mark';
import { useDesk } from '../desk';
import { ColorPicture } from './ColorPicture';
import { useGrid, type Choosing } from './use-grid';
import { canChoose, type GridCellView, type GridView } from './view';

/** Colors down, sizes across: whole rows and columns, rectangles by mouse and keys, single cells. */
export function Grid({
  view,
  poor,
  choosing,
}: {
  view: GridView;
  poor: ReadonlyMap<string, readonly string[]>;
  choosing: Choosing;
}) {
  const { rows, columns, cells, rowOption, columnOption } = view;
  const { table, toggleAll, onKey, cellProps, picked, painting } = useGrid(view, choosing);
  return (
    <>
      <table ref={table} role="grid" aria-label="Variants" className="text-small select-none" onKeyDown={onKey}>
        <thead>
          <tr className="border-y border-hairline">
            <th className="font-normal text-left text-muted py-1.5 pr-4">{rowOption?.name ?? ''}</th>
            {columns.map((column, c) => (
              <th key={column?.code ?? 'one'} className="font-normal px-0.5 group align-bottom">
                {column && columnOption && (
                  <ColumnHead
                    column={column}
                    option={columnOption}
                    rowName={rowOption?.name ?? 'variant'}
                    place={{ index: c, count: columns.length }}
                    onToggle={() =>
                      toggleAll(
                        cells.map((line) => line[c]!),
                        column.name,
                      )
                    }
                  />
                )}
              </th>
            ))}
            <th className="font-normal text-muted pl-3 text-right">Chosen</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={row?.code ?? 'only'} className="border-b border-hairline">
              <th className="font-normal text-left py-1 pr-3">
                {row && rowOption && (
                  <RowHead
                    row={row}
                    option={rowOption}
                    columnName={columnOption?.name ?? 'variant'}
                    place={{ index: r, count: rows.length }}
                    poor={poor.get(row.code) ?? []}
                    onToggle={() => toggleAll(cells[r]!, row.name)}
                  />
                )}
              </th>
              {cells[r]!.map((cell, c) => (
                <td key={c} role="gridcell" className="px-0.5 py-0.5">
                  <Cell cell={cell} {...cellProps(r, c, cell.chosen)} />
                </td>
              ))}
              <Chosen line={cells[r]!} />
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-2 h-4" role="status">
        {picked > 1 && !painting
          ? `${picked} marked: Space chooses or drops them, Shift and arrows make it larger.`
          : ''}
      </p>
    </>
  );
}

interface HeadProps {
  readonly option: Option;
  /** Where the value stands among the option's. */
  readonly place: { readonly index: number; readonly count: number };
  readonly onToggle: () => void;
}

function ColumnHead({
  column,
  option,
  rowName,
  place,
  onToggle,
}: HeadProps & { column: OptionValue; rowName: string }) {
  const { edit } = useDesk('edit');
  return (
    <>
      <button
        type="button"
        aria-label={`${column.name} in all ${rowName.toLowerCase()}s`}
        onClick={onToggle}
        className="w-full min-w-[60px] min-h-6 py-1 hover:bg-selection rounded-paper"
      >
        {column.name}
      </button>
      <Order
        name={column.name}
        ways={['left', 'right']}
        first={place.index === 0}
        last={place.index === place.count - 1}
        onMove={(by) => edit(`Move ${column.name}`, (d) => moveValue(d, option, column.code, by))}
      />
    </>
  );
}

function RowHead({
  row,
  option,
  columnName,
  place,
  poor,
  onToggle,
}: HeadProps & { row: OptionValue; columnName: string; poor: readonly string[] }) {
  const { edit } = useDesk('edit');
  const isColor = option.values.some((value) => value.hex !== null);
  return (
    <span className="flex items-center gap-2 group">
      {isColor && <ColorPicture code={row.code} name={row.name} />}
      <span className="min-w-0">
        <button
          type="button"
          aria-label={`${row.name} in all ${columnName.toLowerCase()}s`}
          onClick={onToggle}
          className="inline-flex min-h-6 items-center gap-2 py-0.5 pr-2 whitespace-nowrap hover:bg-selection rounded-paper"
        >
          {row.hex && <Swatch hex={row.hex} name={row.name} size={16} />}
          {row.name}
        </button>
        {poor.length > 0 && (
          <span
            title={`Low contrast: ${poor.join(', ')}`}
            className="block text-tiny text-caution whitespace-nowrap border-l-[3px] border-caution pl-1.5"
          >
            low contrast: {poor.length === 1 ? poor[0] : `${poor.length} layers`}
          </span>
        )}
      </span>
      <span className="ml-auto">
        <Order
          name={row.name}
          ways={['up', 'down']}
          first={place.index === 0}
          last={place.index === place.count - 1}
          onMove={(by) => edit(`Move ${row.name}`, (d) => moveValue(d, option, row.code, by))}
        />
      </span>
    </span>
  );
}

/** How many of a row are chosen, of those that can be. */
function Chosen({ line }: { line: readonly GridCellView[] }) {
  const able = line.filter((cell) => cell.chosen || (canChoose(cell) && !cell.variant!.ended));
  return (
    <td className="pl-3 text-right text-muted whitespace-nowrap">
      {line.filter((cell) => cell.chosen).length} of {able.length}
    </td>
  );
}

function Order({
  name,
  ways,
  first,
  last,
  onMove,
}: {
  name: string;
  ways: readonly ['up' | 'left', 'down' | 'right'];
  first: boolean;
  last: boolean;
  onMove: (by: number) => void;
}) {
  const turn = ways[0] === 'left' ? '-rotate-90' : '';
  return (
    <span
      className={`inline-flex ${ways[0] === 'up' ? 'flex-col' : ''} opacity-40 group-hover:opacity-100 focus-within:opacity-100`}
    >
      <IconButton name={`Move ${name} ${ways[0]}`} disabled={first} onClick={() => onMove(-1)}>
        <ArrowUp size={12} aria-hidden className={turn} />
      </IconButton>
      <IconButton name={`Move ${name} ${ways[1]}`} disabled={last} onClick={() => onMove(1)}>
        <ArrowDown size={12} aria-hidden className={turn} />
      </IconButton>
    </span>
  );
}

function Cell({
  cell,
  place,
  tabIndex,
  marked,
  painting,
  onDown,
  onOver,
}: {
  cell: GridCellView;
  place: string;
  tabIndex: number;
  marked: boolean;
  painting: { readonly on: boolean } | null;
  onDown: (shift: boolean) => void;
  onOver: () => void;
}) {
  if (cell.state === 'none')
    return (
      <span
        data-cell={place}
        tabIndex={tabIndex}
        className="block text-center text-muted"
        aria-label={`${cell.name}: not made`}
      >
        –
      </span>
    );
  const on = painting ? (canChoose(cell) ? painting.on : cell.chosen) : cell.chosen;
  const told = { there: `${cell.stock} in stock`, out: 'out of stock', ended: 'ended', none: '' }[cell.state];
  return (
    <div
      role="checkbox"
      data-cell={place}
      tabIndex={tabIndex}
      aria-checked={on}
      aria-disabled={!canChoose(cell)}
      aria-label={`${cell.name}, ${cell.cost}, tier ${cell.tier}, ${told}`}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        // The pointer stays free, so that it is noticed over other cells.
        (e.target as Element).releasePointerCapture?.(e.pointerId);
        onDown(e.shiftKey);
      }}
      onPointerEnter={onOver}
      className={`min-w-[60px] cursor-pointer rounded-paper border px-1.5 py-1 leading-tight ${on ? 'bg-selection border-ink/40' : 'border-hairline bg-sheet hover:border-muted text-muted'} ${marked ? 'outline-2 outline-primary -outline-offset-1' : ''} ${cell.state === 'ended' || cell.closed ? 'opacity-60' : ''}`}
    >
      <span className="flex justify-between gap-1.5">
        <span aria-hidden className="w-3">
          {on ? '✓' : ''}
        </span>
        <span>{cell.cost}</span>
      </span>
      <span className="flex justify-between gap-1.5 text-tiny">
        <span className="text-muted">{cell.tier}</span>
        <span className={cell.state === 'there' ? 'text-muted' : cell.state === 'out' ? 'text-caution' : 'text-stop'}>
          {cell.stock}
        </span>
      </span>
    </div>
  );
}
