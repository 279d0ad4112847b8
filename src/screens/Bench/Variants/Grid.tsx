'use client';

import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { at, cellsOf, dragged, holds, moved, pressed, released, type GridSelection } from '@/bench/grid-selection';
import type { OptionValue } from '@/core/catalog/blank';
import { setChosen } from '@/core/document/choosing';
import { moveValue } from '@/core/variants/order';
import { IconButton } from '@/ui/IconButton';
import { Swatch } from '@/ui/Mark';
import { useDesk } from '../desk';
import { ColorPicture } from './ColorPicture';
import { canChoose, type GridCellView, type GridView } from './view';

/** Colors down, sizes across: whole rows and columns, rectangles by mouse and keys, single cells. */
export function Grid({ view, poor }: { view: GridView; poor: ReadonlyMap<string, readonly string[]> }) {
  const desk = useDesk('edit', 'setColor');
  const { rows, columns, cells, rowOption, columnOption } = view;
  const [selection, setSelection] = useState<GridSelection | null>(null);
  const table = useRef<HTMLTableElement>(null);
  const size = { rows: rows.length, columns: columns.length };
  const put = (some: readonly GridCellView[], on: boolean, label: string) => {
    const keys = some.filter((cell) => canChoose(cell) && cell.chosen !== on).map((cell) => cell.variant!.key);
    if (keys.length > 0) desk.edit(`${on ? 'Choose' : 'Drop'} ${label}`, (d) => setChosen(d, keys, on));
    const row = rows[cells.findIndex((line) => line.includes(some[0]!))];
    if (on && row && rowOption?.values.some((value) => value.hex !== null)) desk.setColor(row.code);
  };
  const toggleAll = (some: readonly GridCellView[], label: string) => {
    const open = some.filter((cell) => cell.variant && !cell.variant.ended);
    put(
      some,
      open.some((cell) => !cell.chosen),
      label,
    );
  };
  const within = (s: GridSelection) => cellsOf(s).flatMap(({ row, column }) => cells[row]?.[column] ?? []);
  const labelOf = (some: readonly GridCellView[]) => (some.length === 1 ? some[0]!.name : `${some.length} variants`);
  const finish = () => {
    if (!selection?.painting) return;
    const some = within(selection);
    put(some, selection.painting.on, labelOf(some));
    setSelection(released(selection));
  };
  // A pointer that is let go outside of the grid ends the painting too.
  const latest = useRef(finish);
  useEffect(() => {
    latest.current = finish;
  });
  useEffect(() => {
    const end = () => latest.current();
    window.addEventListener('pointerup', end);
    return () => window.removeEventListener('pointerup', end);
  }, []);
  const focus = (s: GridSelection) => {
    setSelection(s);
    table.current?.querySelector<HTMLElement>(`[data-cell="${s.head.row},${s.head.column}"]`)?.focus();
  };
  const onKey = (e: React.KeyboardEvent) => {
    const target = (e.target as HTMLElement).closest<HTMLElement>('[data-cell]');
    if (!target) return;
    const [row, column] = target.dataset.cell!.split(',').map(Number) as [number, number];
    // Whoever came here by Tab, or by a click elsewhere, begins here.
    const here = selection && selection.head.row === row && selection.head.column === column;
    const now = here ? selection : at({ row, column });
    if (e.key === ' ' || e.key === 'Enter') {
      e.preventDefault();
      const some = within(now);
      put(
        some,
        some.some((cell) => canChoose(cell) && !cell.chosen),
        labelOf(some),
      );
    } else if (e.key === 'Escape') setSelection(at({ row, column }));
    else {
      const next = moved(now, e.key, e.shiftKey, size);
      if (!next) return;
      e.preventDefault();
      focus(next);
    }
  };
  const picked = selection ? within(selection) : [];
  const move = (value: OptionValue, by: number) =>
    rowOption && desk.edit(`Move ${value.name}`, (d) => moveValue(d, rowOption, value.code, by));
  const isColor = rowOption?.values.some((value) => value.hex !== null) ?? false;
  return (
    <>
      <table ref={table} role="grid" aria-label="Variants" className="text-small select-none" onKeyDown={onKey}>
        <thead>
          <tr className="border-y border-hairline">
            <th className="font-normal text-left text-muted py-1.5 pr-4">{rowOption?.name ?? ''}</th>
            {columns.map((column, c) => (
              <th key={column?.code ?? 'one'} className="font-normal px-0.5 group align-bottom">
                {column && columnOption && (
                  <>
                    <button
                      type="button"
                      aria-label={`${column.name} in all ${rowOption?.name.toLowerCase() ?? 'variant'}s`}
                      onClick={() =>
                        toggleAll(
                          cells.map((line) => line[c]!),
                          column.name,
                        )
                      }
                      className="w-full min-w-[60px] min-h-6 py-1 hover:bg-selection rounded-paper"
                    >
                      {column.name}
                    </button>
                    <Order
                      name={column.name}
                      ways={['left', 'right']}
                      first={c === 0}
                      last={c === columns.length - 1}
                      onMove={(by) =>
                        desk.edit(`Move ${column.name}`, (d) => moveValue(d, columnOption, column.code, by))
                      }
                    />
                  </>
                )}
              </th>
            ))}
            <th className="font-normal text-muted pl-3 text-right">Chosen</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => {
            const line = cells[r]!;
            const own = line.filter((cell) => cell.variant && (!cell.variant.ended || cell.chosen));
            const fails = row ? (poor.get(row.code) ?? []) : [];
            return (
              <tr key={row?.code ?? 'only'} className="border-b border-hairline">
                <th className="font-normal text-left py-1 pr-3">
                  {row && (
                    <span className="flex items-center gap-2 group">
                      {isColor && <ColorPicture code={row.code} name={row.name} />}
                      <span className="min-w-0">
                        <button
                          type="button"
                          aria-label={`${row.name} in all ${columnOption?.name.toLowerCase() ?? 'variant'}s`}
                          onClick={() => toggleAll(line, row.name)}
                          className="inline-flex min-h-6 items-center gap-2 py-0.5 pr-2 whitespace-nowrap hover:bg-selection rounded-paper"
                        >
                          {row.hex && <Swatch hex={row.hex} name={row.name} size={16} />}
                          {row.name}
                        </button>
                        {fails.length > 0 && (
                          <span
                            title={`Low contrast: ${fails.join(', ')}`}
                            className="block text-tiny text-caution whitespace-nowrap border-l-[3px] border-caution pl-1.5"
                          >
                            low contrast: {fails.length === 1 ? fails[0] : `${fails.length} layers`}
                          </span>
                        )}
                      </span>
                      <span className="ml-auto">
                        <Order
                          name={row.name}
                          ways={['up', 'down']}
                          first={r === 0}
                          last={r === rows.length - 1}
                          onMove={(by) => move(row, by)}
                        />
                      </span>
                    </span>
                  )}
                </th>
                {line.map((cell, c) => {
                  const place = { row: r, column: c };
                  const focusable = selection
                    ? selection.head.row === r && selection.head.column === c
                    : r === 0 && c === 0;
                  return (
                    <td key={c} role="gridcell" className="px-0.5 py-0.5">
                      <Cell
                        cell={cell}
                        place={`${r},${c}`}
                        tabIndex={focusable ? 0 : -1}
                        marked={holds(selection, place) && picked.length > 1}
                        painting={holds(selection, place) ? (selection?.painting ?? null) : null}
                        onDown={(shift) => setSelection(pressed(selection, place, cell.chosen, shift))}
                        onOver={() => setSelection((s) => dragged(s, place))}
                      />
                    </td>
                  );
                })}
                <td className="pl-3 text-right text-muted whitespace-nowrap">
                  {line.filter((cell) => cell.chosen).length} of {own.length}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-2 h-4" role="status">
        {picked.length > 1 && !selection?.painting
          ? `${picked.length} marked: Space chooses or drops them, Shift and arrows make it larger.`
          : ''}
      </p>
    </>
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
      className={`min-w-[60px] cursor-pointer rounded-paper border px-1.5 py-1 leading-tight ${on ? 'bg-selection border-ink/40' : 'border-hairline bg-sheet hover:border-muted text-muted'} ${marked ? 'outline-2 outline-primary -outline-offset-1' : ''} ${cell.state === 'ended' ? 'opacity-60' : ''}`}
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
