/** A place or a direction, mm; y is up. */
export type V = readonly [number, number, number];

/** Triangles with the place of each point on its surface, mm. */
export interface Shape {
  readonly positions: readonly number[];
  /** Smooth normals; absent: each triangle is flat. */
  readonly normals?: readonly number[];
  readonly uv: readonly number[];
  readonly triangles: readonly number[];
}

export const add = (a: V, b: V, t = 1): V => [a[0] + b[0] * t, a[1] + b[1] * t, a[2] + b[2] * t];
export const dot = (a: V, b: V): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: V, b: V): V => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const unit = (a: V): V => {
  const l = Math.hypot(...a) || 1;
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** Moves all points of a shape; normals are turned with them by the same map of directions. */
export function placed(shape: Shape, point: (p: V) => V, direction: (d: V) => V = (d) => d): Shape {
  const all = (values: readonly number[], map: (p: V) => V): number[] => {
    const out: number[] = [];
    for (let i = 0; i < values.length; i += 3) out.push(...map([values[i]!, values[i + 1]!, values[i + 2]!]));
    return out;
  };
  return {
    ...shape,
    positions: all(shape.positions, point),
    ...(shape.normals ? { normals: all(shape.normals, direction) } : {}),
  };
}

/** Turned about the upright axis, counterclockwise from above. */
export function turned(shape: Shape, deg: number): Shape {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const turn = ([x, y, z]: V): V => [x * c + z * s, y, -x * s + z * c];
  return placed(shape, turn, turn);
}

/** Turned about the axis from left to right: positive leans the top to the back. */
export function tilted(shape: Shape, deg: number): Shape {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  const turn = ([x, y, z]: V): V => [x, y * c + z * s, -y * s + z * c];
  return placed(shape, turn, turn);
}

/** The other way round, from left to right. */
export function mirrored(shape: Shape): Shape {
  const flip = ([x, y, z]: V): V => [-x, y, z];
  const triangles: number[] = [];
  for (let i = 0; i < shape.triangles.length; i += 3)
    triangles.push(shape.triangles[i]!, shape.triangles[i + 2]!, shape.triangles[i + 1]!);
  return { ...placed(shape, flip, flip), triangles };
}

export const moved = (shape: Shape, by: V): Shape => placed(shape, (p) => add(p, by));

/** A surface over a grid of `columns` × `rows` cells: its place and its u, v at s, t from 0 to 1. Smooth. */
export function surface(
  columns: number,
  rows: number,
  at: (s: number, t: number) => V,
  uvAt: (s: number, t: number) => readonly [number, number],
): Shape {
  const positions: number[] = [];
  const normals: number[] = [];
  const uv: number[] = [];
  const triangles: number[] = [];
  const e = 1e-4;
  for (let j = 0; j <= rows; j += 1)
    for (let i = 0; i <= columns; i += 1) {
      const [s, t] = [i / columns, j / rows];
      positions.push(...at(s, t));
      const along = add(at(Math.min(1, s + e), t), at(Math.max(0, s - e), t), -1);
      const down = add(at(s, Math.min(1, t + e)), at(s, Math.max(0, t - e)), -1);
      normals.push(...unit(cross(down, along)));
      uv.push(...uvAt(s, t));
    }
  for (let j = 0; j < rows; j += 1)
    for (let i = 0; i < columns; i += 1) {
      const a = j * (columns + 1) + i;
      triangles.push(a, a + columns + 1, a + 1, a + 1, a + columns + 1, a + columns + 2);
    }
  return { positions, normals, uv, triangles };
}

/** A profile of [radius, height] turned about the upright axis. Where it bends less than `sharpDeg` it is smooth. u, v of a point: angle × `radiusMm`, height. */
export function lathe(
  profile: readonly (readonly [number, number])[],
  radiusMm: number,
  sharpDeg = 40,
  segments = 240,
): Shape {
  const positions: number[] = [];
  const normals: number[] = [];
  const uv: number[] = [];
  const triangles: number[] = [];
  const slope = (k: number) => {
    const [a, b] = [profile[k]!, profile[k + 1]!];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    // Outward of a profile that runs upward on the outside.
    return [(b[1] - a[1]) / l, -(b[0] - a[0]) / l] as const;
  };
  for (let k = 0; k + 1 < profile.length; k += 1) {
    const own = slope(k);
    const near = (other: readonly [number, number] | null) => {
      if (!other || own[0] * other[0] + own[1] * other[1] < Math.cos((sharpDeg * Math.PI) / 180)) return own;
      const l = Math.hypot(own[0] + other[0], own[1] + other[1]);
      return [(own[0] + other[0]) / l, (own[1] + other[1]) / l] as const;
    };
    const ends = [near(k > 0 ? slope(k - 1) : null), near(k + 2 < profile.length ? slope(k + 1) : null)];
    const first = positions.length / 3;
    for (let i = 0; i <= segments; i += 1) {
      const angle = (i / segments) * 2 * Math.PI - Math.PI;
      const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
      for (const end of [0, 1] as const) {
        const [r, y] = profile[k + end]!;
        const [nr, ny] = ends[end]!;
        positions.push(r * sin, y, r * cos);
        normals.push(nr * sin, ny, nr * cos);
        uv.push(angle * radiusMm, y);
      }
    }
    for (let i = 0; i < segments; i += 1) {
      const a = first + i * 2;
      triangles.push(a, a + 2, a + 1, a + 1, a + 2, a + 3);
    }
  }
  return { positions, normals, uv, triangles };
}

/** An arc of a profile, from one angle to another (degrees, 0 to the outside, 90 up). */
export function arc(
  center: readonly [number, number],
  radius: number,
  fromDeg: number,
  toDeg: number,
  steps = 10,
): [number, number][] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const angle = ((fromDeg + ((toDeg - fromDeg) * i) / steps) * Math.PI) / 180;
    return [center[0] + radius * Math.cos(angle), center[1] + radius * Math.sin(angle)];
  });
}

