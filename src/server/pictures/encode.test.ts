import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { keyInForm, longSideInForm, OWN_FORMAT, squaredBy } from '@/core/listing/picture-format';
import { encodePicture } from './encode';

/** 300 × 200 px: red on the left, gray in the middle 200 px, blue on the right. */
const WIDE = { widthPx: 300, heightPx: 200 };
const rgb = new Uint8Array(300 * 200 * 3);
for (let i = 0; i < 300 * 200; i += 1) {
  const x = i % 300;
  rgb.set(x < 50 ? [255, 0, 0] : x >= 250 ? [0, 0, 255] : [120, 120, 120], i * 3);
}
const PNG = { ...OWN_FORMAT, format: 'png' as const, squareOn: '#ffffff' };

async function pixels(form: typeof PNG) {
  const { bytes, widthPx, heightPx } = await encodePicture({ ...WIDE, rgb }, form);
  const raw = await sharp(bytes).removeAlpha().raw().toBuffer();
  const at = (x: number, y: number) => [...raw.subarray((y * widthPx + x) * 3, (y * widthPx + x) * 3 + 3)];
  return { widthPx, heightPx, at };
}

describe('a square picture', () => {
  it('is filled up with a margin', async () => {
    const { widthPx, heightPx, at } = await pixels(PNG);
    expect([widthPx, heightPx]).toEqual([300, 300]);
    expect([at(150, 10), at(150, 290), at(150, 150), at(10, 150)]).toEqual([
      [255, 255, 255],
      [255, 255, 255],
      [120, 120, 120],
      [255, 0, 0],
    ]);
  });

  it('is cut down about its middle, in its own size or smaller', async () => {
    const cropped = squaredBy(PNG, 'crop') as typeof PNG;
    const { widthPx, heightPx, at } = await pixels(cropped);
    expect([widthPx, heightPx]).toEqual([200, 200]);
    for (const [x, y] of [
      [2, 2],
      [197, 2],
      [100, 100],
      [2, 197],
    ] as const)
      expect(at(x, y)).toEqual([120, 120, 120]);
    const small = await pixels({ ...cropped, longSideMaxPx: 80 } as typeof PNG);
    expect([small.widthPx, small.heightPx]).toEqual([80, 80]);
  });

  it('is another picture than the whole of it, where it is one', () => {
    const cropped = squaredBy(PNG, 'crop');
    expect([longSideInForm(WIDE, PNG), longSideInForm(WIDE, cropped)]).toEqual([300, 200]);
    expect(keyInForm('k', WIDE, PNG)).toBe('k');
    expect(keyInForm('k', WIDE, cropped)).toMatch(/^[0-9a-f]{64}$/);
    expect(keyInForm('k', { widthPx: 200, heightPx: 200 }, cropped)).toBe('k');
    // A channel that takes pictures as they are gets them so.
    expect(squaredBy(OWN_FORMAT, 'crop')).toBe(OWN_FORMAT);
    expect(squaredBy(PNG)).toBe(PNG);
  });
});
