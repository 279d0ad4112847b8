import sharp, { type PngOptions } from 'sharp';
import type { ArtworkSource, SheetPlan } from '../../src/core/print/plan';
import type { Lettering } from '../../src/core/lettering/text';
import { openSheet } from '../../src/server/images/compose';
import { encodePng } from '../../src/server/images/png';
import { flatArtwork, photoArtwork } from './artworks';
import type { Bench } from './bench';

const SIZE = 3000;
const [WIDTH, HEIGHT] = [3600, 4800];
const SCALE = 1.05;
const DEGREES = 12;
const DPI = 300;
const MM = 25.4 / DPI;
const CLEAR = { r: 0, g: 0, b: 0, alpha: 0 };

/** The slice's print file: one artwork, sized and turned, a line of text over it, on 3600 × 4800 px. */
function sheetOf(artwork: ArtworkSource): SheetPlan {
  const side = SIZE * SCALE * MM;
  const turn = (DEGREES * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) * side, Math.sin(turn) * side];
  const [cx, cy] = [(WIDTH * MM) / 2, (HEIGHT * MM) / 2];
  const box = { w: 240, h: 30 };
  return {
    areaKey: 'main.front',
    geometryId: 'g',
    threads: null,
    geometry: {
      widthMm: WIDTH * MM,
      heightMm: HEIGHT * MM,
      outline: null,
      anchor: { xMm: 0, yMm: 0 },
      bleedMm: 0,
      safeMm: 0,
      dpi: DPI,
      technique: 'direct-to-garment',
    },
    layers: [
      {
        kind: 'artwork',
        artwork,
        tint: null,
        unitToMm: { a: cos, b: sin, c: -sin, d: cos, e: cx - (cos - sin) / 2, f: cy - (sin + cos) / 2 },
      },
      {
        kind: 'text',
        layerId: 'words',
        lettering: LETTERING,
        unitToMm: { a: box.w, b: 0, c: 0, d: box.h, e: 30, f: 340 },
      },
    ],
  };
}

const LETTERING = {
  text: 'The tide waits for us',
  family: 'playfair-display',
  style: 'bold',
  sizeMm: 20,
  align: 'center',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#182a4a',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 240,
  boxHeightMm: 30,
  shrinkToMm: null,
  wrap: true,
} satisfies Lettering;

/** Where sharp's own PNG is smaller with filters, and costs at most half as much again, they are taken. */
const SETTINGS = [
  { name: 'default PNG', options: {} },
  { name: 'PNG of level 2 with adaptive filtering', options: { compressionLevel: 2, adaptiveFiltering: true } },
] as const;

async function bareSharp(file: Buffer, png: PngOptions): Promise<Buffer> {
  const turn = (DEGREES * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) * SCALE, Math.sin(turn) * SCALE];
  // One affine step, which is its fastest way; raw between the steps, so that it pays for no encoding but the last.
  const turned = await sharp(file)
    .ensureAlpha()
    .affine([cos, -sin, sin, cos], { background: CLEAR, interpolator: 'bicubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = turned.info;
  const [w, h] = [Math.min(WIDTH, width), Math.min(HEIGHT, height)];
  const cut = await sharp(turned.data, { raw: { width, height, channels: 4 } })
    .extract({ left: Math.floor((width - w) / 2), top: Math.floor((height - h) / 2), width: w, height: h })
    .raw()
    .toBuffer();
  const text = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="360"><text x="${WIDTH / 2}" y="250" text-anchor="middle" font-family="serif" font-weight="bold" font-size="236" fill="#182a4a">The tide waits for us</text></svg>`;
  return sharp({ create: { width: WIDTH, height: HEIGHT, channels: 4, background: CLEAR } })
    .composite([
      {
        input: cut,
        raw: { width: w, height: h, channels: 4 },
        left: Math.floor((WIDTH - w) / 2),
        top: Math.floor((HEIGHT - h) / 2),
      },
      { input: Buffer.from(text), left: 0, top: 4015 },
    ])
    .withMetadata({ density: DPI })
    .png(png)
    .toBuffer();
}

function benchOf(name: string, make: () => Promise<Buffer>): Bench {
  let best: (typeof SETTINGS)[number] = SETTINGS[0];
  return {
    name,
    reference: () =>
      `bare sharp, concurrency 2: affine ${SCALE}×, ${DEGREES}°, bicubic, composite with a line of text on ${WIDTH}×${HEIGHT}, ${best.name}, density ${DPI}`,
    rounds: 7,
    async setup() {
      sharp.concurrency(2);
      const file = await make();
      const bytes = new Map([['art', file]]);
      const sheet = sheetOf({ id: 'art', sha256: 'art', vector: false, widthPx: SIZE, heightPx: SIZE });
      const tries: { setting: (typeof SETTINGS)[number]; ms: number; length: number }[] = [];
      for (const setting of SETTINGS) {
        const began = performance.now();
        const { length } = await bareSharp(file, setting.options);
        tries.push({ setting, ms: performance.now() - began, length });
      }
      const [plain, filtered] = [tries[0]!, tries[1]!];
      best = filtered.length < plain.length && filtered.ms < 1.5 * plain.ms ? filtered.setting : plain.setting;
      let [ours, theirs] = [0, 0];
      return {
        async ours() {
          const open = await openSheet(async (sha256) => bytes.get(sha256)!, sheet, DPI);
          ours = (await encodePng(open, DPI, 'rgba')).length;
        },
        async theirs() {
          theirs = (await bareSharp(file, best.options)).length;
        },
        after: async () => `sizes: ours ${(ours / 1e6).toFixed(2)} MB, reference ${(theirs / 1e6).toFixed(2)} MB`,
      };
    },
  };
}

export const flat = benchOf('print-file-flat', () => flatArtwork(SIZE));
export const photo = benchOf('print-file-photo', () => photoArtwork(SIZE));
