import fs from 'node:fs/promises';
import sharp from 'sharp';
import { alphaBounds } from '@/core/artwork/analysis';
import { makeSolid, takeBackground } from '@/core/artwork/background';
import { enlarge } from '@/core/artwork/enlarge';
import { flatBox } from '@/core/artwork/flat-box';
import { invalid } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { premultiply, unpremultiply } from '@/core/print/raster';
import { MAX_PIXELS } from './limits';
import { openRaster } from './open-raster';

/**
 * Makes a new picture out of a raster artwork and writes it as PNG. Runs in the child process under limits, as every reading of strangers'
 * bytes does. Throws `nothing-to-trim`, `no-flat-background`, `enlarge-too-large`.
 */
export async function deriveFile(file: string, into: string, derivation: Derivation): Promise<void> {
  const { data, info } = await openRaster(await fs.readFile(file), { limitInputPixels: MAX_PIXELS })
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
      if (!hex)
        throw invalid('no-flat-background', 'There is no flat color around this artwork that could be taken away.');
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
