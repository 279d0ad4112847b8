import sharp from 'sharp';
import { MAX_PIXELS } from './limits';

/** A template's SVG as PNG of its own pixel size, with alpha and its density written (pHYs). Few colors, so that it stays small. */
export const templatePng = (svg: string, dpi: number): Promise<Buffer> =>
  sharp(Buffer.from(svg), { limitInputPixels: MAX_PIXELS })
    .withMetadata({ density: dpi })
    .png({ palette: true, colors: 32 })
    .toBuffer();
