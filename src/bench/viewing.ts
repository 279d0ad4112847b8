import type { Box } from '@/core/geometry/box';
import type { Point } from '@/core/geometry/matrix';

/** What of the area is in view: how much larger than when it just fits, and how far the middle is moved, mm. */
export interface View {
  readonly zoom: number;
  readonly panX: number;
  readonly panY: number;
}

export const WHOLE: View = { zoom: 1, panX: 0, panY: 0 };
export const MAX_ZOOM = 32;
const MIN_ZOOM = 0.5;

export interface Window {
  readonly left: number;
  readonly top: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly pxPerMm: number;
}

/** The part of the plane that a surface of this size shows: `room` whole at zoom 1, in the middle. */
export function windowOf(view: View, room: Box, size: { readonly width: number; readonly height: number }): Window {
  const [wide, high] = [room.right - room.left, room.bottom - room.top];
  const pxPerMm = (Math.min(size.width / wide, size.height / high) || 1) * view.zoom;
  const [widthMm, heightMm] = [size.width / pxPerMm, size.height / pxPerMm];
  return {
    left: (room.left + room.right) / 2 + view.panX - widthMm / 2,
    top: (room.top + room.bottom) / 2 + view.panY - heightMm / 2,
    widthMm,
    heightMm,
    pxPerMm,
  };
}

/** Zooms by a factor so that the point `at` (mm) stays where it is seen. At most 32 times, at least half. */
export function zoomAt(view: View, factor: number, at: Point, room: Box): View {
  const zoom = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, view.zoom * factor));
  const share = view.zoom / zoom;
  const center = { x: (room.left + room.right) / 2 + view.panX, y: (room.top + room.bottom) / 2 + view.panY };
  return {
    zoom,
    panX: view.panX + (at.x - center.x) * (1 - share),
    panY: view.panY + (at.y - center.y) * (1 - share),
  };
}

/** Distances of ruler marks, mm: the finest step whose marks are at least `leastPx` apart. */
export function rulerStep(pxPerMm: number, unit: 'cm' | 'in', leastPx = 48): number {
  const steps =
    unit === 'cm'
      ? [1, 5, 10, 20, 50, 100, 200, 500, 1000]
      : [1 / 8, 1 / 4, 1 / 2, 1, 2, 5, 10, 20, 40].map((n) => n * 25.4);
  return steps.find((step) => step * pxPerMm >= leastPx) ?? steps.at(-1)!;
}
