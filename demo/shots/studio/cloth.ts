import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Shape, V } from './shapes';
import { program } from './trace';

/** A piece of cloth as a grid: where each of its points is in the pattern (mm) and where it begins. */
export interface Panel {
  readonly columns: number;
  readonly rows: number;
  /** Place in the pattern of a point; columns + 1 by rows + 1 of them. */
  pattern(i: number, j: number): readonly [number, number];
  start(i: number, j: number): V;
}

/** Two points that are sewn onto each other: panel, column, row of each. */
export type Stitch = readonly [readonly [number, number, number], readonly [number, number, number]];

/** What the cloth falls onto. */
export interface Body {
  /** Heights from the top down, half the width, half the depth, and where the middle is in depth; mm. */
  readonly slices: readonly (readonly [y: number, a: number, b: number, z: number])[];
  readonly limbs: readonly {
    readonly from: V;
    readonly to: V;
    readonly radii: readonly [number, number];
    readonly turnDeg: readonly [number, number];
  }[];
}

export interface Fall {
  readonly seconds: number;
  /** The body is as thick as this at first, of 1. */
  readonly growFrom: number;
  readonly growSeconds: number;
  /** How much it sways and twists, so that folds come. */
  readonly sway: number;
  /** The cloth lies on a table at z = 0, and falls to it. */
  readonly table?: boolean;
}

/** How cloth gives: along its threads, slantwise, and when it is bent. */
export interface Give {
  readonly stretch: number;
  readonly shear: number;
  readonly bend: number;
}

/** A panel after its fall. */
export interface Fallen {
  readonly panel: Panel;
  at(i: number, j: number): V;
}

/** Sews panels together, lets them fall onto a body and gives where they are then. */
export function fall(
  panels: readonly Panel[],
  stitches: readonly Stitch[],
  body: Body,
  how: Fall,
  give: Give,
): Fallen[] {
  const firsts: number[] = [];
  let count = 0;
  for (const panel of panels) {
    firsts.push(count);
    count += (panel.columns + 1) * (panel.rows + 1);
  }
  const numberOf = ([p, i, j]: readonly [number, number, number]) => firsts[p]! + j * (panels[p]!.columns + 1) + i;
  // Points that are sewn together are one point.
  const same = Int32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (same[at] !== at) at = same[at]!;
    return at;
  };
  for (const [a, b] of stitches) {
    const [x, y] = [root(numberOf(a)), root(numberOf(b))];
    same[Math.max(x, y)] = Math.min(x, y);
  }
  const points = new Float32Array(count * 3);
  const links: [number, number, number, number][] = [];
  for (const [p, panel] of panels.entries()) {
    for (let j = 0; j <= panel.rows; j += 1)
      for (let i = 0; i <= panel.columns; i += 1) {
        const own = numberOf([p, i, j]);
        if (root(own) === own) points.set(panel.start(i, j), own * 3);
        for (const [di, dj, gives] of [
          [1, 0, give.stretch],
          [0, 1, give.stretch],
          [1, 1, give.shear],
          [-1, 1, give.shear],
          [2, 0, give.bend],
          [0, 2, give.bend],
        ] as const) {
          const [k, l] = [i + di, j + dj];
          if (k < 0 || k > panel.columns || l > panel.rows) continue;
          const [a, b] = [panel.pattern(i, j), panel.pattern(k, l)];
          links.push([root(own), root(numberOf([p, k, l])), Math.hypot(a[0] - b[0], a[1] - b[1]), gives]);
        }
      }
  }
  const numbers = new ArrayBuffer(links.length * 16);
  const view = new DataView(numbers);
  for (const [k, [a, b, rest, gives]] of links.entries()) {
    view.setInt32(k * 16, a, true);
    view.setInt32(k * 16 + 4, b, true);
    view.setFloat32(k * 16 + 8, rest, true);
    view.setFloat32(k * 16 + 12, gives, true);
  }
  const weights = Float32Array.from({ length: count }, (_, i) => (root(i) === i ? 1 : 0));
  const lines = [
    `run ${how.seconds} ${how.growFrom} ${how.growSeconds} ${how.sway} ${how.table ? 1 : 0}`,
    ...body.slices.map((slice) => `slice ${slice.join(' ')}`),
    ...body.limbs.map(({ from, to, radii, turnDeg }) => `limb ${[...from, ...to, ...radii, ...turnDeg].join(' ')}`),
  ];
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-cloth-'));
  try {
    const [input, output] = [path.join(folder, 'cloth'), path.join(folder, 'fallen')];
    fs.writeFileSync(
      input,
      Buffer.concat([
        Buffer.from(`${lines.join('\n')}\npoints ${count}\n`),
        Buffer.from(points.buffer),
        Buffer.from(weights.buffer),
        Buffer.from(`links ${links.length}\n`),
        Buffer.from(numbers),
      ]),
    );
    const ran = spawnSync(program('cloth', ['cloth.cpp']), [input, output], { stdio: ['ignore', 'ignore', 'inherit'] });
    if (ran.status !== 0) throw new Error('The cloth did not fall.');
    const bytes = fs.readFileSync(output);
    const places = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
    return panels.map((panel, p) => ({
      panel,
      at: (i, j) => {
        const own = root(numberOf([p, i, j])) * 3;
        return [places[own]!, places[own + 1]!, places[own + 2]!];
      },
    }));
  } finally {
    fs.rmSync(folder, { recursive: true, force: true });
  }
}

