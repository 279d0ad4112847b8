import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { checkDocument } from '@/core/document/check';
import { newDocument, type Layer, type ProductDocument } from '@/core/document/document';
import { followMatrix } from '@/core/geometry/fit';
import type { Geometry } from '@/core/geometry/area';
import { apply } from '@/core/geometry/matrix';
import { ORNAMENTS } from '@/core/ornaments/ornaments';
import { inOrder } from '@/core/order-key';
import { pathBox } from '@/core/paths/path';
import { alignBoxes, boxAround, distributeBoxes } from './arranging';
import { addOrnament, addText, copyArea, duplicateLayers, placeLayer, removeLayer, reorder } from './placing';
import { presetPlacement, presetsFor, PRESETS } from './presets';
import { MAX_ZOOM, rulerStep, WHOLE, windowOf, zoomAt } from './viewing';

const front = demoBlank.areas[0]!;
const geometry = demoBlank.geometries['g-small']!;
const empty = newDocument('b1', 'GBP', 'Tee');
const star = ORNAMENTS.find((one) => one.code === 'star-five')!;
const withStar = (doc: ProductDocument, id: string) =>
  addOrnament(doc, front, geometry, 'g-small', id, star, '#112233');
const names = (doc: ProductDocument) => inOrder(doc.areas['main.front']!.layers).map(([id]) => id);

describe('new layers', () => {
  it('of text and ornament make a whole document', () => {
    const doc = withStar(addText(empty, front, geometry, 'g-small', 't1', '#000000'), 's1');
    expect(checkDocument(doc)).toEqual([]);
    expect(names(doc)).toEqual(['t1', 's1']);
  });

  it('that cannot be are refused, each with its place', () => {
    const doc = addText(empty, front, geometry, 'g-small', 't1', '#000000');
    const wrong = (change: object) =>
      checkDocument({
        ...doc,
        areas: { 'main.front': { layers: { t1: { ...doc.areas['main.front']!.layers.t1, ...change } } } },
      }).map((fault) => fault.path.replace('/areas/main.front/layers/t1', ''));
    const lettering = (doc.areas['main.front']!.layers.t1 as Extract<Layer, { kind: 'text' }>).lettering;
    expect(wrong({ kind: 'sound' })).toEqual(['/kind']);
    expect(wrong({ lettering: { ...lettering, sizeMm: 0 } })).toEqual(['/lettering/sizeMm']);
    expect(wrong({ lettering: { ...lettering, sizeMm: 10_000 } })).toEqual(['/lettering/sizeMm']);
    expect(wrong({ lettering: { ...lettering, family: 'no-such-font' } })).toEqual(['/lettering/family']);
    expect(wrong({ lettering: { ...lettering, text: 'x'.repeat(10_000) } })).toEqual(['/lettering/text']);
    expect(wrong({ lettering: { ...lettering, text: '\ud800' } })).toEqual(['/lettering/text']);
    expect(wrong({ versions: { estuary: { tint: 'blue' } } })).toEqual(['/versions/estuary/tint']);
    expect(wrong({ placement: { xMm: 1e6, yMm: 0, widthMm: 10, rotationDeg: 0, flipX: false, flipY: false } })).toEqual(
      ['/placement/xMm'],
    );
  });
});

