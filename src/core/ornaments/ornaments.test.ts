import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { scaling } from '../geometry/matrix';
import type { Path } from '../paths/path';
import { drawInks } from '../paths/scan';
import { newRaster } from '../print/pixels';
import { ornamentByCode, ORNAMENTS } from './ornaments';

const WIDTH_PX = 240;

/** The path as SVG 1.1 §8.3 writes it. */
const svgPath = (path: Path): string =>
  path
    .map((step) => {
      if (step.kind === 'Z') return 'Z';
      if (step.kind === 'Q') return `Q${step.x1} ${step.y1} ${step.x} ${step.y}`;
      if (step.kind === 'C') return `C${step.x1} ${step.y1} ${step.x2} ${step.y2} ${step.x} ${step.y}`;
      return `${step.kind}${step.x} ${step.y}`;
    })
    .join('');

/** Coverage, 0 to 255, as librsvg draws the ornament: the check from outside. */
async function drawnOutside(path: Path, heightPx: number): Promise<Buffer> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH_PX}" height="${heightPx}" viewBox="0 0 1 ${heightPx / WIDTH_PX}"><path fill-rule="nonzero" d="${svgPath(path)}"/></svg>`;
  return sharp(Buffer.from(svg)).ensureAlpha().extractChannel('alpha').raw().toBuffer();
}

describe('the ornaments', () => {
  it.each(ORNAMENTS.map((one) => [one.code, one] as const))('%s is drawn as librsvg draws it', async (_, ornament) => {
    const heightPx = Math.ceil(ornament.aspect * WIDTH_PX);
    const ours = newRaster(WIDTH_PX, heightPx);
    drawInks(ours, [{ path: ornament.path, color: '#000000' }], scaling(WIDTH_PX, WIDTH_PX));
    const theirs = await drawnOutside(ornament.path, heightPx);
    let [apart, ink, theirInk] = [0, 0, 0];
    for (let i = 0; i < theirs.length; i += 1) {
      const own = ours.data[4 * i + 3]!;
      apart = Math.max(apart, Math.abs(own - theirs[i]!));
      ink += own;
      theirInk += theirs[i]!;
    }
    // Edges are smoothed each in its own way; a contour that turns the wrong way or is missing would differ by whole pixels.
    expect(apart).toBeLessThan(96);
    expect(theirInk).toBeGreaterThan(0);
    expect(Math.abs(ink - theirInk) / theirInk).toBeLessThan(0.02);
  });

  it.each(ORNAMENTS.map((one) => [one.code, one] as const))(
    '%s lies in its box and has ink at its sides',
    async (_, ornament) => {
      // Drawn with a margin of a tenth on all sides: nothing may lie in it.
      const wide = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="${Math.ceil(500 * (ornament.aspect + 0.2))}" viewBox="-0.1 -0.1 1.2 ${ornament.aspect + 0.2}" preserveAspectRatio="xMinYMin"><path d="${svgPath(ornament.path)}"/></svg>`;
      const { info } = await sharp(Buffer.from(wide)).trim().toBuffer({ resolveWithObject: true });
      const [left, top] = [-info.trimOffsetLeft! / 500, -info.trimOffsetTop! / 500];
      expect(left).toBeGreaterThanOrEqual(0.1 - 0.004);
      expect(top).toBeGreaterThanOrEqual(0.1 - 0.004);
      expect(left + info.width / 500).toBeLessThanOrEqual(1.1 + 0.004);
      expect(top + info.height / 500).toBeLessThanOrEqual(0.1 + ornament.aspect + 0.004);
      expect(Math.max(info.width / 500, info.height / 500 / ornament.aspect)).toBeGreaterThan(0.8);
    },
  );

  it('have codes and names of their own, and none where a code is unknown', () => {
    expect(new Set(ORNAMENTS.map(({ code }) => code)).size).toBe(ORNAMENTS.length);
    expect(new Set(ORNAMENTS.map(({ name }) => name)).size).toBe(ORNAMENTS.length);
    expect(ORNAMENTS.every((one) => ornamentByCode(one.code) === one)).toBe(true);
    expect(ornamentByCode('constructor')).toBeFalsy();
  });
});
