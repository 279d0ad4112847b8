import { ownEntry } from '@/core/own-entry';

/** A place in a grid: row and column from 0. */
export interface GridCell {
  readonly row: number;
  readonly column: number;
}

/**
 * What is marked in a grid: a rectangle from where it was begun (`anchor`) to where one is (`head`). While `painting` the pointer is down, and what
 * is done to the first cell (`on`) will be done to all of the rectangle when it is let go.
 */
export interface GridSelection {
  readonly anchor: GridCell;
  readonly head: GridCell;
  readonly painting: { readonly on: boolean } | null;
}

export interface GridSize {
  readonly rows: number;
  readonly columns: number;
}

const held = (cell: GridCell, { rows, columns }: GridSize): GridCell => ({
  row: Math.max(0, Math.min(rows - 1, cell.row)),
  column: Math.max(0, Math.min(columns - 1, cell.column)),
});

/** One cell alone. */
export const at = (cell: GridCell): GridSelection => ({ anchor: cell, head: cell, painting: null });

/** Every cell of the rectangle, row by row. */
export function cellsOf({ anchor, head }: GridSelection): GridCell[] {
  const [top, bottom] = [Math.min(anchor.row, head.row), Math.max(anchor.row, head.row)];
  const [left, right] = [Math.min(anchor.column, head.column), Math.max(anchor.column, head.column)];
  const cells: GridCell[] = [];
  for (let row = top; row <= bottom; row += 1)
    for (let column = left; column <= right; column += 1) cells.push({ row, column });
  return cells;
}

export const holds = (selection: GridSelection | null, { row, column }: GridCell): boolean => {
  if (!selection) return false;
  const { anchor, head } = selection;
  return (
    row >= Math.min(anchor.row, head.row) &&
    row <= Math.max(anchor.row, head.row) &&
    column >= Math.min(anchor.column, head.column) &&
    column <= Math.max(anchor.column, head.column)
  );
};

/** The pointer goes down on a cell: painting begins with the opposite of what the cell is. With Shift the rectangle reaches here from where it began. */
export const pressed = (
  selection: GridSelection | null,
  cell: GridCell,
  isOn: boolean,
  shift: boolean,
): GridSelection => ({
  anchor: shift && selection ? selection.anchor : cell,
  head: cell,
  painting: { on: !isOn },
});

/** The pointer comes over a cell; without a pressed pointer nothing happens. */
export const dragged = (selection: GridSelection | null, cell: GridCell): GridSelection | null =>
  selection?.painting ? { ...selection, head: cell } : selection;

/** The pointer is let go: the rectangle stays marked. */
export const released = (selection: GridSelection): GridSelection => ({ ...selection, painting: null });

const STEPS: { readonly [key: string]: readonly [row: number, column: number] } = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Home: [0, -1000],
  End: [0, 1000],
  PageUp: [-1000, 0],
  PageDown: [1000, 0],
};

/** A key moves the head, with Shift the rectangle grows; null for a key that does not move. */
export function moved(selection: GridSelection, key: string, shift: boolean, size: GridSize): GridSelection | null {
  const step = ownEntry(STEPS, key);
  if (!step) return null;
  const head = held({ row: selection.head.row + step[0], column: selection.head.column + step[1] }, size);
  return shift ? { anchor: selection.anchor, head, painting: null } : at(head);
}
