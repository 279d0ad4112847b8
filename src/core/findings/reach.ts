import { readMini } from '../artwork/mini';
import type { Box } from '../geometry/box';
import { apply, invert, type Point } from '../geometry/matrix';
import { edgeOf, insideMm } from '../geometry/outline';
import { trimBox } from '../geometry/area';
import { seenBox, type PlacedLayer } from './placed';

const WHOLE: Box = { left: 0, top: 0, right: 1, bottom: 1 };
/** Alpha from which a place of an artwork counts as inked. */
const INKED = 0.3;
/** Points along each side of what is not known closer. */
const ALONG = 8;

/** Places of a layer that are inked, in its unit square: of an artwork what its coarse picture shows, else around what is seen of it. */
function inkedPlaces(visible: Box | null | undefined, mini: string | undefined): Point[] {
  const picture = mini === undefined ? null : readMini(mini);
  if (picture) {
    const { widthPx, heightPx, rgba } = picture;
    const places: Point[] = [];
    for (let y = 0; y < heightPx; y += 1)
      for (let x = 0; x < widthPx; x += 1)
        if (rgba[4 * (y * widthPx + x) + 3]! >= 255 * INKED)
          places.push({ x: (x + 0.5) / widthPx, y: (y + 0.5) / heightPx });
    if (places.length > 0) return places;
  }
  const { left, top, right, bottom } = visible ?? WHOLE;
  return Array.from({ length: ALONG + 1 }, (_, i) => i / ALONG).flatMap((t) => [
    { x: left + t * (right - left), y: top },
    { x: left + t * (right - left), y: bottom },
    { x: left, y: top + t * (bottom - top) },
    { x: right, y: top + t * (bottom - top) },
  ]);
}

/** How a layer lies in an area that is no rectangle. */
export interface Reach {
  /** Inked places, mm. */
  readonly points: readonly Point[];
  /** How far inside the place lies that is nearest to the edge, mm; below 0 outside. */
  readonly leastMm: number;
  /** Whether nothing of it lies inside. */
  readonly isOutside: boolean;
  /** Whether it covers the whole shape: then it is meant to be cut. */
  readonly covers: boolean;
  readonly box: Box;
}

/** Null for areas that are rectangles: their sides are measured exactly. */
export function reachOf(on: PlacedLayer, visible: Box | null | undefined, mini: string | undefined): Reach | null {
  if (on.geometry.outline === null) return null;
  const edge = edgeOf(on.geometry);
  const points = inkedPlaces(visible, mini).map((place) => apply(on.matrix, place));
  const depths = points.map((point) => insideMm(edge, point));
  const toUnit = invert(on.matrix);
  const { left, top, right, bottom } = visible ?? WHOLE;
  const covers = edge.every((polygon) =>
    polygon.every((_, i) => {
      if (i % 2 === 1) return true;
      const { x, y } = apply(toUnit, { x: polygon[i]!, y: polygon[i + 1]! });
      return x >= left - 1e-6 && x <= right + 1e-6 && y >= top - 1e-6 && y <= bottom + 1e-6;
    }),
  );
  return {
    points,
    leastMm: Math.min(...depths),
    isOutside: depths.every((depth) => depth <= 0),
    covers,
    box: seenBox(on.matrix, visible),
  };
}

/** Steps in which a layer is moved to the middle of a shape and made smaller until it lies inside. */
const MOVES = 12;
const SHRINKS = 40;
const LOOKED = 24;

/** The place that lies deepest inside a shape. */
function deepest({ geometry }: PlacedLayer): Point {
  const edge = edgeOf(geometry);
  const { right, bottom } = trimBox(geometry);
  let best = { x: right / 2, y: bottom / 2 };
  let depth = insideMm(edge, best);
  for (let i = 0; i <= LOOKED; i += 1)
    for (let j = 0; j <= LOOKED; j += 1) {
      const point = { x: (right * i) / LOOKED, y: (bottom * j) / LOOKED };
      const own = insideMm(edge, point);
      if (own > depth) [best, depth] = [point, own];
    }
  return best;
}

/** How a layer about `center` has to be moved, and made smaller, so that all of it lies so far inside; null where it cannot be. */
export function intoShape(
  on: PlacedLayer,
  { points }: Reach,
  center: Point,
  safeMm: number,
): { readonly center: Point; readonly scale: number } | null {
  const edge = edgeOf(on.geometry);
  const to = deepest(on);
  for (let i = 0; i < SHRINKS; i += 1) {
    const scale = 1 - i / SHRINKS;
    for (let j = 0; j <= MOVES; j += 1) {
      const at = { x: center.x + ((to.x - center.x) * j) / MOVES, y: center.y + ((to.y - center.y) * j) / MOVES };
      const fits = points.every(
        ({ x, y }) =>
          insideMm(edge, { x: at.x + scale * (x - center.x), y: at.y + scale * (y - center.y) }) >= safeMm + 0.02,
      );
      if (fits) return { center: at, scale };
    }
  }
  return null;
}
