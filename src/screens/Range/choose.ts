/** Keys that are ticked, and the one that was ticked last: Shift extends from there. */
export interface Ticked {
  readonly on: ReadonlySet<string>;
  readonly last: string | null;
}

export const NONE_TICKED: Ticked = { on: new Set(), last: null };

/** Everything from the key ticked last to this one. */
export type Between = (from: string, to: string) => readonly string[];

/** Turns one key, or with `extend` all from the last one to it: they become what it becomes. */
export function tick({ on, last }: Ticked, key: string, extend: boolean, between: Between): Ticked {
  const turnOn = !on.has(key);
  const keys = extend && last !== null ? [...between(last, key), key] : [key];
  const next = new Set(on);
  for (const one of keys) {
    if (turnOn) next.add(one);
    else next.delete(one);
  }
  return { on: next, last: key };
}

/** In a list: everything from one to the other, whichever comes first. */
export function betweenInList(list: readonly string[]): Between {
  return (from, to) => {
    const [a, b] = [list.indexOf(from), list.indexOf(to)];
    return a < 0 || b < 0 ? [] : list.slice(Math.min(a, b), Math.max(a, b) + 1);
  };
}

/** A cell of products against stores. */
export const cellKey = (productId: string, storeId: string): string => `${productId}:${storeId}`;

export function cellOfKey(key: string): { productId: string; storeId: string } {
  const [productId = '', storeId = ''] = key.split(':');
  return { productId, storeId };
}

/** Where one stands in the grid: row 0 is the first product; column 0 is the product itself, then come the stores. */
export interface Place {
  readonly row: number;
  readonly col: number;
}

export interface GridSize {
  readonly rows: number;
  readonly cols: number;
  /** Rows in view. */
  readonly page: number;
}

const held = (value: number, most: number): number => Math.max(0, Math.min(most, value));

/** Where a key leads, as in a spreadsheet; null for a key that leads nowhere. With `far` (Ctrl) to the end of what is there. */
export function moved({ row, col }: Place, key: string, far: boolean, { rows, cols, page }: GridSize): Place | null {
  const [down, right] = [rows - 1, cols - 1];
  const to = (r: number, c: number): Place => ({ row: held(r, down), col: held(c, right) });
  switch (key) {
    case 'ArrowUp':
      return to(far ? 0 : row - 1, col);
    case 'ArrowDown':
      return to(far ? down : row + 1, col);
    case 'ArrowLeft':
      return to(row, far ? 0 : col - 1);
    case 'ArrowRight':
      return to(row, far ? right : col + 1);
    case 'Home':
      return to(far ? 0 : row, 0);
    case 'End':
      return to(far ? down : row, right);
    case 'PageUp':
      return to(row - page, col);
    case 'PageDown':
      return to(row + page, col);
    default:
      return null;
  }
}

/** The cells of stores in the rectangle that two places span. */
export function rectangle(a: Place, b: Place, productIds: readonly string[], storeIds: readonly string[]): string[] {
  const [top, bottom] = [Math.min(a.row, b.row), Math.max(a.row, b.row)];
  const [left, right] = [Math.max(1, Math.min(a.col, b.col)), Math.max(a.col, b.col)];
  return productIds
    .slice(top, bottom + 1)
    .flatMap((productId) => storeIds.slice(left - 1, right).map((storeId) => cellKey(productId, storeId)));
}
