import { describe, expect, it } from 'vitest';
import { encodeSrgb } from '../artwork/color';
import { rasterizeMap } from './area-map';
import { ShotKernel } from './kernel';
import { coverageOfPart, scalePart } from './part';
import { passesOfPhoto, pickPart, type Photo } from './photo';
import { planesOf } from './planes';

/** A photograph of 120×100 for tests: a red cloth from (20, 20) to (100, 80) under light that falls off to the right, on gray. */
function photo(): Photo {
  const rgb = new Uint8Array(120 * 100 * 3);
  for (let y = 0; y < 100; y += 1)
    for (let x = 0; x < 120; x += 1) {
      const on = x >= 20 && x < 100 && y >= 20 && y < 80;
      const light = 1 - 0.4 * (x / 120);
      const color = on ? [0.5, 0.04, 0.05] : [0.4, 0.4, 0.4];
      color.forEach((c, k) => (rgb[(y * 120 + x) * 3 + k] = Math.round(encodeSrgb(c * light))));
    }
  return { widthPx: 120, heightPx: 100, rgb };
}
const corners = [
  { x: 40, y: 30 },
  { x: 80, y: 30 },
  { x: 80, y: 70 },
  { x: 40, y: 70 },
] as const;
const area = rasterizeMap({ kind: 'homography', cornersPx: corners, widthMm: 40, heightMm: 40 }, 120, 100);

describe('a part of a photograph', () => {
  it('is picked by its color, light aside, and stops at another color', () => {
    const part = pickPart(photo(), 30, 50);
    expect([part[50 * 120 + 25], part[50 * 120 + 95]]).toEqual([255, 255]);
    expect([part[50 * 120 + 10], part[10 * 120 + 60]]).toEqual([0, 0]);
  });

  it('stops at an edge, though what lies beyond it has nearly the same color', () => {
    const near = { ...photo(), rgb: new Uint8Array(120 * 100 * 3).fill(150) };
    for (let y = 20; y < 80; y += 1) near.rgb.fill(170, (y * 120 + 20) * 3, (y * 120 + 100) * 3);
    const part = pickPart(near, 30, 50);
    expect([part[50 * 120 + 95], part[50 * 120 + 10]]).toEqual([255, 0]);
  });

  it('is painted and erased by strokes, the last one last', () => {
    const stroke = (add: boolean, x: number) => ({
      add,
      radiusPx: 6,
      points: [
        { x, y: 50 },
        { x: x + 20, y: 50 },
      ],
    });
    const cover = coverageOfPart(photo(), { picks: [], strokes: [stroke(true, 20), stroke(false, 34)] });
    expect([cover[50 * 120 + 22], cover[50 * 120 + 44], cover[20 * 120 + 22]]).toEqual([255, 0, 0]);
    expect(scalePart({ picks: [{ x: 4, y: 6, tolerance: 9 }], strokes: [stroke(true, 2)] }, 0.5)).toEqual({
      picks: [{ x: 2, y: 3, tolerance: 9 }],
      strokes: [
        {
          add: true,
          radiusPx: 3,
          points: [
            { x: 1, y: 25 },
            { x: 11, y: 25 },
          ],
        },
      ],
    });
  });
});

describe('a shot out of a photograph', () => {
  it('has its light and shade, and takes another color with them', () => {
    const fabric = coverageOfPart(photo(), { picks: [{ x: 30, y: 50, tolerance: 36 }], strokes: [] });
    const passes = passesOfPhoto(photo(), area, fabric);
    const shade = (x: number) => (passes.shade[50 * 120 + x]! / 65535) * passes.shadeScale;
    // Light at 42 and 78 px: 0.86 and 0.74.
    expect(shade(78) / shade(42)).toBeCloseTo((1 - 0.4 * (78 / 120)) / (1 - 0.4 * (42 / 120)), 1);
    const kernel = new ShotKernel(
      planesOf({
        widthPx: 120,
        heightPx: 100,
        straightTo: 0.98,
        exposure: 1,
        rest: { values: passes.rest, scale: passes.restScale },
        shade: { values: passes.shade, scale: passes.shadeScale },
        direct: null,
        specular: null,
        fabric,
        front: null,
        good: null,
        pattern: null,
        areas: { 'main.front': area },
      }),
    );
    const picture = kernel.picture({ hex: '#4f7fa8', heather: false });
    const at = (x: number, y: number) => [...picture.slice((y * 120 + x) * 3, (y * 120 + x) * 3 + 3)];
    const [r, , b] = at(60, 50) as [number, number, number];
    expect(b).toBeGreaterThan(r);
    expect(at(5, 5)).toEqual([...photo().rgb.slice((5 * 120 + 5) * 3, (5 * 120 + 5) * 3 + 3)]);
  });

  it('is refused with the reason where nothing can be told', () => {
    const black = { ...photo(), rgb: new Uint8Array(120 * 100 * 3) };
    expect(() => passesOfPhoto(black, area, null)).toThrow(/nearly black/);
    expect(() => passesOfPhoto(photo(), area, new Uint8Array(120 * 100))).toThrow(/does not reach into the print area/);
  });
});
