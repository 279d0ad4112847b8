import type { Layer } from '../document/document';
import { printedBox } from '../geometry/area';
import { cornersOf, type Box } from '../geometry/box';
import { apply, type Point } from '../geometry/matrix';
import { everywhere, place, SLACK_MM, type Laid, type PlaceRemedy } from './moves';
import { seenMatrix, type PlacedLayer } from './placed';
import type { Remedy } from './remedy';

/** A gap larger than this share of the sheet is meant: a motif on a ground, not a strip that was overlooked. */
const STRIP = 0.15;

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
