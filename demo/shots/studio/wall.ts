import { softbox } from './room';
import type { Camera, Lamp, Material, Part } from './scene';
import { add, arc, block, lathe, moved, sheet, surface, sweep, turned, type Shape, type V } from './shapes';

const PLASTER: Material = {
  role: 'room',
  albedo: [0.79, 0.77, 0.735],
  grain: { kind: 'plaster', depthMm: 0.55, sizeMm: 7 },
};
export const OAK: Material = {
  role: 'room',
  albedo: [0.5, 0.335, 0.2],
  second: [0.36, 0.215, 0.115],
  f0: 0.03,
  roughness: 0.42,
  grain: { kind: 'wood', depthMm: 0.02, sizeMm: 9 },
};
const CLAY: Material = {
  role: 'room',
  albedo: [0.74, 0.71, 0.66],
  f0: 0.03,
  roughness: 0.5,
  grain: { kind: 'plaster', depthMm: 0.12, sizeMm: 2.5 },
};
const LEAF: Material = { role: 'room', albedo: [0.1, 0.165, 0.085], f0: 0.035, roughness: 0.38, through: 0.35 };
const STEM: Material = { role: 'room', albedo: [0.2, 0.15, 0.09] };
export const PAGES: Material = {
  role: 'room',
  albedo: [0.82, 0.79, 0.72],
  second: [0.66, 0.62, 0.55],
  grain: { kind: 'pages', depthMm: 0, sizeMm: 1 },
};
const cover = (albedo: V): Material => ({
  role: 'room',
  albedo,
  f0: 0.03,
  roughness: 0.5,
  grain: { kind: 'paper', depthMm: 0.03, sizeMm: 0.9 },
});

/** Numbers that look like chance, the same each time. */
function chance(seed: number): () => number {
  let state = seed * 2654435761;
  return () => {
    state = (Math.imul(state ^ (state >>> 15), 2246822519) + 374761393) | 0;
    return ((state ^ (state >>> 13)) >>> 0) / 4294967296;
  };
}

/** A leaf that hangs at a stem: its foot, which way it points, its upper side, its length. */
function leaf(foot: V, along: V, up: V, lengthMm: number): Shape {
  const side: V = [
    along[1] * up[2] - along[2] * up[1],
    along[2] * up[0] - along[0] * up[2],
    along[0] * up[1] - along[1] * up[0],
  ];
  return surface(
    6,
    10,
    (s, t) => {
      const half = lengthMm * 0.27 * Math.sin(Math.PI * Math.min(1, t * 0.96 + 0.04)) ** 0.75 * (1 - 0.25 * t);
      const across = (s - 0.5) * 2 * half;
      const rise = Math.abs(s - 0.5) * half * 0.35 - lengthMm * 0.16 * t * t;
      return add(add(add(foot, along, lengthMm * t), side, across), up, rise);
    },
    (s, t) => [s * 10, t * 10],
  );
}

