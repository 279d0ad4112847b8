import crypto from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { printSizePx, type Geometry } from '../../src/core/geometry/area';
import type { SheetPlan } from '../../src/core/print/plan';
import { TypicaError } from '../../src/core/errors';
import { ProcessPool } from '../../src/server/processes/pool';
import type { Printed, PrintOrder } from '../../src/server/prints/printers';
import { openStudio } from '../../src/server/studio/folder';
import { memoryBlobs } from '../../src/adapters/blobs/memory';
import { photoArtwork } from './artworks';
import { bundle } from './bundle';
import type { Bench } from './bench';

/** The river poster: ISO 216 A4, A3 and A2, 18 × 24 in and 24 × 36 in, 3 mm of bleed. */
const SIZES_MM = [
  [210, 297],
  [297, 420],
  [420, 594],
  [457.2, 609.6],
  [609.6, 914.4],
] as const;
const SIDE = 6000;
const AT_ONCE = 2;

const posters = SIZES_MM.map(([widthMm, heightMm]): Geometry => ({
  widthMm,
  heightMm,
  outline: null,
  anchor: { xMm: 0, yMm: 0 },
  bleedMm: 3,
  safeMm: 5,
  dpi: 300,
  technique: 'giclee',
}));

/** The artwork over the whole sheet, cropped as fit `fill` does. */
function sheetOf(geometry: Geometry, sha256: string): SheetPlan {
  const [w, h] = [geometry.widthMm + 6, geometry.heightMm + 6];
  const side = Math.max(w, h);
  return {
    areaKey: 'main.sheet',
    geometryId: 'g',
    geometry,
    threads: null,
    layers: [
      {
        kind: 'artwork',
        tint: null,
        artwork: { id: 'art', sha256, vector: false, widthPx: SIDE, heightPx: SIDE },
        unitToMm: { a: side, b: 0, c: 0, d: side, e: (w - side) / 2 - 3, f: (h - side) / 2 - 3 },
      },
    ],
  };
}

async function inTurns<T>(items: readonly T[], work: (item: T) => Promise<unknown>): Promise<void> {
  const left = [...items];
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let item = left.pop(); item !== undefined; item = left.pop()) await work(item);
    }),
  );
}

const bench: Bench = {
  name: 'print-set',
  reference: `bare sharp, ${AT_ONCE} files at once, concurrency 1: resize to cover, PNG of level 2 with adaptive filtering, density 300, the poster’s five sizes from one ${SIDE}×${SIDE} JPEG`,
  rounds: 3,
  async setup() {
    const file = await photoArtwork(SIDE);
    const program = await bundle(path.join(import.meta.dirname, '../../src/server/prints/printer.main.ts'), 'printer');
    const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-bench-'));
    const blobs = memoryBlobs();
    const art = crypto.createHash('sha256').update(file).digest('hex');
    await blobs.put(art, file);
    const refused = () => new TypicaError('bug', 'bench', 'a printer was stopped');
    const printers = new ProcessPool<PrintOrder, Printed>({
      name: 'printer',
      open: () => openStudio<PrintOrder>({ home, files: blobs, program, heapMb: 400, needs: () => [art] }),
      size: AT_ONCE + 1,
      inFlight: 1,
      seconds: 300,
      memoryMb: 4000,
      idleMs: 20_000,
      tooSlow: refused,
      tooHeavy: refused,
    });
    let [ours, theirs] = [0, 0];
    return {
      async ours() {
        ours = 0;
        sharp.concurrency(1);
        await inTurns(posters, async (geometry) => {
          const order = { kind: 'sheet', sheet: sheetOf(geometry, art) } as const;
          const printed = await printers.ask(order, { owner: 'bench' });
          ours += (await fs.promises.readFile(printed.file)).length;
        });
      },
      async theirs() {
        theirs = 0;
        sharp.concurrency(1);
        await inTurns(posters, async (geometry) => {
          const { widthPx, heightPx } = printSizePx(geometry);
          const { length } = await sharp(file)
            .resize(widthPx, heightPx, { fit: 'cover' })
            .withMetadata({ density: 300 })
            .png({ compressionLevel: 2, adaptiveFiltering: true })
            .toBuffer();
          theirs += length;
        });
      },
      after: async () => {
        await printers.close();
        return `sizes: ours ${(ours / 1e6).toFixed(1)} MB, reference ${(theirs / 1e6).toFixed(1)} MB`;
      },
    };
  },
};

export default bench;