describe('layers', () => {
  it('are copied on top, a little aside', () => {
    const doc = duplicateLayers(withStar(withStar(empty, 'a'), 'b'), 'main.front', ['a'], (id) => `${id}2`);
    expect(names(doc)).toEqual(['a', 'b', 'a2']);
    const { a, a2 } = doc.areas['main.front']!.layers as Record<string, Layer>;
    expect(a2!.placement.xMm - a!.placement.xMm).toBeCloseTo(5, 9);
    expect(a2!.name).toBe('Five-pointed star copy');
  });

  it('are put in another order', () => {
    const doc = withStar(withStar(withStar(empty, 'a'), 'b'), 'c');
    expect(names(reorder(doc, 'main.front', ['c', 'a', 'b']))).toEqual(['c', 'a', 'b']);
    expect(names(reorder(doc, 'main.front', ['a']))).toEqual(['b', 'c', 'a']);
  });

  it('dragged a kilometer away stay within ten meters', () => {
    const place = withStar(empty, 'a').areas['main.front']!.layers.a!.placement;
    const doc = placeLayer(withStar(empty, 'a'), 'main.front', 'a', 'g-small', { ...place, xMm: 1e6, yMm: -1e6 });
    expect(doc.areas['main.front']!.layers.a!.placement).toMatchObject({ xMm: 10_000, yMm: -10_000 });
    expect(checkDocument(doc)).toEqual([]);
  });

  it('that are gone stay gone when they are changed', () => {
    const doc = removeLayer(withStar(empty, 'a'), 'main.front', 'a');
    expect(placeLayer(doc, 'main.front', 'a', 'g-small', { ...star, xMm: 1 } as never)).toBe(doc);
  });

  it('go to another area by their distance to its anchor; mirrored twice is nothing', () => {
    const large = demoBlank.geometries['g-large']!;
    const there = { key: 'main.back', geometryId: 'g-small', geometry };
    const source = { key: 'main.front', layers: withStar(empty, 'a').areas['main.front']!.layers, geometry };
    const once = copyArea(empty, source, there, true, () => 'm');
    const layers = once.areas['main.back']!.layers;
    const twice = copyArea(empty, { ...source, layers }, there, true, () => 'm');
    expect(twice.areas['main.back']!.layers.m!.placement).toEqual(source.layers.a!.placement);
    const kept = copyArea(empty, source, { ...there, geometryId: 'g-large', geometry: large }, false, () => 'k');
    const { placement } = kept.areas['main.back']!.layers.k!;
    // The anchors lie at 140 and 170 mm.
    expect(placement.xMm - source.layers.a!.placement.xMm).toBeCloseTo(30, 6);
    expect(placement.widthMm).toBe(source.layers.a!.placement.widthMm);
  });
});

describe('aligning', () => {
  const boxes = [
    { left: 0, top: 0, right: 10, bottom: 10 },
    { left: 30, top: 5, right: 50, bottom: 25 },
    { left: 90, top: 50, right: 100, bottom: 60 },
  ];
  it('moves edges and middles together', () => {
    const within = boxAround(boxes);
    expect(alignBoxes(boxes, 'left', within).map((s) => s.dx)).toEqual([0, -30, -90]);
    expect(alignBoxes(boxes, 'bottom', within).map((s) => s.dy)).toEqual([50, 35, 0]);
    expect(alignBoxes(boxes, 'center', within).map((s) => s.dx)).toEqual([45, 10, -45]);
  });

  it('spreads with the same gaps, the outer ones staying', () => {
    // 100 wide, 40 filled: two gaps of 30
    expect(distributeBoxes(boxes, 'x').map((s) => s.dx)).toEqual([0, 10, 0]);
    expect(distributeBoxes(boxes.slice(0, 2), 'x').map((s) => s.dx)).toEqual([0, 0]);
  });
});

describe('presets', () => {
  it('are offered where they make sense and stay inside the safe margin', () => {
    expect(presetsFor(front, geometry).map((preset) => preset.code)).toEqual([
      'full-front',
      'center-chest',
      'left-chest',
    ]);
    for (const preset of PRESETS)
      for (const aspect of [0.2, 1, 3]) {
        const was = { xMm: 0, yMm: 0, widthMm: 1, rotationDeg: 30, flipX: false, flipY: false };
        const { xMm, yMm, widthMm, rotationDeg } = presetPlacement(preset, geometry, aspect, was);
        expect(rotationDeg).toBe(0);
        expect(xMm - widthMm / 2).toBeGreaterThanOrEqual(geometry.safeMm - 0.1);
        expect(xMm + widthMm / 2).toBeLessThanOrEqual(geometry.widthMm - geometry.safeMm + 0.1);
        expect(yMm - (widthMm * aspect) / 2).toBeGreaterThanOrEqual(geometry.safeMm - 0.1);
      }
  });
});