const unit = (a: V): V => {
  const l = Math.hypot(...a) || 1;
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** A vase with a few twigs; its foot in the origin. */
export function vase(heightMm: number, seed: number): Part[] {
  const k = heightMm / 150;
  const outline: [number, number][] = [
    [0, 0],
    [26, 0],
    [29, 1.5],
    [37, 22],
    [42.5, 50],
    [43, 72],
    [38, 98],
    [28, 120],
    [17.5, 136],
    [15, 143],
    [16, 149],
    [17.5, 150.5],
  ];
  const inside: [number, number][] = [
    [17.5, 150.5],
    [15.5, 150.5],
    [13, 143],
    [14, 134],
    [20, 120],
    [20, 100],
  ];
  // Through the outline's points smoothly.
  const smooth = (points: [number, number][]): [number, number][] =>
    points.slice(0, -1).flatMap((_, i) => {
      const at = (j: number) => points[Math.min(points.length - 1, Math.max(0, j))]!;
      return Array.from({ length: 6 }, (__, n) => {
        const t = n / 6;
        const one = (c: 0 | 1) => {
          const [a, b, d, e] = [at(i - 1)[c], at(i)[c], at(i + 1)[c], at(i + 2)[c]];
          return 0.5 * (2 * b + (d - a) * t + (2 * a - 5 * b + 4 * d - e) * t * t + (3 * b - a - 3 * d + e) * t ** 3);
        };
        return [one(0) * k, one(1) * k] as [number, number];
      });
    });
  const random = chance(seed);
  const parts: Part[] = [
    {
      shape: lathe(
        [...smooth([...outline]), ...inside.map(([r, y]) => [r * k, y * k] as [number, number])],
        40 * k,
        60,
      ),
      material: CLAY,
    },
  ];
  for (let twig = 0; twig < 7; twig += 1) {
    const around = (twig / 7) * 2 * Math.PI + random();
    const lean = 0.14 + 0.3 * random();
    const tall = heightMm * (1.0 + 1.0 * random());
    const way: V = [Math.cos(around) * lean, 1, Math.sin(around) * lean * 0.55];
    const bend = 0.25 + 0.3 * random();
    const foot: V = [Math.cos(around) * 7 * k, heightMm * 0.92, Math.sin(around) * 7 * k];
    const path = (s: number): V => [
      foot[0] + way[0] * tall * (s + bend * s * s),
      foot[1] + tall * s * (1 - 0.1 * s * lean),
      foot[2] + way[2] * tall * (s + bend * s * s),
    ];
    parts.push({
      shape: sweep(
        path,
        [0, 0, 1],
        (s, angle) => [Math.cos(angle) * (1.3 - 0.8 * s), Math.sin(angle) * (1.3 - 0.8 * s)],
        40,
        8,
      ),
      material: STEM,
    });
    const pairs = 6 + Math.floor(random() * 3);
    for (let n = 0; n < pairs; n += 1)
      for (const hand of [-1, 1]) {
        const s = 0.22 + (0.78 * (n + 0.4 * random())) / pairs;
        const twist = n * 1.9 + random();
        const out = unit([hand * Math.cos(twist), 0.45 + 0.4 * random(), hand * Math.sin(twist)]);
        const up = unit([-0.3 * out[0] + 0.2 * (random() - 0.5), 1, -0.3 * out[2] + 0.5 * (random() - 0.3)]);
        parts.push({ shape: leaf(path(s), out, up, (27 + 12 * random()) * k * (1.1 - 0.42 * s)), material: LEAF });
      }
  }
  return parts;
}

/** Books that lie on each other; the middle of the lowest on the ground in the origin. */
function books(
  list: readonly { readonly size: V; readonly color: V; readonly turnDeg: number; readonly aside: number }[],
): Part[] {
  let floor = 0;
  return list.flatMap(({ size: [w, h, d], color, turnDeg, aside }) => {
    const at = (shape: Shape, y: number) => moved(turned(shape, turnDeg), [aside, y, 0]);
    const board = 2.4;
    const own = cover(color);
    const spine = moved(block([board * 1.6, h - 0.4, d], 1), [-w / 2, 0, 0]);
    const parts: Part[] = [
      { shape: at(block([w, board, d], 0.8), floor + board / 2), material: own },
      { shape: at(block([w, board, d], 0.8), floor + h - board / 2), material: own },
      { shape: at(spine, floor + h / 2), material: own },
      { shape: at(block([w - 6, h - 2 * board, d - 5], 0.5), floor + h / 2), material: PAGES },
    ];
    floor += h;
    return parts;
  });
}

/** A small bowl; its foot in the origin. */
const bowl = (): Part => ({
  shape: lathe(
    [
      [0, 0],
      [16, 0],
      [17, 1.2],
      ...arc([12, 32], 31, -76, -6, 16),
      ...arc([41.4, 30], 1.4, 0, 180, 8),
      ...arc([12, 32], 28, -6, -84, 14),
      [0, 3.6],
    ],
    40,
    35,
  ),
  material: CLAY,
});

/** A room: a wall at z = 0 that is seen straight on, `viewMm` of it in view about the origin, and the light of a window at the left; a board below with some things on it, if it is furnished. */
export function wallRoom(
  viewMm: number,
  furnished = true,
): {
  camera: Camera;
  parts: Part[];
  lamps: Lamp[];
  sky: V;
  ground: V;
  sun: { toward: V; color: V; spread: number };
} {
  const boardTop = -viewMm * 0.41;
  const far = viewMm * 2.3;
  const depth = 330;
  const wall: Part = { shape: sheet([-6000, 4000, 0], [12000, 0, 0], [0, -8000, 0]), material: PLASTER };
  const board: Part = {
    shape: moved(block([6000, 34, depth], 2), [0, boardTop - 17, depth / 2 + 1]),
    material: OAK,
  };
  const front: Part = {
    shape: sheet([-3000, boardTop - 34, depth - 30], [6000, 0, 0], [0, -1200, 0]),
    material: { ...OAK, albedo: [0.4, 0.26, 0.15] },
  };
  const on = (parts: readonly Part[], x: number, z: number): Part[] =>
    parts.map((part) => ({ ...part, shape: moved(part.shape, [x, boardTop, z]) }));
  const k = Math.min(1.55, Math.max(0.8, viewMm / 760));
  const stack = books([
    { size: [150 * k, 20 * k, 108 * k], color: [0.56, 0.55, 0.5], turnDeg: 4, aside: 0 },
    { size: [142 * k, 15 * k, 100 * k], color: [0.12, 0.2, 0.23], turnDeg: -7, aside: 3 * k },
    { size: [126 * k, 22 * k, 92 * k], color: [0.5, 0.42, 0.33], turnDeg: 9, aside: -4 * k },
  ]);
  const dish = { ...bowl(), shape: moved(bowl().shape, [-6 * k, 57 * k, 0]) };
  const toward = unit([-0.86, 0.62, 0.74]);
  // What stands between the sun and the wall: a window's frame and its bars, seen from the wall as the sun does.
  const right = unit([toward[2], 0, -toward[0]]);
  const up: V = [
    toward[1] * right[2] - toward[2] * right[1],
    toward[2] * right[0] - toward[0] * right[2],
    toward[0] * right[1] - toward[1] * right[0],
  ];
  const from = 2600;
  const shade = (x0: number, x1: number, y0: number, y1: number): Part => {
    const corner = add(add(add([0, 0, 0], toward, from), right, x0), up, y0);
    return {
      shape: sheet(
        corner,
        [right[0] * (x1 - x0), right[1] * (x1 - x0), right[2] * (x1 - x0)],
        [up[0] * (y1 - y0), up[1] * (y1 - y0), up[2] * (y1 - y0)],
      ),
      material: { role: 'room', albedo: [0.6, 0.6, 0.6] },
    };
  };
  const v = viewMm;
  const blinds = [
    shade(-9000, -v * 0.62, -9000, 9000),
    shade(v * 0.6, 9000, -9000, 9000),
    shade(-9000, 9000, v * 0.36, 9000),
    shade(-9000, 9000, -9000, -v * 0.62),
    shade(-v * 0.21, -v * 0.155, -9000, 9000),
    shade(-9000, 9000, -v * 0.2, -v * 0.14),
  ];
  const furniture = [
    board,
    front,
    ...on(stack, -viewMm * 0.5 + 118 * k, depth * 0.5),
    ...on([dish], -viewMm * 0.5 + 118 * k, depth * 0.5),
    ...on(vase(126 * k, 7), viewMm * 0.5 - 78 * k, depth * 0.5),
  ];
  return {
    camera: { eye: [0, 0, far], target: [0, 0, 0], zoom: (2 * far) / viewMm },
    parts: [wall, ...blinds, ...(furnished ? furniture : [])],
    lamps: [
      softbox([-1500, 700, 1500], [0, 0, 0], 1300, 1500, 2.6),
      softbox([1600, 900, 2200], [0, 0, 0], 1500, 1500, 0.75),
    ],
    sky: [0.335, 0.335, 0.335],
    ground: [0.22, 0.22, 0.215],
    sun: { toward, color: [0.6, 0.585, 0.555], spread: 0.016 },
  };
}

/** A matrix from pixels of a picture of `sizePx` to mm of a sheet that hangs `beforeMm` before the wall with its top left corner at `left`, `top`. */
export function flatOnWall(viewMm: number, sizePx: number, beforeMm: number, leftMm: number, topMm: number) {
  const far = viewMm * 2.3;
  const mm = ((viewMm / sizePx) * (far - beforeMm)) / far;
  return { a: mm, b: 0, c: 0, d: mm, e: (-sizePx / 2) * mm - leftMm, f: (-sizePx / 2) * mm + topMm };
}
