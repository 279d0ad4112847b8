import type { Layer } from '../document/document';
import { printedBox, trimBox, type Geometry } from '../geometry/area';
import { inset, type Box } from '../geometry/box';
import { followMatrix } from '../geometry/fit';
import { axisLengths } from '../geometry/matrix';
import { ownEntry } from '../own-entry';
import type { Spot } from './finding';
import { everywhere, place, placementOf, SLACK_MM, type Laid, type PlaceRemedy } from './moves';
import { coversSheet, seenBox, type PlacedLayer } from './placed';
import { intoShape, reachOf } from './reach';
import type { Remedy } from './remedy';
import { stripOn } from './strip';

/** Sides stretched by less than this are not seen (common practice, no source). */
const STRETCHED = 0.03;

const hundredths = (value: number) => Math.round(value * 100) / 100;

/** Something that comes too near to an edge of the area. */
interface TooNear {
  readonly on: PlacedLayer;
  /** How far inside the edge it is, mm; below 0: how far beyond. */
  readonly leftMm: number;
  readonly box: Box;
}

/** What is left between a layer and each side of the trim, mm; below 0 beyond it. */
const sidesOf = ({ geometry, matrix }: PlacedLayer, visible: Box | null | undefined) => {
  const trim = trimBox(geometry);
  const box = seenBox(matrix, visible);
  return {
    box,
    sides: [
      { side: 'left', mm: box.left - trim.left },
      { side: 'top', mm: box.top - trim.top },
      { side: 'right', mm: trim.right - box.right },
      { side: 'bottom', mm: trim.bottom - box.bottom },
    ],
  };
};

/** Whether a layer comes into the safe margin of a geometry without crossing the trim; null where it keeps away, or is meant to run over it. */
function inMargin(on: PlacedLayer, { layer, visible, mini }: Pick<Laid, 'layer' | 'visible' | 'mini'>): TooNear | null {
  const { safeMm } = on.geometry;
  // A picture that nearly covers the sheet is told by the strip that it leaves.
  if (layer.kind === 'artwork' && stripOn(on, visible)) return null;
  const reach = reachOf(on, visible, mini);
  if (reach)
    return !reach.covers && reach.leastMm > -SLACK_MM && reach.leastMm < safeMm - SLACK_MM
      ? { on, leftMm: Math.max(0, reach.leastMm), box: reach.box }
      : null;
  const { box, sides } = sidesOf(on, visible);
  // What runs over the trim is told as cut or outside.
  if (sides.some(({ mm }) => mm <= -SLACK_MM)) return null;
  const leftMm = Math.min(...sides.map(({ mm }) => mm));
  return leftMm < safeMm - SLACK_MM ? { on, leftMm: Math.max(0, leftMm), box } : null;
}

const nearest = (all: readonly (TooNear | null)[]): TooNear | null =>
  all.reduce((worst, one) => (one && (!worst || one.leftMm < worst.leftMm) ? one : worst), null);

/** A layer moved the shortest way inside the safe margin, and made smaller where it is too large for that; null where that is not possible. */
function pulledInside(
  layer: Layer,
  { on, box }: TooNear,
  visible: Box | null | undefined,
  mini: string | undefined,
): PlaceRemedy | null {
  const name = 'Move it inside the margin';
  const { safeMm } = on.geometry;
  const reach = reachOf(on, visible, mini);
  if (reach) {
    const was = placementOf(layer, on);
    const into = intoShape(on, reach, { x: was.xMm, y: was.yMm }, safeMm);
    if (!into) return null;
    const { center, scale } = into;
    return place(name, layer, on, () => ({
      ...was,
      xMm: hundredths(center.x),
      yMm: hundredths(center.y),
      widthMm: Math.floor(was.widthMm * scale * 100) / 100,
    }));
  }
  const safe = inset(trimBox(on.geometry), safeMm);
  const scale = Math.min(
    1,
    (safe.right - safe.left) / (box.right - box.left),
    (safe.bottom - safe.top) / (box.bottom - box.top),
  );
  return place(name, layer, on, (was) => {
    // The seen box after scaling about the layer's own center, and then the shortest way inside.
    const [left, right] = [box.left, box.right].map((x) => was.xMm + (x - was.xMm) * scale) as [number, number];
    const [top, bottom] = [box.top, box.bottom].map((y) => was.yMm + (y - was.yMm) * scale) as [number, number];
    const by = (low: number, high: number, from: number, to: number) =>
      low < from ? from - low : high > to ? to - high : 0;
    return {
      ...was,
      widthMm: Math.floor(was.widthMm * scale * 100) / 100,
      xMm: hundredths(was.xMm + by(left, right, safe.left, safe.right)),
      yMm: hundredths(was.yMm + by(top, bottom, safe.top, safe.bottom)),
    };
  });
}