describe('the view', () => {
  const room = { left: -20, top: -20, right: 320, bottom: 420 };
  const size = { width: 700, height: 500 };

  it('shows the whole room first, in the middle, and keeps the point under the pointer when it zooms', () => {
    const whole = windowOf(WHOLE, room, size);
    // 440 mm in 500 px
    expect(whole.pxPerMm).toBeCloseTo(500 / 440, 9);
    expect(whole.left + whole.widthMm / 2).toBeCloseTo(150, 9);
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        fc.double({ min: -20, max: 320, noNaN: true }),
        fc.double({ min: -20, max: 420, noNaN: true }),
        (factor, x, y) => {
          const before = windowOf({ zoom: 2, panX: 5, panY: -7 }, room, size);
          const after = windowOf(zoomAt({ zoom: 2, panX: 5, panY: -7 }, factor, { x, y }, room), room, size);
          expect((x - after.left) * after.pxPerMm).toBeCloseTo((x - before.left) * before.pxPerMm, 6);
          expect((y - after.top) * after.pxPerMm).toBeCloseTo((y - before.top) * before.pxPerMm, 6);
        },
      ),
    );
    expect(zoomAt(WHOLE, 1000, { x: 0, y: 0 }, room).zoom).toBe(MAX_ZOOM);
  });

  it('has ruler marks in round numbers of its unit (an inch is 25.4 mm)', () => {
    expect(rulerStep(1, 'cm')).toBe(50);
    expect(rulerStep(1, 'in')).toBeCloseTo(50.8, 9);
    expect(rulerStep(100, 'cm')).toBe(1);
  });
});

describe('a focus', () => {
  const shape = (widthMm: number, heightMm: number): Geometry => ({ ...geometry, widthMm, heightMm, bleedMm: 3 });
  const side = fc.integer({ min: 50, max: 900 });
  const share = fc.double({ min: 0, max: 1, noNaN: true });

  it('leaves no gap and stays in view, whatever the shapes (30×20 to 24×18 and all others)', () => {
    fc.assert(
      fc.property(side, side, side, side, share, share, (w1, h1, w2, h2, u, v) => {
        const [from, to] = [shape(w1, h1), shape(w2, h2)];
        const focus = { x: -3 + u * (w1 + 6), y: -3 + v * (h1 + 6) };
        const m = followMatrix('fill', from, to, focus);
        const [topLeft, bottomRight] = [apply(m, { x: -3, y: -3 }), apply(m, { x: w1 + 3, y: h1 + 3 })];
        expect(topLeft.x).toBeLessThanOrEqual(-3 + 1e-6);
        expect(topLeft.y).toBeLessThanOrEqual(-3 + 1e-6);
        expect(bottomRight.x).toBeGreaterThanOrEqual(w2 + 3 - 1e-6);
        expect(bottomRight.y).toBeGreaterThanOrEqual(h2 + 3 - 1e-6);
        const seen = apply(m, focus);
        expect(seen.x).toBeGreaterThanOrEqual(-3 - 1e-6);
        expect(seen.x).toBeLessThanOrEqual(w2 + 3 + 1e-6);
        expect(seen.y).toBeLessThanOrEqual(h2 + 3 + 1e-6);
      }),
    );
  });

  it('in the middle is the same as none', () => {
    const [from, to] = [shape(300, 200), shape(240, 180)];
    const at = (m: ReturnType<typeof followMatrix>) => apply(m, { x: 12, y: 34 });
    const [one, two] = [at(followMatrix('fill', from, to)), at(followMatrix('fill', from, to, { x: 150, y: 100 }))];
    expect(one.x).toBeCloseTo(two.x, 9);
    expect(one.y).toBeCloseTo(two.y, 9);
  });
});

describe('ornaments', () => {
  it('are about forty, each in its box, with a code of its own', () => {
    expect(ORNAMENTS.length).toBeGreaterThanOrEqual(40);
    expect(new Set(ORNAMENTS.map((one) => one.code)).size).toBe(ORNAMENTS.length);
    for (const { code, path, aspect } of ORNAMENTS) {
      const box = pathBox(path)!;
      expect(box.left, code).toBeGreaterThanOrEqual(-0.02);
      expect(box.right, code).toBeLessThanOrEqual(1.02);
      expect(box.top, code).toBeGreaterThanOrEqual(-0.02);
      expect(box.bottom, code).toBeLessThanOrEqual(aspect + 0.02);
      expect(box.right - box.left, code).toBeGreaterThan(0.6);
    }
  });
});
