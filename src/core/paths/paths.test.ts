import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newRaster } from '../print/pixels';
import { flatten, mapPath, pathBox, polygonArea, svgPath, type Path, type Step } from './path';
import { coverageOf, fillPath } from './scan';
import { strokePath } from './stroke';

const polygon = (...points: readonly (readonly [number, number])[]): Path => [
  ...points.map(([x, y], i): Step => ({ kind: i === 0 ? 'M' : 'L', x, y })),
  { kind: 'Z' },
];
/** A circle of four cubics; its handles are 0.5523 of the radius (common practice, no source). */
const K = 0.5522847498;
const circle = (cx: number, cy: number, r: number): Path => [
  { kind: 'M', x: cx + r, y: cy },
  { kind: 'C', x1: cx + r, y1: cy + K * r, x2: cx + K * r, y2: cy + r, x: cx, y: cy + r },
  { kind: 'C', x1: cx - K * r, y1: cy + r, x2: cx - r, y2: cy + K * r, x: cx - r, y: cy },
  { kind: 'C', x1: cx - r, y1: cy - K * r, x2: cx - K * r, y2: cy - r, x: cx, y: cy - r },
  { kind: 'C', x1: cx + K * r, y1: cy - r, x2: cx + r, y2: cy - K * r, x: cx + r, y: cy },
  { kind: 'Z' },
];
const clip = { width: 64, height: 48 };
const covered = (path: Path, tolerance = 0.01) => {
  const coverage = coverageOf(flatten(path, tolerance), clip);
  return coverage ? coverage.data.reduce((sum, share) => sum + share, 0) : 0;
};

describe('coverage', () => {
  it('of a triangle is its area, wherever it lies between the pixels', () => {
    const inside = fc.tuple(fc.double({ min: 1, max: 60, noNaN: true }), fc.double({ min: 1, max: 44, noNaN: true }));
    fc.assert(
      fc.property(inside, inside, inside, (a, b, c) => {
        const area = Math.abs(polygonArea(Float64Array.from([...a, ...b, ...c])));
        expect(covered(polygon(a, b, c))).toBeCloseTo(area, 3);
      }),
    );
  });

  it('of a triangle that reaches over the edges is what lies inside', () => {
    const near = fc.tuple(fc.double({ min: -30, max: 90, noNaN: true }), fc.double({ min: -30, max: 80, noNaN: true }));
    fc.assert(
      fc.property(near, near, near, (a, b, c) => {
        const shape = Float64Array.from([...a, ...b, ...c]);
        // The same by cutting the triangle with the four sides first (Sutherland–Hodgman).
        expect(covered(polygon(a, b, c))).toBeCloseTo(Math.abs(polygonArea(cut(shape))), 2);
      }),
    );
  });

  it('of single pixels is exact: half of one, a quarter of another', () => {
    const { data, width } = coverageOf(flatten(polygon([2.5, 2], [4, 2], [4, 3], [2.5, 3]), 1), clip)!;
    expect([...data.slice(0, width)]).toEqual([0.5, 1]);
    const triangle = coverageOf(flatten(polygon([0, 0], [2, 0], [0, 2]), 1), clip)!;
    expect([...triangle.data]).toEqual([1, 0.5, 0.5, 0]);
  });

  it('of a circle is π r²', () => {
    expect(covered(circle(30.3, 22.7, 15), 0.001)).toBeCloseTo(Math.PI * 225, 0);
  });

  it('leaves a hole that turns the other way, and fills what turns twice', () => {
    const hole = mapPath(circle(30, 24, 5), { a: -1, b: 0, c: 0, d: 1, e: 60, f: 0 });
    expect(covered([...circle(30, 24, 10), ...hole], 0.001)).toBeCloseTo(Math.PI * 75, 0);
    expect(covered([...circle(30, 24, 10), ...circle(30, 24, 5)], 0.001)).toBeCloseTo(Math.PI * 100, 0);
  });

  it('is nothing outside, for a line, and for an empty path', () => {
    for (const path of [polygon([70, 1], [90, 1], [80, 9]), polygon([1, 1], [9, 9]), []]) expect(covered(path)).toBe(0);
  });
});

/** Cuts a polygon with the clip's four sides. */
function cut(points: Float64Array): Float64Array {
  let rest = Array.from({ length: points.length / 2 }, (_, i) => [points[2 * i]!, points[2 * i + 1]!] as const);
  const sides = [
    ([x]: readonly [number, number]) => x,
    ([x]: readonly [number, number]) => clip.width - x,
    ([, y]: readonly [number, number]) => y,
    ([, y]: readonly [number, number]) => clip.height - y,
  ];
  for (const depth of sides) {
    rest = rest.flatMap((p, i) => {
      const q = rest[(i + 1) % rest.length]!;
      const [dp, dq] = [depth(p), depth(q)];
      const t = dp / (dp - dq);
      const crossing = [p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])] as const;
      return dp >= 0 ? (dq >= 0 ? [p] : [p, crossing]) : dq >= 0 ? [crossing] : [];
    });
  }
  return Float64Array.from(rest.flat());
}

describe('filling', () => {
  it('lays color over what is there, premultiplied', () => {
    const target = newRaster(4, 1);
    fillPath(target, { path: polygon([0, 0], [2, 0], [2, 1], [0, 1]), color: '#ff0000' });
    fillPath(target, { path: polygon([1.5, 0], [3, 0], [3, 1], [1.5, 1]), color: '#0000ff' });
    expect([...target.data]).toEqual([255, 0, 0, 255, 128, 0, 128, 255, 0, 0, 255, 255, 0, 0, 0, 0]);
  });
});

describe('a stroke', () => {
  it('along a circle is a ring of its width', () => {
    // π ((r + w/2)² − (r − w/2)²) is 2π r w
    expect(covered(strokePath(circle(30, 24, 12), 4, 0.005), 0.01)).toBeCloseTo(2 * Math.PI * 12 * 4, 0);
  });

  it('along a square has round corners outside and sharp ones inside', () => {
    const ring = strokePath(polygon([10, 10], [30, 10], [30, 30], [10, 30]), 6, 0.001);
    // outside: 4 sides of 20 × 3 and a circle of radius 3 around the corners; inside: 20² − 14²
    expect(covered(ring)).toBeCloseTo(4 * 20 * 3 + Math.PI * 9 + (400 - 196), 0);
    expect(pathBox(ring)).toEqual({ left: 7, top: 7, right: 33, bottom: 33 });
  });

  it('of no width is nothing', () => {
    expect(strokePath(circle(1, 1, 1), 0, 0.1)).toEqual([]);
  });
});

describe('paths', () => {
  it('are flattened within the tolerance', () => {
    for (const points of flatten(circle(0, 0, 100), 0.1))
      for (let i = 0; i < points.length; i += 2) {
        const j = (i + 2) % points.length;
        const middle = Math.hypot((points[i]! + points[j]!) / 2, (points[i + 1]! + points[j + 1]!) / 2);
        expect(Math.abs(middle - 100)).toBeLessThan(0.13);
      }
  });

  it('are written as SVG path data', () => {
    expect(svgPath([...polygon([0, 1.23456], [2, 3]), { kind: 'Q', x1: 1, y1: 2, x: 3, y: 4 }])).toBe(
      'M0 1.2346L2 3ZQ1 2 3 4',
    );
  });
});