/** Pulls a layer inside on every geometry on which `find` finds something. */
function pullInside(laid: Laid, worst: TooNear, find: (on: PlacedLayer) => TooNear | null): Remedy | undefined {
  const { layer, visible, mini } = laid;
  const first = pulledInside(layer, worst, visible, mini);
  if (!first) return undefined;
  return everywhere(laid, first, (changed, placed) => {
    const left = nearest(placed.map((on) => find(on) ?? inMargin(on, laid)));
    return left && pulledInside(changed, left, visible, mini);
  });
}

/** How far a layer reaches past the safe margin, at its worst; null where it keeps inside, or is meant to run over the trim. */
export function overMargin(
  laid: Laid,
): { leftMm: number; safeMm: number; remedy: Remedy | undefined; spot: Spot } | null {
  const find = (on: PlacedLayer) => inMargin(on, laid);
  const worst = nearest(laid.placed.map(find));
  if (!worst) return null;
  const { geometryId, geometry } = worst.on;
  return {
    leftMm: worst.leftMm,
    safeMm: geometry.safeMm,
    spot: { geometryId, box: worst.box },
    remedy: pullInside(laid, worst, find),
  };
}

/**
 * What crosses the trim of a good with bleed and ends before the bleed does: the knife cuts it, a little more or less each time. Letters and ornaments are told
 * however far they run; a picture that runs to the end of the bleed is meant to.
 */
export function overTrim(laid: Laid): { cutMm: number; side: string; remedy: Remedy | undefined; spot: Spot } | null {
  const { layer, placed, visible } = laid;
  const find = (on: PlacedLayer): (TooNear & { side: string }) | null => {
    const { bleedMm, outline } = on.geometry;
    if (bleedMm === 0 || outline !== null || coversSheet(on, visible)) return null;
    if (layer.kind === 'artwork' && stripOn(on, visible)) return null;
    const { box, sides } = sidesOf(on, visible);
    const most = layer.kind === 'artwork' ? bleedMm - SLACK_MM : Infinity;
    const cut = sides.filter(({ mm }) => -mm > SLACK_MM && -mm < most);
    if (cut.length === 0) return null;
    const worst = cut.reduce((a, b) => (b.mm < a.mm ? b : a));
    return { on, leftMm: worst.mm, box, side: worst.side };
  };
  const found = placed.flatMap((on) => find(on) ?? []);
  if (found.length === 0) return null;
  const worst = found.reduce((a, b) => (b.leftMm < a.leftMm ? b : a));
  return {
    cutMm: -worst.leftMm,
    side: worst.side,
    spot: { geometryId: worst.on.geometryId, box: worst.box },
    remedy: pullInside(laid, worst, find),
  };
}

/** What reaches outside of what is printed on a geometry; null where nothing does, or a picture covers all of it and is meant to be cut. */
function beyond(on: PlacedLayer, { layer, visible, mini }: Pick<Laid, 'layer' | 'visible' | 'mini'>): TooNear | null {
  const told = (overMm: number, box: Box) => (overMm > SLACK_MM ? { on, leftMm: -overMm, box } : null);
  const reach = reachOf(on, visible, mini);
  if (reach) return reach.covers ? null : told(-reach.leastMm, reach.box);
  if (coversSheet(on, visible)) return null;
  const [box, sheet] = [seenBox(on.matrix, visible), printedBox(on.geometry)];
  const across = [sheet.left - box.left, box.right - sheet.right] as const;
  const down = [sheet.top - box.top, box.bottom - sheet.bottom] as const;
  // A picture that runs off at both ends is a band that is meant to, where it is to fill, or there is a bleed.
  const isBand = layer.kind === 'artwork' && (layer.fit === 'fill' || on.geometry.bleedMm > 0);
  const over = [across, down].map(([one, other]) =>
    isBand && Math.min(one, other) >= -SLACK_MM ? 0 : Math.max(one, other),
  );
  return told(Math.max(...over), box);
}

/** How far a layer reaches outside of what is printed, at its worst, and how it comes inside. */
export function outsideBy(laid: Laid): { overMm: number; remedy: Remedy | undefined; spot: Spot } | null {
  const find = (on: PlacedLayer) => beyond(on, laid);
  const worst = nearest(laid.placed.map(find));
  if (!worst) return null;
  return {
    overMm: -worst.leftMm,
    spot: { geometryId: worst.on.geometryId, box: worst.box },
    remedy: pullInside(laid, worst, find),
  };
}

/** Whether nothing of a layer lies on any of its sheets. */
export const isUnprinted = ({ placed, visible, mini }: Laid): boolean =>
  placed.every((on) => {
    const reach = reachOf(on, visible, mini);
    if (reach) return reach.isOutside && !reach.covers;
    const [box, sheet] = [seenBox(on.matrix, visible), printedBox(on.geometry)];
    return box.right <= sheet.left || box.left >= sheet.right || box.bottom <= sheet.top || box.top >= sheet.bottom;
  });

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
