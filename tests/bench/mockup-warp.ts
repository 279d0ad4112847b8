import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { premultiply } from '@/core/print/pixels';
import { rasterizeMap } from '@/core/shot/area-map';
import { finishOf } from '@/core/shot/finish';
import { ShotKernel } from '@/core/shot/kernel';
import { planesOf } from '@/core/shot/planes';
import type { HomographyMap } from '@/core/shot/shot';
import { flatArtwork } from './artworks';
import type { Bench } from './bench';

const SIDE = 1200;
/** A poster of 2:3 in perspective, over most of the picture. */
const CORNERS = [
  { x: 230, y: 70 },
  { x: 960, y: 150 },
  { x: 930, y: 1120 },
  { x: 200, y: 1090 },
] as const;
const [WIDTH, HEIGHT] = [900, 1200] as const;

const run = (args: readonly string[]) =>
  new Promise<number>((resolve, reject) => {
    const began = performance.now();
    const child = spawn('/usr/bin/convert', args, { stdio: ['ignore', 'ignore', 'inherit'] });
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(performance.now() - began) : reject(new Error(`convert ended with ${code}`)),
    );
  });

const bench: Bench = {
  name: 'mockup-warp',
  reference: () =>
    'ImageMagick -distort Perspective, bilinear, one thread as ours, of the same pixels; start-up, decoding and encoding taken off by a run that only decodes and encodes',
  rounds: 9,
  async setup() {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-warp-'));
    const art = sharp(await flatArtwork(WIDTH * 2)).resize(WIDTH, HEIGHT, { fit: 'fill' });
    const file = path.join(folder, 'art.mpc.png');
    await art.clone().png({ compressionLevel: 1 }).toFile(file);
    const raw = await art.ensureAlpha().raw().toBuffer();
    const raster = { widthPx: WIDTH, heightPx: HEIGHT, data: new Uint8Array(raw) };
    premultiply(raster.data);
    const map: HomographyMap = { kind: 'homography', cornersPx: CORNERS, widthMm: WIDTH / 4, heightMm: HEIGHT / 4 };
    const n = SIDE * SIDE;
    const kernel = new ShotKernel(
      planesOf({
        widthPx: SIDE,
        heightPx: SIDE,
        straightTo: 0.8,
        exposure: 1,
        rest: { values: new Uint16Array(n * 3), scale: 1 },
        shade: null,
        direct: null,
        specular: null,
        fabric: null,
        front: null,
        good: null,
        pattern: null,
        areas: { 'main.sheet': rasterizeMap(map, SIDE, SIDE) },
      }),
    );
    const finish = finishOf('giclee', 'paper');
    const out = path.join(folder, 'out.rgba');
    const pairs = [`0,0`, `${WIDTH},0`, `${WIDTH},${HEIGHT}`, `0,${HEIGHT}`].map(
      (from, i) => `${from} ${CORNERS[i]!.x},${CORNERS[i]!.y}`,
    );
    const common = ['-limit', 'thread', '1', file];
    let [whole, bare] = [0, 0];
    return {
      async ours() {
        kernel.print('main.sheet', { raster, leftMm: 0, topMm: 0, pxPerMm: 4 }, finish);
      },
      // The bench itself takes the two runs apart: what is timed is their difference.
      async theirs() {
        whole = await run([
          ...common,
          '-virtual-pixel',
          'transparent',
          '-interpolate',
          'bilinear',
          '-define',
          'distort:viewport=1200x1200',
          '-filter',
          'point',
          '-distort',
          'Perspective',
          pairs.join('  '),
          '-depth',
          '8',
          out,
        ]);
        bare = await run([...common, '-depth', '8', out]);
        return whole - bare;
      },
      after: async () =>
        `last of ImageMagick: ${whole.toFixed(0)} ms with the distortion, ${bare.toFixed(0)} ms without`,
      close: async () => fs.rmSync(folder, { recursive: true }),
    };
  },
};

export default bench;
