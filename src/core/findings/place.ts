import type { Layer } from '../document/document';
import { printedBox, trimBox, type Geometry } from '../geometry/area';
import { inset, type Box } from '../geometry/box';
import { followMatrix } from '../geometry/fit';
import { apply, axisLengths, chain, scaling, translation, type Matrix } from '../geometry/matrix';
import { placedBox, normalizeDegrees, type Placement } from '../geometry/placement';
import type { Spot } from './findings';
import type { Remedy } from './remedy';
import { ownEntry } from '../own-entry';

/** A layer on one geometry: from its unit square to mm there. */
export interface PlacedLayer {
  readonly geometryId: string;
  readonly geometry: Geometry;
  readonly matrix: Matrix;
}

/** Closer than this is there, mm. */
const SLACK_MM = 0.05;
/** A gap larger than this share of the sheet is meant: a motif on a ground, not a strip that was overlooked. */
const STRIP = 0.15;
/** Sides stretched by less than this are not seen (common practice, no source). */
const STRETCHED = 0.03;

const round1 = (value: number) => Math.round(value * 10) / 10;

/** The box of what is seen of a layer, mm: transparent edges of an artwork do not count. */
export const seenBox = (matrix: Matrix, visible: Box | null | undefined): Box =>
  visible
    ? placedBox(
        chain(
          scaling(visible.right - visible.left, visible.bottom - visible.top),
          translation(visible.left, visible.top),
          matrix,
        ),
      )
    : placedBox(matrix);

/** Where the layer is on a geometry, as a placement that can be changed. */
function placementOf(layer: Layer, { geometryId, matrix }: PlacedLayer): Placement {
  const override = ownEntry(layer.overrides, geometryId);
  if (override) return override;
  if (layer.geometryId === geometryId) return layer.placement;
  const center = apply(matrix, { x: 0.5, y: 0.5 });
  const { flipX, flipY } = layer.placement;
  const turn = flipX ? Math.atan2(-matrix.b, -matrix.a) : Math.atan2(matrix.b, matrix.a);
  return {
    xMm: center.x,
    yMm: center.y,
    widthMm: axisLengths(matrix).x,
    rotationDeg: normalizeDegrees((turn * 180) / Math.PI),
    flipX,
    flipY,
  };
}

const place = (name: string, layer: Layer, on: PlacedLayer, change: (was: Placement) => Placement): Remedy => ({
  kind: 'place',
  name,
  geometryId: on.geometryId,
  placement: change(placementOf(layer, on)),
});

/** How far a layer reaches past the safe margin, at its worst; null where it keeps inside, or is meant to run over the trim. */
export function overMargin(
  layer: Layer,
  placed: readonly PlacedLayer[],
  visible: Box | null | undefined,
): { leftMm: number; safeMm: number; remedy: Remedy; spot: Spot } | null {
  let worst: { on: PlacedLayer; leftMm: number; box: Box } | null = null;
  for (const on of placed) {
    const { geometry } = on;
    const trim = trimBox(geometry);
    const box = seenBox(on.matrix, visible);
    const edges = [box.left - trim.left, box.top - trim.top, trim.right - box.right, trim.bottom - box.bottom];
    // What runs over the trim is cut there on purpose (on goods with bleed) or told as lying outside.
    const inside = edges.filter((edge) => edge > -SLACK_MM);
    if (inside.length < 4) continue;
    const leftMm = Math.min(...inside);
    if (leftMm < geometry.safeMm - SLACK_MM && (!worst || leftMm < worst.leftMm)) worst = { on, leftMm, box };
  }
  if (!worst) return null;
  const { on, box } = worst;
  const safe = inset(trimBox(on.geometry), on.geometry.safeMm);
  const scale = Math.min(
    1,
    (safe.right - safe.left) / (box.right - box.left),
    (safe.bottom - safe.top) / (box.bottom - box.top),
  );
  return {
    leftMm: Math.max(0, worst.leftMm),
    safeMm: on.geometry.safeMm,
    spot: { geometryId: on.geometryId, box },
    remedy: place('Pull it inside the margin', layer, on, (was) => {
      // The seen box after scaling about the layer's own center, and then the shortest way inside.
      const [left, right] = [box.left, box.right].map((x) => was.xMm + (x - was.xMm) * scale) as [number, number];
      const [top, bottom] = [box.top, box.bottom].map((y) => was.yMm + (y - was.yMm) * scale) as [number, number];
      const by = (low: number, high: number, from: number, to: number) =>
        low < from ? from - low : high > to ? to - high : 0;
      const hundredths = (value: number) => Math.round(value * 100) / 100;
      return {
        ...was,
        widthMm: Math.floor(was.widthMm * scale * 100) / 100,
        xMm: hundredths(was.xMm + by(left, right, safe.left, safe.right)),
        yMm: hundredths(was.yMm + by(top, bottom, safe.top, safe.bottom)),
      };
    }),
  };
}

