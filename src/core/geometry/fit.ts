import { printedBox, type Geometry } from './area';
import { apply, chain, scaling, translation, type Matrix, type Point } from './matrix';
import { placementMatrix, type Placement } from './placement';
import { ownEntry } from '../own-entry';

/** How a layer follows an area of another shape. */
export const FITS = ['fill', 'fit', 'stretch', 'keep'] as const;
export type Fit = (typeof FITS)[number];

/**
 * Map that carries mm in geometry `from` to mm in geometry `to`:
 * `keep` moves so that the distance to the anchor stays, same mm;
 * `fill` scales evenly about the centers so that what covered the printed sheet still covers it (some is cropped);
 * `fit` scales evenly so that what was inside stays inside (a border may stay);
 * `stretch` scales each axis by itself.
 * Where `fill` crops, a `focus` (mm in `from`) keeps its place among the sheet's width and height, so that it stays in view.
 */
export function followMatrix(fit: Fit, from: Geometry, to: Geometry, focus: Point | null = null): Matrix {
  if (fit === 'keep') return translation(to.anchor.xMm - from.anchor.xMm, to.anchor.yMm - from.anchor.yMm);
  const f = printedBox(from);
  const t = printedBox(to);
  const sx = (t.right - t.left) / (f.right - f.left);
  const sy = (t.bottom - t.top) / (f.bottom - f.top);
  const even = fit === 'fill' ? Math.max(sx, sy) : Math.min(sx, sy);
  if (fit === 'fill' && focus) {
    const share = (value: number, low: number, high: number) => Math.min(1, Math.max(0, (value - low) / (high - low)));
    const u = share(focus.x, f.left, f.right);
    const v = share(focus.y, f.top, f.bottom);
    return chain(
      translation(-f.left, -f.top),
      scaling(even),
      translation(
        t.left - u * ((f.right - f.left) * even - (t.right - t.left)),
        t.top - v * ((f.bottom - f.top) * even - (t.bottom - t.top)),
      ),
    );
  }
  return chain(
    translation(-from.widthMm / 2, -from.heightMm / 2),
    fit === 'stretch' ? scaling(sx, sy) : scaling(even),
    translation(to.widthMm / 2, to.heightMm / 2),
  );
}

/** What `layerMatrix` needs of a layer. */
export interface FittedLayer {
  readonly geometryId: string;
  readonly placement: Placement;
  readonly fit: Fit;
  readonly overrides?: { readonly [geometryId: string]: Placement };
  /** A point of the layer's unit square. */
  readonly focus?: Point;
}

/**
 * Map from a layer's unit square to mm in geometry `targetId`: its own placement there, an override, or its placement on the
 * geometry where the seller placed it carried over by its fit. When that geometry is gone the placement is read as it stands.
 */
export function layerMatrix(
  layer: FittedLayer,
  aspect: number,
  targetId: string,
  geometries: { readonly [id: string]: Geometry },
): Matrix {
  const override = ownEntry(layer.overrides, targetId);
  if (override) return placementMatrix(override, aspect);
  const own = placementMatrix(layer.placement, aspect);
  const from = ownEntry(geometries, layer.geometryId);
  const to = ownEntry(geometries, targetId);
  if (layer.geometryId === targetId || !from || !to) return own;
  return chain(own, followMatrix(layer.fit, from, to, layer.focus ? apply(own, layer.focus) : null));
}
