import sharp from 'sharp';
import { chain, rotation, scaling, translation } from '../../src/core/geometry/matrix';
import { drawAffine, newRaster, premultiply } from '../../src/core/print/raster';
import { encodePrintPng } from '../../src/server/images/encode';
import type { Bench } from './run';

const SIZE = 3000;
const [WIDTH, HEIGHT] = [3600, 4800];
const SCALE = 1.05;
const DEGREES = 12;

/** A 3000×3000 artwork with alpha as sellers bring it: shapes of flat color with soft edges, a gradient, a textured patch. */
async function artwork(): Promise<Buffer> {
  const circles = Array.from(
    { length: 40 },
    (_, i) =>
      `<circle cx="${(i * 733) % SIZE}" cy="${(i * 1291) % SIZE}" r="${60 + i * 6}" fill="hsl(${i * 29},60%,50%)" fill-opacity="${i % 3 ? 1 : 0.8}"/>`,
  ).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE}" height="${SIZE}"><defs><linearGradient id="g"><stop stop-color="#123f4c"/><stop offset="1" stop-color="#e5c98d"/></linearGradient></defs>${circles}<rect x="300" y="2200" width="2400" height="360" rx="60" fill="url(#g)"/></svg>`;
  const noise = await sharp({
    create: {
      width: 900,
      height: 700,
      channels: 3,
      background: '#777',
      noise: { type: 'gaussian', mean: 128, sigma: 25 },
    },
  })
    .blur(1)
    .png()
    .toBuffer();
  return sharp(Buffer.from(svg))
    .composite([{ input: noise, left: 1050, top: 1100 }])
    .png()
    .toBuffer();
}

const bench: Bench = {
  name: 'print-file',
  reference: `bare sharp, concurrency 2: resize ${SCALE}×, rotate ${DEGREES}°, composite on ${WIDTH}×${HEIGHT}, default PNG, density 300`,
  rounds: 7,
  async setup() {
    const file = await artwork();
    let [oursBytes, theirBytes] = [0, 0];
    const sourceToSheet = chain(
      translation(-SIZE / 2, -SIZE / 2),
      scaling(SCALE),
      rotation(DEGREES),
      translation(WIDTH / 2, HEIGHT / 2),
    );
    return {
      async ours() {
        sharp.concurrency(2);
        // The same steps as composeSheet and encodePrintPng take on the server, without database and disk.
        const { data, info } = await sharp(file)
          .autoOrient()
          .toColourspace('srgb')
          .ensureAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        const source = {
          widthPx: info.width,
          heightPx: info.height,
          data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
        };
        premultiply(source.data);
        const target = newRaster(WIDTH, HEIGHT);
        drawAffine(target, source, sourceToSheet);
        oursBytes = (await encodePrintPng(target, 300)).length;
      },
      async theirs() {
        sharp.concurrency(2);
        const clear = { r: 0, g: 0, b: 0, alpha: 0 };
        const side = Math.round(SIZE * SCALE);
        // Raw between the steps, so that the reference pays for no encoding but the last.
        const turned = await sharp(file)
          .resize(side, side)
          .rotate(DEGREES, { background: clear })
          .ensureAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        const { width, height } = turned.info;
        const [w, h] = [Math.min(WIDTH, width), Math.min(HEIGHT, height)];
        const cut = await sharp(turned.data, { raw: { width, height, channels: 4 } })
          .extract({ left: Math.floor((width - w) / 2), top: Math.floor((height - h) / 2), width: w, height: h })
          .raw()
          .toBuffer();
        const png = await sharp({ create: { width: WIDTH, height: HEIGHT, channels: 4, background: clear } })
          .composite([
            {
              input: cut,
              raw: { width: w, height: h, channels: 4 },
              left: Math.floor((WIDTH - w) / 2),
              top: Math.floor((HEIGHT - h) / 2),
            },
          ])
          .withMetadata({ density: 300 })
          .png()
          .toBuffer();
        theirBytes = png.length;
      },
      after: async () =>
        `sizes: ours ${(oursBytes / 1e6).toFixed(2)} MB, reference ${(theirBytes / 1e6).toFixed(2)} MB`,
    };
  },
};

export default bench;