/** The part of a sheet beside a box on one side. */
const barePart = (sheet: Box, box: Box, side: string): Box => ({
  left: side === 'right' ? box.right : sheet.left,
  right: side === 'left' ? box.left : sheet.right,
  top: side === 'bottom' ? box.bottom : sheet.top,
  bottom: side === 'top' ? box.top : sheet.bottom,
});

/** The widest strip that stays bare along the edge of a good with bleed; null where the layer covers it, or was never meant to. */
export function bareStrip(
  layer: Layer,
  placed: readonly PlacedLayer[],
  visible: Box | null | undefined,
): { stripMm: number; side: string; remedy: Remedy; spot: Spot } | null {
  let worst: { on: PlacedLayer; stripMm: number; side: string; box: Box } | null = null;
  for (const on of placed) {
    const { geometry, matrix } = on;
    const upright = Math.min(Math.abs(matrix.b), Math.abs(matrix.a)) < 1e-6 * Math.hypot(matrix.a, matrix.b);
    if (geometry.bleedMm === 0 || !upright) continue;
    const sheet = printedBox(geometry);
    const box = seenBox(matrix, visible);
    const [wide, high] = [sheet.right - sheet.left, sheet.bottom - sheet.top];
    const gaps = [
      { side: 'left', mm: box.left - sheet.left, of: wide },
      { side: 'right', mm: sheet.right - box.right, of: wide },
      { side: 'top', mm: box.top - sheet.top, of: high },
      { side: 'bottom', mm: sheet.bottom - box.bottom, of: high },
    ];
    if (gaps.some((gap) => gap.mm > gap.of * STRIP)) continue;
    for (const gap of gaps)
      if (gap.mm > SLACK_MM && (!worst || gap.mm > worst.stripMm)) worst = { on, stripMm: gap.mm, side: gap.side, box };
  }
  if (!worst) return null;
  const { on, box } = worst;
  const sheet = printedBox(on.geometry);
  const grow = Math.max(
    1,
    (sheet.right - sheet.left) / (box.right - box.left),
    (sheet.bottom - sheet.top) / (box.bottom - box.top),
  );
  return {
    stripMm: worst.stripMm,
    side: worst.side,
    spot: { geometryId: on.geometryId, box: barePart(sheet, box, worst.side) },
    remedy: place('Fill the sheet', layer, on, (was) => {
      const [cx, cy] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
      return {
        ...was,
        widthMm: Math.ceil(was.widthMm * grow * 100 + 1) / 100,
        // What is seen stands in the middle of the sheet.
        xMm: on.geometry.widthMm / 2 + (was.xMm - cx) * grow,
        yMm: on.geometry.heightMm / 2 + (was.yMm - cy) * grow,
      };
    }),
  };
}

/** By how much a layer with fit `stretch` is pulled out of shape at its worst, as a share; null under three hundredths. */
export function stretchedBy(
  layer: Layer,
  placed: readonly PlacedLayer[],
  geometries: { readonly [id: string]: Geometry },
): { share: number; geometryId: string } | null {
  const from = ownEntry(geometries, layer.geometryId);
  if (layer.fit !== 'stretch' || !from) return null;
  let worst: { share: number; geometryId: string } | null = null;
  for (const { geometryId, geometry } of placed) {
    if (geometryId === layer.geometryId || ownEntry(layer.overrides, geometryId)) continue;
    const sides = axisLengths(followMatrix('stretch', from, geometry));
    const share = Math.max(sides.x / sides.y, sides.y / sides.x) - 1;
    if (share > STRETCHED && (!worst || share > worst.share)) worst = { share, geometryId };
  }
  return worst;
}

/** The layer at the largest width at which it is sharp; null where that would be next to nothing. */
export function sharpRemedy(layer: Layer, on: PlacedLayer, sharpMm: number): Remedy | null {
  const widthMm = Math.floor(sharpMm * 10) / 10;
  if (widthMm < 5) return null;
  return place(`Make it ${round1(widthMm)} mm wide`, layer, on, (was) => ({ ...was, widthMm }));
}

/** The layer so many times larger, about its center. */
export function largerRemedy(layer: Layer, on: PlacedLayer, factor: number): Remedy {
  const widthMm = Math.ceil(placementOf(layer, on).widthMm * factor * 10) / 10;
  return place(`Make it ${round1(widthMm)} mm wide`, layer, on, (was) => ({ ...was, widthMm }));
}
