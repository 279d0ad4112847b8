import path from 'node:path';
import sharp from 'sharp';
import { ornamentByCode } from '../../src/core/ornaments/ornaments';
import { mapPath } from '../../src/core/paths/path';
import { drawInks } from '../../src/core/paths/scan';
import { newRaster } from '../../src/core/print/pixels';
import { finishOf } from '../../src/core/shot/finish';
import { ShotKernel } from '../../src/core/shot/kernel';
import { planesOf } from '../../src/core/shot/planes';
import { checkShotDocument } from '../../src/core/shot/shot';
import { decodeShot } from '../../src/server/images/shots';
import fs from 'node:fs';

/** A color of a good with the color of the ink that is tried on it. */
export type Tried = readonly [hex: string, heather: boolean, ink: string];
export const TRIED: readonly Tried[] = [
  ['#ffffff', false, '#7a2a33'],
  ['#4f7fa8', false, '#f6f4ee'],
  ['#b5b9bd', true, '#1f2226'],
  ['#1b1d21', false, '#d9a62e'],
];

/** A shot with a compass on each of its areas, on some colors (one where it has none of its own), as PNG of `sidePx`; for the eye, with the kernel that the application uses. */
export async function picturesOf(
  folder: string,
  code: string,
  sidePx: number,
  tried: readonly Tried[] = TRIED,
): Promise<Buffer[]> {
  const at = path.join(folder, code);
  const document = checkShotDocument(JSON.parse(fs.readFileSync(path.join(at, 'shot.json'), 'utf8')));
  const kernel = new ShotKernel(
    planesOf(await decodeShot(document, async (file) => fs.readFileSync(path.join(at, file)))),
  );
  const own = tried.slice(0, document.passes.fabric ? tried.length : 1);
  const made: Buffer[] = [];
  for (const [hex, heather, ink] of own) {
    for (const [key, area] of Object.entries(document.areas)) {
      const map = area.map;
      const [w, h] = map.kind === 'traced' ? [map.uMm[1], map.vMm[1]] : [map.widthMm, map.heightMm];
      const px = 3;
      const raster = newRaster(Math.max(1, Math.round(w * px)), Math.max(1, Math.round(h * px)));
      const ornament = ornamentByCode('river-compass')!;
      const s = Math.min(w, h) * 0.7 * px;
      drawInks(
        raster,
        [{ path: mapPath(ornament.path, { a: 1, b: 0, c: 0, d: 1 / ornament.aspect, e: 0, f: 0 }), color: ink }],
        {
          a: s,
          b: 0,
          c: 0,
          d: s,
          e: (w * px - s) / 2,
          f: (h * px - s) / 2,
        },
      );
      kernel.print(key, { raster, leftMm: 0, topMm: 0, pxPerMm: px }, finishOf('direct-to-garment', 'cotton'));
    }
    const rgb = Buffer.from(kernel.picture({ hex, heather }));
    made.push(
      await sharp(rgb, { raw: { width: kernel.widthPx, height: kernel.heightPx, channels: 3 } })
        .resize(sidePx, sidePx)
        .png()
        .toBuffer(),
    );
  }
  return made;
}
