import type { Point } from '../geometry/matrix';
import { pickPart, type Photo } from './photo';

/** How a seller says what of a photograph takes the fabric's color: picked places, and brush strokes over that. Places in px. */
export interface Part {
  readonly picks: readonly { readonly x: number; readonly y: number; readonly tolerance: number }[];
  readonly strokes: readonly {
    readonly add: boolean;
    readonly radiusPx: number;
    readonly points: readonly Point[];
  }[];
}

/** The part as coverage, 0 … 255: what was picked, with the strokes laid over it in their order. */
export function coverageOfPart(photo: Photo, { picks, strokes }: Part): Uint8Array {
  const mask = new Uint8Array(photo.widthPx * photo.heightPx);
  for (const { x, y, tolerance } of picks) {
    const part = pickPart(photo, x, y, tolerance);
    for (let i = 0; i < mask.length; i += 1) if (part[i]! > mask[i]!) mask[i] = part[i]!;
  }
  for (const { add, radiusPx, points } of strokes)
    points.forEach((p, i) => paint(mask, photo, points[Math.max(0, i - 1)]!, p, radiusPx, add));
  return mask;
}

/** One straight piece of a stroke: round, its edge softened over two pixels. */
function paint(
  mask: Uint8Array,
  { widthPx, heightPx }: Photo,
  from: Point,
  to: Point,
  radius: number,
  add: boolean,
): void {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const long = dx * dx + dy * dy;
  const reach = radius + 1;
  for (
    let y = Math.max(0, Math.floor(Math.min(from.y, to.y) - reach));
    y < Math.min(heightPx, Math.max(from.y, to.y) + reach);
    y += 1
  )
    for (
      let x = Math.max(0, Math.floor(Math.min(from.x, to.x) - reach));
      x < Math.min(widthPx, Math.max(from.x, to.x) + reach);
      x += 1
    ) {
      const [px, py] = [x + 0.5 - from.x, y + 0.5 - from.y];
      const t = long === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / long));
      const share = Math.min(1, Math.max(0, (radius - Math.hypot(px - t * dx, py - t * dy)) / 2 + 0.5));
      if (share === 0) continue;
      const i = y * widthPx + x;
      mask[i] = Math.round(mask[i]! + ((add ? 255 : 0) - mask[i]!) * share);
    }
}

/** Marks and part for the same photograph at another size. */
export const scalePart = ({ picks, strokes }: Part, by: number): Part => ({
  picks: picks.map((pick) => ({ ...pick, x: pick.x * by, y: pick.y * by })),
  strokes: strokes.map((stroke) => ({
    ...stroke,
    radiusPx: stroke.radiusPx * by,
    points: stroke.points.map((p) => ({ x: p.x * by, y: p.y * by })),
  })),
});
