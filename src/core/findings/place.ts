import type { Layer } from '../document/document';
import { printedBox, trimBox, type Geometry } from '../geometry/area';
import { cornersOf, inset, type Box } from '../geometry/box';
import { followMatrix } from '../geometry/fit';
import { apply, axisLengths, invert, type Point } from '../geometry/matrix';
import { normalizeDegrees, type Placement } from '../geometry/placement';
import type { Spot } from './findings';
import { seenBox, seenMatrix, withPlacement, type PlacedLayer } from './placed';
import { intoShape, reachOf } from './reach';
import type { Remedy } from './remedy';
import { ownEntry, putEntry } from '../own-entry';

/** A layer, where it lies, and what is known of what it prints. */
export interface Laid {
  readonly layer: Layer;
  readonly placed: readonly PlacedLayer[];
  readonly visible: Box | null | undefined;
  readonly mini: string | undefined;
  /** Where it lies once it is changed. */
  readonly layOut: (layer: Layer) => readonly PlacedLayer[];
}

/** Closer than this is there, mm. */
const SLACK_MM = 0.05;
/** A gap larger than this share of the sheet is meant: a motif on a ground, not a strip that was overlooked. */
const STRIP = 0.15;
/** Sides stretched by less than this are not seen (common practice, no source). */
const STRETCHED = 0.03;

const round1 = (value: number) => Math.round(value * 10) / 10;
const hundredths = (value: number) => Math.round(value * 100) / 100;

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

type PlaceRemedy = Extract<Remedy, { kind: 'place' }>;

const place = (name: string, layer: Layer, on: PlacedLayer, change: (was: Placement) => Placement): PlaceRemedy => ({
  kind: 'place',
  name,
  geometryId: on.geometryId,
  placement: change(placementOf(layer, on)),
});

/** Geometries that a remedy changes at most, one after the other. */
const MOST_PLACES = 12;

/**
 * A remedy for every geometry on which something is wrong: what is found is put right, and the layer looked at again where it lies then, since others follow
 * the one that was changed.
 */
function everywhere(
  laid: Laid,
  first: PlaceRemedy,
  next: (layer: Layer, placed: readonly PlacedLayer[]) => PlaceRemedy | null,
): Remedy {
  const { geometryId, placement } = first;
  let layer = withPlacement(laid.layer, geometryId, placement);
  const also: Record<string, Placement> = {};
  for (let i = 0; i < MOST_PLACES; i += 1) {
    const more = next(layer, laid.layOut(layer));
    if (!more) break;
    layer = withPlacement(layer, more.geometryId, more.placement);
    if (more.geometryId !== geometryId) putEntry(also, more.geometryId, more.placement);
    else return first;
  }
  return Object.keys(also).length > 0 ? { ...first, also } : first;
}

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
  const name = 'Pull it inside the margin';
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

/** Whether a layer covers the whole printed sheet: then it is meant to be cut. */
function coversSheet({ geometry, matrix }: PlacedLayer, visible: Box | null | undefined): boolean {
  const toUnit = invert(seenMatrix(matrix, visible));
  const slack = 1e-4;
  return cornersOf(printedBox(geometry)).every((corner) => {
    const { x, y } = apply(toUnit, corner);
    return x >= -slack && y >= -slack && x <= 1 + slack && y <= 1 + slack;
  });
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

/** A bare wedge or strip along one side of a sheet. */
export interface Strip {
  readonly on: PlacedLayer;
  readonly stripMm: number;
  readonly side: string;
  /** The part of the sheet that is bare there. */
  readonly bare: Box;
  /** How many times larger the layer has to be, about the middle of the sheet, to cover it. */
  readonly grow: number;
}

type Side = 'left' | 'right' | 'top' | 'bottom';

/** The side of a sheet that a direction points to. */
const sideOf = ({ x, y }: Point): Side =>
  Math.abs(x) >= Math.abs(y) ? (x < 0 ? 'left' : 'right') : y < 0 ? 'top' : 'bottom';

/**
 * The widest strip or wedge that a layer leaves bare along the edge of a good with bleed: how far a corner of the sheet lies beyond one of its sides. Null
 * where it covers the sheet, or was never meant to.
 */
export function stripOn(on: PlacedLayer, visible: Box | null | undefined): Strip | null {
  const { geometry } = on;
  if (geometry.bleedMm === 0 || geometry.outline !== null) return null;
  const sheet = printedBox(geometry);
  const m = seenMatrix(on.matrix, visible);
  const middle = apply(m, { x: 0.5, y: 0.5 });
  const [sheetX, sheetY] = [(sheet.left + sheet.right) / 2, (sheet.top + sheet.bottom) / 2];
  const corners = cornersOf(sheet);
  let worst: { stripMm: number; side: Side } | null = null;
  let grow = 1;
  for (const unit of [
    { x: 0, y: 0.5 },
    { x: 1, y: 0.5 },
    { x: 0.5, y: 0 },
    { x: 0.5, y: 1 },
  ]) {
    const edge = apply(m, unit);
    const half = Math.hypot(edge.x - middle.x, edge.y - middle.y);
    if (half === 0) return null;
    const n = { x: (edge.x - middle.x) / half, y: (edge.y - middle.y) / half };
    const beyond = Math.max(...corners.map(({ x, y }) => (x - middle.x) * n.x + (y - middle.y) * n.y)) - half;
    const side = sideOf(n);
    const of = side === 'left' || side === 'right' ? sheet.right - sheet.left : sheet.bottom - sheet.top;
    if (beyond > of * STRIP) return null;
    if (beyond > SLACK_MM && (!worst || beyond > worst.stripMm)) worst = { stripMm: beyond, side };
    const fromSheet = Math.max(...corners.map(({ x, y }) => (x - sheetX) * n.x + (y - sheetY) * n.y));
    grow = Math.max(grow, fromSheet / half);
  }
  if (!worst) return null;
  const { stripMm, side } = worst;
  const bare = {
    left: side === 'right' ? sheet.right - stripMm : sheet.left,
    right: side === 'left' ? sheet.left + stripMm : sheet.right,
    top: side === 'bottom' ? sheet.bottom - stripMm : sheet.top,
    bottom: side === 'top' ? sheet.top + stripMm : sheet.bottom,
  };
  return { on, stripMm, side, bare, grow };
}

/** A layer made so large about the middle of the sheet that it covers it. */
function filled(layer: Layer, { on, grow }: Strip, visible: Box | null | undefined): PlaceRemedy {
  const seen = apply(seenMatrix(on.matrix, visible), { x: 0.5, y: 0.5 });
  return place('Fill the sheet', layer, on, (was) => ({
    ...was,
    widthMm: Math.ceil(was.widthMm * grow * 100 + 1) / 100,
    // What is seen stands in the middle of the sheet.
    xMm: on.geometry.widthMm / 2 + (was.xMm - seen.x) * grow,
    yMm: on.geometry.heightMm / 2 + (was.yMm - seen.y) * grow,
  }));
}

/** The strip with the remedy that clears it on every geometry where `isBare` says that one is there. */
export function stripRemedy(laid: Laid, worst: Strip): Remedy {
  const { layer, visible } = laid;
  return everywhere(laid, filled(layer, worst, visible), (changed, placed) => {
    const left = placed.flatMap((on) => stripOn(on, visible) ?? []);
    return left.length > 0 ? filled(changed, left[0]!, visible) : null;
  });
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
