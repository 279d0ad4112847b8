import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { Geometry } from '@/core/geometry/area';
import { contentHash } from '@/core/canonical/canonical';
import { OWN_FORMAT } from '@/core/listing/picture-format';
import type { SheetPlan } from '@/core/print/plan';
import { checkShotDocument } from '@/core/shot/shot';
import type { Painter as PainterClass, PaintOrder } from '@/server/pictures/painter';
import { flatArtwork } from './artworks';
import { bundle } from './bundle';
import type { Bench } from './bench';

/** Side of the artwork as sellers bring it, px. */
const SIDE = 3000;
const SHOTS = path.resolve(import.meta.dirname, '../../demo/shots');
/** Twelve of the demo's colors, two near-black and one heathered among them. */
const COLORS = [
  '#f6f4ee',
  '#e6dcc6',
  '#2d4a53',
  '#56663f',
  '#7a2a33',
  '#b5b9bd',
  '#1f2226',
  '#1b2a41',
  '#4f7fa8',
  '#d9a62e',
  '#dba3ae',
  '#94492b',
] as const;
const IN_FLIGHT = 3;

const chest = (heightMm: number, widthMm = 305): Geometry => ({
  widthMm,
  heightMm,
  outline: null,
  anchor: { xMm: 0, yMm: 0 },
  bleedMm: 0,
  safeMm: 6,
  dpi: 300,
  technique: 'direct-to-garment',
});

/** The artwork on an area, a little farther down with each design: what is kept of one is of no use to the next. */
const sheetOf = (areaKey: string, design: number): SheetPlan => ({
  areaKey,
  geometryId: 'g',
  geometry: chest(406),
  threads: null,
  layers: [
    {
      kind: 'artwork',
      tint: null,
      artwork: { id: 'art', sha256: 'art', vector: false, widthPx: SIDE, heightPx: SIDE },
      unitToMm: { a: 240, b: 0, c: 0, d: 240, e: 32, f: 40 + (design % 50) * 0.1 },
    },
  ],
});

function shotOf(code: string) {
  const document = checkShotDocument(JSON.parse(fs.readFileSync(path.join(SHOTS, code, 'shot.json'), 'utf8')));
  const files = fs.readdirSync(path.join(SHOTS, code)).filter((file) => file.endsWith('.png'));
  return {
    document,
    contentHash: contentHash(document),
    passes: Object.fromEntries(files.map((file) => [file, path.join(SHOTS, code, file)])),
  };
}

async function inFlight<T, R>(items: readonly T[], work: (item: T) => Promise<R>): Promise<R[]> {
  const out: R[] = [];
  let next = 0;
  await Promise.all(
    Array.from({ length: IN_FLIGHT }, async () => {
      while (next < items.length) {
        const i = next;
        next += 1;
        out[i] = await work(items[i]!);
      }
    }),
  );
  return out;
}

/** Twelve colors of some shots as JPEG, against packing as many ready pictures alone. */
function set(name: string, codes: readonly (readonly [code: string, areaKey: string])[], rounds: number): Bench {
  return {
    name,
    reference: `sharp's JPEG of quality 85 alone, ${12 * codes.length} ready pictures of 1600 × 1600, ${IN_FLIGHT} in flight`,
    rounds,
    async setup() {
      sharp.concurrency(1);
      sharp.cache(false);
      const program = await bundle(
        path.resolve(import.meta.dirname, '../../src/server/pictures/painter.ts'),
        'painter',
      );
      const { Painter } = (await import(program)) as { Painter: typeof PainterClass };
      const art = await flatArtwork(SIDE);
      const painter = new Painter(async (file) => (file === 'art' ? art : fs.promises.readFile(file)));
      const shots = codes.map(([code, areaKey]) => ({ shot: shotOf(code), areaKey }));
      let design = 0;
      const orders = (): PaintOrder[] =>
        shots.flatMap(({ shot, areaKey }) => {
          const sheets = [sheetOf(areaKey, design)];
          return COLORS.map((hex) => ({
            shot,
            factor: 1 as const,
            fabric: { hex, heather: hex === '#b5b9bd' },
            material: 'cotton',
            sheets,
            form: OWN_FORMAT,
          }));
        });
      const ready = await Promise.all(
        (await inFlight(orders(), (order) => painter.paint({ ...order, form: { ...OWN_FORMAT, format: 'png' } }))).map(
          ({ bytes }) => sharp(bytes).removeAlpha().raw().toBuffer(),
        ),
      );
      let [first, peak] = [0, 0];
      return {
        async ours() {
          design += 1;
          const began = performance.now();
          let seen = false;
          await inFlight(orders(), async (order) => {
            await painter.paint(order);
            if (!seen) first = performance.now() - began;
            seen = true;
            peak = Math.max(peak, process.memoryUsage().rss);
          });
        },
        theirs: () =>
          inFlight(ready, (rgb) =>
            sharp(rgb, { raw: { width: 1600, height: 1600, channels: 3 } })
              .jpeg({ quality: 85 })
              .toBuffer(),
          ),
        after: async () =>
          `first picture after ${first.toFixed(0)} ms; at most ${(peak / 1e6).toFixed(0)} MB in this process, of which ${(ready.length * 7.68).toFixed(0)} MB are the reference's pictures`,
      };
    },
  };
}

export const mockupSet = set('mockup-set', [['tee-front', 'main.front']], 7);
export const mockupProduct = set(
  'mockup-product',
  [
    ['tee-front', 'main.front'],
    ['tee-back', 'main.back'],
    ['tee-near', 'main.front'],
    ['hoodie-front', 'main.front'],
  ],
  5,
);
