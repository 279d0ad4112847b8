import fc from 'fast-check';
import PerspT from 'perspective-transform';
import { describe, expect, it } from 'vitest';
import { placeInPicture, rasterizeMap, type MarkedMap } from './area-map';
import { cylinderToPx, pxToCylinder } from './cylinder';
import { homographyOf, invertHomography, project, type Quad } from './homography';
import { mapOfMarks, scaleMarks, type Marks } from './marks';
import type { CylinderMap } from './shot';

const at = (x: number, y: number) => ({ x, y });
const QUAD: Quad = [at(120, 80), at(430, 110), at(410, 520), at(90, 470)];
const CYLINDER: CylinderMap = {
  kind: 'cylinder',
  leftPx: [at(100, 120), at(108, 480)],
  rightPx: [at(400, 116), at(392, 482)],
  bendTopPx: 22,
  bendBottomPx: 34,
  halfDeg: 80,
  radiusMm: 41,
  middleMm: 100,
  topMm: 0,
  bottomMm: 85,
  widthMm: 200,
  heightMm: 85,
};
const MESH: MarkedMap = {
  kind: 'mesh',
  columns: 3,
  rows: 3,
  pointsPx: [
    at(100, 100),
    at(200, 90),
    at(300, 104),
    at(96, 210),
    at(204, 200),
    at(310, 206),
    at(104, 320),
    at(200, 300),
    at(296, 316),
  ],
  widthMm: 120,
  heightMm: 160,
};

describe('homography', () => {
  it('agrees with package perspective-transform to 1e-6 (facts: perspective map)', () => {
    const near = fc.double({ min: -60, max: 60, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(near, near, near, near, near, near, near, near), (d) => {
        const quad = QUAD.map((p, i) => at(p.x + d[i * 2]!, p.y + d[i * 2 + 1]!)) as unknown as Quad;
        // The package rounds its coefficients to ten decimals: in a unit square that is far below the bound.
        const ours = homographyOf(1, 1, quad);
        const theirs = PerspT(
          [0, 0, 1, 0, 1, 1, 0, 1],
          quad.flatMap(({ x, y }) => [x, y]),
        );
        for (const [x, y] of [
          [0, 0],
          [1, 1],
          [0.5, 0.5],
          [0.07, 0.95],
        ] as const) {
          const [p, q] = [project(ours, at(x, y)), theirs.transform(x, y)];
          expect(Math.hypot(p.x - q[0], p.y - q[1])).toBeLessThan(1e-6);
          const back = project(invertHomography(ours), p);
          expect(Math.hypot(back.x - x, back.y - y)).toBeLessThan(1e-6);
        }
      }),
      { seed: 3 },
    );
  });

  it('says why three corners on a line make no map', () => {
    expect(() => homographyOf(10, 10, [at(0, 0), at(1, 1), at(2, 2), at(3, 3)])).toThrow(RangeError);
  });
});

describe('cylinder', () => {
  it('goes there and back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 45, max: 155, noNaN: true }),
        fc.double({ min: 0, max: 85, noNaN: true }),
        (x, y) => {
          const back = pxToCylinder(CYLINDER, cylinderToPx(CYLINDER, at(x, y)))!;
          expect(back.x).toBeCloseTo(x, 6);
          expect(back.y).toBeCloseTo(y, 6);
        },
      ),
      { seed: 5 },
    );
  });

  it('shows an arc by its sine: 20 mm in the middle of a body of 41 mm radius are 2·41·sin(10/41) across', () => {
    const straight: CylinderMap = {
      ...CYLINDER,
      leftPx: [at(100, 100), at(100, 500)],
      rightPx: [at(510, 100), at(510, 500)],
      bendTopPx: 0,
      bendBottomPx: 0,
      halfDeg: 90,
    };
    const pxPerMm = 410 / 82;
    const across = cylinderToPx(straight, at(110, 40)).x - cylinderToPx(straight, at(90, 40)).x;
    expect(across / pxPerMm).toBeCloseTo(2 * 41 * Math.sin(10 / 41), 9);
    // The same 20 mm at the side are narrower: from 40 to 60 mm off the middle.
    const side = cylinderToPx(straight, at(160, 40)).x - cylinderToPx(straight, at(140, 40)).x;
    expect(side / pxPerMm).toBeCloseTo(41 * (Math.sin(60 / 41) - Math.sin(40 / 41)), 9);
  });

  it('sees nothing beside the body', () => {
    expect(pxToCylinder({ ...CYLINDER, halfDeg: 90 }, at(20, 300))).toBeNull();
  });
});

