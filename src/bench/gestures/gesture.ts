import type { Point } from '@/core/geometry/matrix';
import type { Placement } from '@/core/geometry/placement';

/** A gesture under way on one layer: pointer positions in mm go in, placements come out. `free` is held Shift (or what the gesture says it means). */
export interface Gesture {
  move(pointer: Point, free: boolean): Placement;
}

/** A layer as gestures see it. */
export interface Held {
  readonly placement: Placement;
  /** Height ÷ width. */
  readonly aspect: number;
}

export const round1 = (value: number): number => Math.round(value * 10) / 10;
export const MIN_WIDTH_MM = 1;
export const MAX_WIDTH_MM = 10_000;
export const clampWidth = (widthMm: number): number => Math.min(MAX_WIDTH_MM, Math.max(MIN_WIDTH_MM, widthMm));
