'use client';

import { useEffect, useRef, useState } from 'react';
import { at, cellsOf, dragged, holds, moved, pressed, released, type GridSelection } from '@/bench/grid-selection';
import type { ProductDocument } from '@/core/document/document';
import { useDesk } from '../desk';
import { canChoose, type GridCellView, type GridView } from './view';

/** What choosing in the grid does, and what it is called: to choose, and not to. */
export interface Choosing {
  readonly words: readonly [string, string];
  choose(doc: ProductDocument, keys: readonly string[], on: boolean): ProductDocument;
}

/** What is marked in the grid, and how it is chosen: whole rows and columns, rectangles by mouse and keys, single cells. */
export function useGrid({ rows, columns, cells, rowOption }: GridView, { choose, words }: Choosing) {
  const { edit, setColor } = useDesk('edit', 'setColor');
  const [selection, setSelection] = useState<GridSelection | null>(null);
  const table = useRef<HTMLTableElement>(null);
  const put = (some: readonly GridCellView[], on: boolean, label: string) => {
    const keys = some.filter((cell) => canChoose(cell) && cell.chosen !== on).map((cell) => cell.variant!.key);
    if (keys.length > 0) edit(`${words[on ? 0 : 1]} ${label}`, (d) => choose(d, keys, on));
    const row = rows[cells.findIndex((line) => line.includes(some[0]!))];
    if (on && row && rowOption?.values.some((value) => value.hex !== null)) setColor(row.code);
  };
  const toggleAll = (some: readonly GridCellView[], label: string) => {
    const open = some.filter((cell) => canChoose(cell) && !cell.variant!.ended);
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
      const next = moved(now, e.key, e.shiftKey, { rows: rows.length, columns: columns.length });
      if (!next) return;
      e.preventDefault();
      focus(next);
    }
  };
  const picked = selection ? within(selection).length : 0;
  /** How a cell stands to what is marked, and what pressing it does. */
  const cellProps = (row: number, column: number, chosen: boolean) => {
    const place = { row, column };
    const inside = holds(selection, place);
    const head = selection?.head ?? { row: 0, column: 0 };
    return {
      place: `${row},${column}`,
      tabIndex: head.row === row && head.column === column ? 0 : -1,
      marked: inside && picked > 1,
      painting: inside ? (selection?.painting ?? null) : null,
      onDown: (shift: boolean) => setSelection(pressed(selection, place, chosen, shift)),
      onOver: () => setSelection((s) => dragged(s, place)),
    };
  };
  return { table, toggleAll, onKey, cellProps, picked, painting: selection?.painting != null };
}
