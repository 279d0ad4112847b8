'use client';

import { usePageKeys } from '@/ui/keys';
import { inField, onSurface } from '../keys';
import type { useView } from './use-view';

const ZOOM_STEP = 1.25;
/** How much of what is seen the view moves by for an arrow, across and down. */
const PANS: ReadonlyMap<string, readonly [number, number]> = new Map([
  ['ArrowLeft', [-0.1, 0]],
  ['ArrowRight', [0.1, 0]],
  ['ArrowUp', [0, -0.1]],
  ['ArrowDown', [0, 0.1]],
]);

/** Keys that see the area larger, smaller or whole, and move the view. */
export function useViewKeys({
  window,
  pan,
  zoomBy,
  seeWhole,
}: Pick<ReturnType<typeof useView>, 'window' | 'pan' | 'zoomBy' | 'seeWhole'>): void {
  usePageKeys({
    singles: (e) => {
      if (e.key === '+' || e.key === '=') zoomBy(ZOOM_STEP);
      else if (e.key === '-' || e.key === '−') zoomBy(1 / ZOOM_STEP);
      else if (e.key === '0') seeWhole();
      else return false;
      return true;
    },
    commands: (e) => {
      const [x, y] = PANS.get(e.key) ?? [0, 0];
      if ((x === 0 && y === 0) || inField() || !onSurface()) return false;
      pan(x * window.widthMm, y * window.heightMm);
      return true;
    },
  });
}