/** A closed section swept along a path. `section(s, angle)` gives the place across (side, out) at s along it. u is the way along it, v that around it. */
export function sweep(
  path: (s: number) => V,
  sideways: V,
  section: (s: number, angle: number) => readonly [number, number],
  steps = 120,
  around = 40,
): Shape {
  const at = (s: number, t: number): V => {
    const e = 1e-3;
    const along = unit(add(path(Math.min(1, s + e)), path(Math.max(0, s - e)), -1));
    const out = unit(cross(sideways, along));
    const [side, away] = section(s, t * 2 * Math.PI);
    return add(add(path(s), sideways, side), out, away);
  };
  let length = 0;
  for (let k = 0; k < 50; k += 1) length += Math.hypot(...add(path((k + 1) / 50), path(k / 50), -1));
  return surface(steps, around, at, (s, t) => [s * length, t * 40]);
}

/** A flat rectangle: corner, two sides, their u and v. It faces to the side of down × along. */
export function sheet(
  corner: V,
  along: V,
  down: V,
  size: readonly [number, number] = [Math.hypot(...along), Math.hypot(...down)],
  cells = 1,
): Shape {
  return surface(
    cells,
    cells,
    (s, t) => add(add(corner, along, s), down, t),
    (s, t) => [s * size[0], t * size[1]],
  );
}

/** A box with rounded edges, upright, its middle at the origin; u, v run over each face. */
export function block([w, h, d]: V, round: number): Shape {
  const faces: [V, V, V, number, number][] = [
    [[0, 0, 1], [1, 0, 0], [0, -1, 0], w, h],
    [[0, 0, -1], [-1, 0, 0], [0, -1, 0], w, h],
    [[1, 0, 0], [0, 0, -1], [0, -1, 0], d, h],
    [[-1, 0, 0], [0, 0, 1], [0, -1, 0], d, h],
    [[0, 1, 0], [1, 0, 0], [0, 0, 1], w, d],
    [[0, -1, 0], [1, 0, 0], [0, 0, -1], w, d],
  ];
  const half: V = [w / 2, h / 2, d / 2];
  const inner: V = [half[0] - round, half[1] - round, half[2] - round];
  // More cells at the ends, where it is round.
  const spread = (s: number, size: number) => {
    const edge = Math.min(0.5, (round * 1.6) / size);
    if (s < 0.3) return (s / 0.3) * edge;
    if (s > 0.7) return 1 - ((1 - s) / 0.3) * edge;
    return edge + ((s - 0.3) / 0.4) * (1 - 2 * edge);
  };
  return joined(
    faces.map(([n, a, b, along, down]) => {
      const reach = Math.abs(dot(n, half));
      const at = (s: number, t: number) =>
        add(
          add([n[0] * reach, n[1] * reach, n[2] * reach], a, (spread(s, along) - 0.5) * along),
          b,
          (spread(t, down) - 0.5) * down,
        );
      const core = (p: V): V => p.map((value, i) => Math.max(-inner[i]!, Math.min(inner[i]!, value))) as unknown as V;
      const flat = surface(20, 20, at, (s, t) => [spread(s, along) * along, spread(t, down) * down]);
      const positions: number[] = [];
      const normals: number[] = [];
      for (let i = 0; i < flat.positions.length; i += 3) {
        const p: V = [flat.positions[i]!, flat.positions[i + 1]!, flat.positions[i + 2]!];
        const from = core(p);
        const out = unit(add(p, from, -1));
        positions.push(...add(from, out, round));
        normals.push(...out);
      }
      return { ...flat, positions, normals };
    }),
  );
}

/** Several shapes as one. */
export function joined(shapes: readonly Shape[]): Shape {
  const positions: number[] = [];
  const normals: number[] = [];
  const uv: number[] = [];
  const triangles: number[] = [];
  for (const shape of shapes) {
    const first = positions.length / 3;
    for (const value of shape.positions) positions.push(value);
    for (const value of shape.normals ?? []) normals.push(value);
    for (const value of shape.uv) uv.push(value);
    for (const corner of shape.triangles) triangles.push(corner + first);
  }
  return { positions, ...(normals.length === positions.length ? { normals } : {}), uv, triangles };
}