const mixed = (a: number, b: number, c: number, d: number, t: number) =>
  0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t ** 3);

/** What a fallen panel is like between its points: a smooth surface through them. s, t from 0 to 1. */
export function smoothly({ panel, at }: Fallen): (s: number, t: number) => V {
  const { columns, rows } = panel;
  const grid = Array.from({ length: rows + 1 }, (_, j) => Array.from({ length: columns + 1 }, (__, i) => at(i, j)));
  const point = (i: number, j: number) => grid[Math.min(rows, Math.max(0, j))]![Math.min(columns, Math.max(0, i))]!;
  return (s, t) => {
    const [x, y] = [Math.min(columns - 1e-6, Math.max(0, s * columns)), Math.min(rows - 1e-6, Math.max(0, t * rows))];
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [fx, fy] = [x - i, y - j];
    return [0, 1, 2].map((c) => {
      const row = (k: number) =>
        mixed(point(i - 1, k)[c]!, point(i, k)[c]!, point(i + 1, k)[c]!, point(i + 2, k)[c]!, fx);
      return mixed(row(j - 1), row(j), row(j + 1), row(j + 2), fy);
    }) as unknown as V;
  };
}

/** A fallen panel as a shape, finer than its grid; `relief` raises it along its outer side, mm. */
export function clothShape(
  fallen: Fallen,
  finer: number,
  outer: 1 | -1,
  relief?: (u: number, v: number) => number,
): Shape {
  const { panel } = fallen;
  const { columns, rows } = panel;
  const place = smoothly(fallen);
  const [w, h] = [columns * finer, rows * finer];
  const positions = new Array<number>((w + 1) * (h + 1) * 3);
  const normals = new Array<number>(positions.length);
  const uv: number[] = [];
  const triangles: number[] = [];
  const patternAt = (s: number, t: number): readonly [number, number] => {
    const [x, y] = [Math.min(columns - 1e-6, s * columns), Math.min(rows - 1e-6, t * rows)];
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [a, b, c, d] = [
      panel.pattern(i, j),
      panel.pattern(i + 1, j),
      panel.pattern(i, j + 1),
      panel.pattern(i + 1, j + 1),
    ];
    const [fx, fy] = [x - i, y - j];
    const one = (k: 0 | 1) => (a[k] * (1 - fx) + b[k] * fx) * (1 - fy) + (c[k] * (1 - fx) + d[k] * fx) * fy;
    return [one(0), one(1)];
  };
  const e = 0.2;
  for (let j = 0; j <= h; j += 1)
    for (let i = 0; i <= w; i += 1) {
      const [s, t] = [i / w, j / h];
      const k = (j * (w + 1) + i) * 3;
      const [ds, dt] = [e / columns, e / rows];
      const [a, b] = [place(Math.min(1, s + ds), t), place(Math.max(0, s - ds), t)];
      const [c, d] = [place(s, Math.min(1, t + dt)), place(s, Math.max(0, t - dt))];
      const along = [a[0] - b[0], a[1] - b[1], a[2] - b[2]] as const;
      const down = [c[0] - d[0], c[1] - d[1], c[2] - d[2]] as const;
      const n = [
        down[1] * along[2] - down[2] * along[1],
        down[2] * along[0] - down[0] * along[2],
        down[0] * along[1] - down[1] * along[0],
      ];
      const l = outer * (Math.hypot(n[0]!, n[1]!, n[2]!) || 1);
      const p = place(s, t);
      const own = patternAt(s, t);
      const up = relief ? relief(own[0], own[1]) : 0;
      for (let x = 0; x < 3; x += 1) {
        normals[k + x] = n[x]! / l;
        positions[k + x] = p[x]! + (n[x]! / l) * up;
      }
      uv.push(own[0], own[1]);
    }
  for (let j = 0; j < h; j += 1)
    for (let i = 0; i < w; i += 1) {
      const a = j * (w + 1) + i;
      if (outer > 0) triangles.push(a, a + w + 1, a + 1, a + 1, a + w + 1, a + w + 2);
      else triangles.push(a, a + 1, a + w + 1, a + 1, a + w + 2, a + w + 1);
    }
  return { positions, normals, uv, triangles };
}
