import type { Pixels } from '../artwork/analysis';
import { scaling } from '../geometry/matrix';
import { flatten, mapPath } from '../paths/path';
import { coverageOf } from '../paths/scan';
import { ornamentByCode } from './ornaments';

/** Longer side of the picture, px: as that of an artwork's. */
const MINI_PX = 24;
const TOLERANCE_PX = 0.1;

const made = new Map<string, Pixels | null>();

/** What lies where on an ornament, coarsely: white, with its alpha. Null for an ornament that is not known. Made once for each. */
export function ornamentMini(code: string): Pixels | null {
  let mini = made.get(code);
  if (mini === undefined) made.set(code, (mini = draw(code)));
  return mini;
}

function draw(code: string): Pixels | null {
  const ornament = ornamentByCode(code);
  if (!ornament) return null;
  const scale = MINI_PX / Math.max(1, ornament.aspect);
  const [width, height] = [1, ornament.aspect].map((side) => Math.max(1, Math.round(side * scale))) as [number, number];
  const path = mapPath(ornament.path, scaling(width, height / ornament.aspect));
  const cover = coverageOf(flatten(path, TOLERANCE_PX), { width, height });
  const rgba = new Uint8Array(4 * width * height).fill(255);
  for (let p = 0; p < width * height; p += 1) rgba[4 * p + 3] = 0;
  for (let y = 0; cover && y < cover.height; y += 1)
    for (let x = 0; x < cover.width; x += 1)
      rgba[4 * ((y + cover.top) * width + x + cover.left) + 3] = Math.round(
        255 * Math.min(1, Math.abs(cover.data[y * cover.width + x]!)),
      );
  return { widthPx: width, heightPx: height, rgba };
}
