import type { RangeStore } from './load';
import type { Place } from './choose';

export const ROW_PX = 62;
export const HEAD_PX = 42;
/** The box and the picture before a product's name, and the menu after it. */
export const AROUND_PX = 36 + 60 + 34;

/** The element of a place: the grid says by it where one stands. */
export const cellId = ({ row, col }: Place): string => `range-${row}-${col}`;

/** A store's column that is in view. */
export interface Drawn {
  readonly store: RangeStore;
  readonly index: number;
  readonly start: number;
  readonly size: number;
}