describe('pixels of a marked map', () => {
  const maps: [string, MarkedMap][] = [
    ['corners', { kind: 'homography', cornersPx: QUAD, widthMm: 210, heightMm: 297 }],
    ['a cylinder', CYLINDER],
    ['a mesh', MESH],
  ];
  it.each(maps)('of %s stand where the geometry says, within a pixel, and are covered up to the trim', (_, map) => {
    const { coverage, u, v, uMm, vMm } = rasterizeMap(map, 520, 560);
    const mm = (value: number, [from, to]: readonly [number, number]) => from + (value / 65535) * (to - from);
    let [worst, seen] = [0, 0];
    for (let i = 0; i < coverage.length; i += 7) {
      if (coverage[i] !== 255) continue;
      const p = placeInPicture(map, at(mm(u[i]!, uMm), mm(v[i]!, vMm)));
      worst = Math.max(worst, Math.hypot(p.x - (i % 520) - 0.5, p.y - Math.floor(i / 520) - 0.5));
      seen += 1;
    }
    expect(seen).toBeGreaterThan(2000);
    expect(worst).toBeLessThan(0.3);
    const middle = placeInPicture(map, at(map.kind === 'cylinder' ? map.middleMm : map.widthMm / 2, map.heightMm / 2));
    expect(coverage[Math.floor(middle.y) * 520 + Math.floor(middle.x)]).toBe(255);
    const outside = placeInPicture(map, at(map.widthMm / 2, -0.04 * map.heightMm));
    expect(coverage[Math.floor(outside.y) * 520 + Math.floor(outside.x)]).toBe(0);
  });

  it('go through the marked points of a mesh', () => {
    const mesh = MESH as Extract<MarkedMap, { kind: 'mesh' }>;
    mesh.pointsPx.forEach((point, i) => {
      const p = placeInPicture(MESH, at(((i % 3) / 2) * 120, (Math.floor(i / 3) / 2) * 160));
      expect(Math.hypot(p.x - point.x, p.y - point.y)).toBeLessThan(1e-9);
    });
  });
});

describe('marks', () => {
  const photo = { widthPx: 520, heightPx: 560 };
  const area = { widthMm: 210, heightMm: 297 };
  const corners = (...points: readonly (readonly [number, number])[]): Marks => ({
    kind: 'corners',
    corners: points.map(([x, y]) => at(x, y)) as unknown as Quad,
  });
  const cylinder = (over: object): Marks => ({
    kind: 'cylinder',
    left: [at(100, 100), at(100, 400)],
    right: [at(300, 100), at(300, 400)],
    bendTopPx: 10,
    bendBottomPx: 20,
    spanDeg: 180,
    diameterMm: 82,
    middleMm: 100,
    ...over,
  });
  const read = (marks: Marks) => () => mapOfMarks(marks, photo, area);

  it('are refused with the reason when they make no sense', () => {
    expect(read(corners([10, 10], [200, 10], [10, 200], [200, 200]))).toThrow(/cross/);
    expect(read(corners([10, 10], [200, 10], [60, 60], [10, 200]))).toThrow(/bend inward/);
    expect(read(corners([200, 10], [10, 10], [10, 200], [200, 200]))).toThrow(/mirror/);
    expect(read(corners([10, 10], [600, 10], [500, 200], [10, 200]))).toThrow(/outside of the photograph/);
    expect(read(corners([10, 10], [20, 10], [20, 20], [10, 20]))).toThrow(/side of 10 px/);
    expect(read(corners([10, 10], [10, 10], [10, 10], [10, 10]))).toThrow(/side of 0 px/);
    expect(read(corners([NaN, 10], [200, 10], [200, 200], [10, 200]))).toThrow(/missing/);
    expect(read(cylinder({ bendTopPx: 400 }))).toThrow(/meet in the middle/);
    expect(read(cylinder({ diameterMm: NaN }))).toThrow(/across/);
    expect(read(cylinder({ spanDeg: 270 }))).toThrow(/180/);
    expect(read({ kind: 'mesh', columns: 3, rows: 2, points: [] })).toThrow(/all of them set/);
    expect(
      read({ kind: 'mesh', columns: 2, rows: 2, points: [at(10, 10), at(90, 10), at(90, 90), at(10, 90)] }),
    ).toThrow(/cross/);
  });

  it('mean the same on the photograph at another size', () => {
    const marks = corners([40, 40], [400, 60], [420, 500], [30, 480]);
    const whole = read(marks)();
    const half = mapOfMarks(scaleMarks(marks, 0.5), { widthPx: 260, heightPx: 280 }, area);
    const [p, q] = [placeInPicture(whole, at(77, 200)), placeInPicture(half, at(77, 200))];
    expect(q.x * 2).toBeCloseTo(p.x, 9);
    expect(q.y * 2).toBeCloseTo(p.y, 9);
  });
});
