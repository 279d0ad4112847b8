import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryId, printSizePx, type Geometry } from './area';
import { contains, boxOfPoints, unitCorners } from './box';
import { followMatrix, layerMatrix } from './fit';
import { apply, chain, invert, rotation } from './matrix';
import { effectiveDpi, normalizeDegrees, placedBox, placementMatrix, sharpWidthMm, type Placement } from './placement';

const sheet = (widthMm: number, heightMm: number, bleedMm = 3): Geometry => ({
  widthMm,
  heightMm,
  outline: null,
  anchor: { xMm: widthMm / 2, yMm: heightMm / 2 },
  bleedMm,
  safeMm: 5,
  dpi: 300,
  technique: 'giclee',
});
const at = (over: Partial<Placement> = {}): Placement => ({
  xMm: 100,
  yMm: 50,
  widthMm: 40,
  rotationDeg: 0,
  flipX: false,
  flipY: false,
  ...over,
});

describe('matrix', () => {
  it('turns clockwise as seen, y down', () => {
    expect(apply(rotation(90), { x: 1, y: 0 })).toEqual({ x: 0, y: 1 });
  });

  it('undoes itself by its inverse', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: -500, max: 500, noNaN: true }),
          y: fc.double({ min: -500, max: 500, noNaN: true }),
          w: fc.double({ min: 1, max: 900, noNaN: true }),
          r: fc.double({ min: -360, max: 360, noNaN: true }),
        }),
        ({ x, y, w, r }) => {
          const m = placementMatrix(at({ xMm: x, yMm: y, widthMm: w, rotationDeg: r, flipX: true }), 0.7);
          const p = apply(chain(m, invert(m)), { x: 0.3, y: 0.8 });
          expect(p.x).toBeCloseTo(0.3, 8);
          expect(p.y).toBeCloseTo(0.8, 8);
        },
      ),
      { seed: 11 },
    );
  });

  it('says why a flat map has no inverse', () => {
    expect(() => invert({ a: 0, b: 0, c: 0, d: 1, e: 0, f: 0 })).toThrow(RangeError);
  });
});

describe('placement', () => {
  it('puts the center where it says and the corners around it', () => {
    const m = placementMatrix(at(), 0.5);
    expect(apply(m, { x: 0.5, y: 0.5 })).toEqual({ x: 100, y: 50 });
    expect(apply(m, { x: 0, y: 0 })).toEqual({ x: 80, y: 40 });
    const turned = placementMatrix(at({ rotationDeg: 90 }), 0.5);
    expect(apply(turned, { x: 0, y: 0 })).toEqual({ x: 110, y: 30 });
  });

  it('mirrors twice into nothing', () => {
    const plain = unitCorners(placementMatrix(at({ rotationDeg: 30 }), 1.3));
    const flipped = placementMatrix(at({ rotationDeg: 30, flipX: true }), 1.3);
    const [tr, tl] = unitCorners(flipped);
    expect(tl!.x).toBeCloseTo(plain[0].x, 9);
    expect(tr!.x).toBeCloseTo(plain[1].x, 9);
  });

  it('knows effective DPI: 3000 px over 254 mm is 300 (25.4 mm to the inch, 1959)', () => {
    expect(effectiveDpi(placementMatrix(at({ widthMm: 254, rotationDeg: 33 }), 1), 3000, 3000)).toBeCloseTo(300, 9);
    expect(sharpWidthMm(3000, 300)).toBeCloseTo(254, 9);
  });

  it('keeps degrees in (−180, 180]', () => {
    expect([0, 180, -180, 181, 359.9999, 720, -90].map(normalizeDegrees)).toEqual([0, 180, 180, -179, 0, 0, -90]);
  });
});

describe('geometry', () => {
  it('gives print files their pixels, bleed included: A2 with 3 mm at 300 DPI', () => {
    // 426 × 600 mm at 25.4 mm to the inch: 5031.5 and 7086.6
    expect(printSizePx(sheet(420, 594))).toEqual({ widthPx: 5031, heightPx: 7087 });
    expect(printSizePx(sheet(420, 594, 0))).toEqual({ widthPx: 4961, heightPx: 7016 });
  });

  it('has an id that follows content, not key order', () => {
    const g = sheet(210, 297);
    const { technique, ...rest } = g;
    expect(geometryId({ technique, ...rest })).toBe(geometryId(g));
    expect(geometryId({ ...g, safeMm: 6 })).not.toBe(geometryId(g));
  });
});

describe('fit over areas of other shape', () => {
  const from = sheet(297, 420); // ISO 216 A3
  const to = sheet(457.2, 609.6); // 18 × 24 in, 3:4
  const ids = { a: from, b: to };
  const sizes = fc.record({ w: fc.integer({ min: 50, max: 900 }), h: fc.integer({ min: 50, max: 900 }) });
  const cover = (g: Geometry): Placement =>
    at({ xMm: g.widthMm / 2, yMm: g.heightMm / 2, widthMm: g.widthMm + 2 * g.bleedMm });

  it('fill never leaves a gap, fit never crops', () => {
    fc.assert(
      fc.property(sizes, sizes, (one, two) => {
        const f = sheet(one.w, one.h);
        const t = sheet(two.w, two.h);
        const aspect = (f.heightMm + 6) / (f.widthMm + 6);
        const full = { geometryId: 'a', placement: cover(f) };
        const printed = { left: -3, top: -3, right: t.widthMm + 3, bottom: t.heightMm + 3 };
        const filled = placedBox(layerMatrix({ ...full, fit: 'fill' }, aspect, 'b', { a: f, b: t }));
        const fitted = placedBox(layerMatrix({ ...full, fit: 'fit' }, aspect, 'b', { a: f, b: t }));
        const stretched = placedBox(layerMatrix({ ...full, fit: 'stretch' }, aspect, 'b', { a: f, b: t }));
        expect(contains(filled, printed, 1e-6)).toBe(true);
        expect(contains(printed, fitted, 1e-6)).toBe(true);
        expect(contains(printed, stretched, 1e-6) && contains(stretched, printed, 1e-6)).toBe(true);
      }),
      { seed: 4 },
    );
  });

  it('keep holds the distance to the anchor and the millimeters', () => {
    const m = layerMatrix({ geometryId: 'a', fit: 'keep', placement: at({ xMm: 148.5, yMm: 100 }) }, 1, 'b', ids);
    const center = apply(m, { x: 0.5, y: 0.5 });
    expect(center.x).toBeCloseTo(228.6, 9);
    expect(center.y).toBeCloseTo(304.8 - 110, 9);
    const box = boxOfPoints(unitCorners(m));
    expect(box.right - box.left).toBeCloseTo(40, 9);
  });

  it('lets an override win', () => {
    const m = layerMatrix(
      { geometryId: 'a', fit: 'fill', placement: at(), overrides: { b: at({ xMm: 7 }) } },
      1,
      'b',
      ids,
    );
    expect(apply(m, { x: 0.5, y: 0.5 }).x).toBe(7);
  });

  it('is nothing between equal shapes', () => {
    for (const fit of ['fill', 'fit', 'stretch', 'keep'] as const) {
      const p = apply(followMatrix(fit, from, from), { x: 12, y: 34 });
      expect(p.x).toBeCloseTo(12, 9);
      expect(p.y).toBeCloseTo(34, 9);
    }
  });
});
