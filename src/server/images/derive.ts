import fs from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { alphaBounds, type Pixels } from '@/core/artwork/analysis';
import { makeSolid, takeBackground } from '@/core/artwork/background';
import { withoutOneShape } from '@/core/artwork/svg-box';
import { enlarge } from '@/core/artwork/enlarge';
import { flatBox } from '@/core/artwork/flat-box';
import { invalid } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { premultiply, unpremultiply } from '@/core/print/pixels';
import { renderSvg } from './render-svg';
import { MAX_PIXELS } from './limits';
import { openRaster } from './open-raster';

/**
 * Makes a new picture out of an artwork, in a folder, and gives its file: `derived.png`, or `derived.svg` where a vector stays one. Runs in the child process under
 * limits, as every reading of strangers' bytes does. Throws `nothing-to-trim`, `no-flat-background`, `enlarge-too-large`, `derive-vector`.
 */
export async function deriveFile(file: string, folder: string, derivation: Derivation): Promise<string> {
  const bytes = await fs.readFile(file);
  if (isSvg(bytes)) return deriveSvg(bytes.toString('utf8'), folder, derivation);
  const into = path.join(folder, 'derived.png');
  await deriveRaster(bytes, into, derivation);
  return into;
}

/** A cleaned SVG begins with its root. */
const isSvg = (bytes: Buffer): boolean => bytes.subarray(0, 4).toString('latin1') === '<svg';

/** Longer sides of the pictures in which a box is looked for, and which is made where it is no shape by itself. */
const [LOOKED_PX, MADE_PX] = [600, 6000];

/** A vector without its box: the shape that it is taken out; where it is none by itself, a picture without it. */
async function deriveSvg(svg: string, folder: string, derivation: Derivation): Promise<string> {
  if (derivation.kind !== 'background') throw vectorStays();
  const { width = 0, height = 0 } = await sharp(Buffer.from(svg)).metadata();
  const bare = await looked(svg, width, height);
  const box = flatBox(bare);
  if (!box) throw noBackground();
  takeBackground(bare, box);
  for (const without of withoutOneShape(svg)) {
    const left = await looked(without, width, height).catch(() => null);
    if (!left || !isSeenAlike(left, bare)) continue;
    const into = path.join(folder, 'derived.svg');
    await fs.writeFile(into, without);
    return into;
  }
  const into = path.join(folder, 'derived.png');
  await deriveRaster(await renderSvg(svg, width, height, MADE_PX).png().toBuffer(), into, derivation);
  return into;
}

async function looked(svg: string, widthPx: number, heightPx: number): Promise<Pixels> {
  const { data, info } = await renderSvg(svg, widthPx, heightPx, LOOKED_PX)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
}

/** Share of places that may be there in one of two pictures and not in the other: soft edges are. */
const SOFT_EDGES = 0.01;

/** Whether two pictures of one size are clear in the same places. */
function isSeenAlike(one: Pixels, other: Pixels): boolean {
  let count = 0;
  for (let i = 3; i < one.rgba.length; i += 4) if (one.rgba[i]! >= 128 !== other.rgba[i]! >= 128) count += 1;
  return count <= (SOFT_EDGES * one.rgba.length) / 4;
}

/** What is done to pixels is not done to a vector. */
export const vectorStays = () =>
  invalid('derive-vector', 'This is done to pixels, and this artwork is a vector; change it in your own program.');
const noBackground = () =>
  invalid('no-flat-background', 'There is no flat color around this artwork that could be removed.');

async function deriveRaster(bytes: Buffer, into: string, derivation: Derivation): Promise<void> {
  const { data, info } = await openRaster(bytes, { limitInputPixels: MAX_PIXELS })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rgba = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const [widthPx, heightPx] = [info.width, info.height];
  const write = (bytes: Uint8Array, width: number, height: number) =>
    sharp(bytes, { raw: { width, height, channels: 4 }, limitInputPixels: MAX_PIXELS })
      .png({ compressionLevel: 4 })
      .toFile(into);
  switch (derivation.kind) {
    case 'trim': {
      const box = alphaBounds({ widthPx, heightPx, rgba });
      if (!box || (box.right - box.left === widthPx && box.bottom - box.top === heightPx))
        throw invalid('nothing-to-trim', 'This artwork has no transparent edge to trim.');
      const cut = { left: box.left, top: box.top, width: box.right - box.left, height: box.bottom - box.top };
      await sharp(rgba, { raw: { width: widthPx, height: heightPx, channels: 4 } })
        .extract(cut)
        .png({ compressionLevel: 4 })
        .toFile(into);
      return;
    }
    case 'background': {
      const hex = flatBox({ widthPx, heightPx, rgba });
      if (!hex) throw noBackground();
      takeBackground({ widthPx, heightPx, rgba }, hex);
      await write(rgba, widthPx, heightPx);
      return;
    }
    case 'solid':
      makeSolid({ widthPx, heightPx, rgba });
      await write(rgba, widthPx, heightPx);
      return;
    case 'enlarge': {
      const height = Math.round((heightPx * derivation.widthPx) / widthPx);
      if (derivation.widthPx <= widthPx || derivation.widthPx * height > MAX_PIXELS)
        throw invalid(
          'enlarge-too-large',
          `This artwork has ${widthPx} × ${heightPx} px; it can be enlarged to ${MAX_PIXELS / 1e6} megapixels at most.`,
        );
      premultiply(rgba);
      const large = enlarge({ widthPx, heightPx, data: rgba }, derivation.widthPx, height);
      unpremultiply(large.data);
      await write(large.data, derivation.widthPx, height);
    }
  }
}
