import type { Raster } from '../print/pixels';

/** Width of a thread and length of a stitch in a filled shape, mm (common practice, no source). */
const THREAD_MM = 0.42;
const STITCH_MM = 4;
/** Shapes narrower than this are sewn across from edge to edge: satin. */
const SATIN_MM = 7;
/** Steps of 8-bit color that a thread shines where it faces the light. */
const SHEEN = 42;
/** How far a direction is evened out along a shape, mm, and the steps in which it turns. */
const EVEN_MM = 0.8;
const TURN = Math.PI / 10;
/** Direction in which wide shapes are filled, radians. */
const FILL_ANGLE = (28 * Math.PI) / 180;

/**
 * Draws thread over a sewn raster (flat colors, alpha all or nothing): stitches run across narrow shapes and slantwise over wide ones,
 * each thread round and lit from the top left, shapes raised toward their middle. In place. Below 2 px for a thread only the relief of the
 * shapes is seen.
 */
export function stitch(raster: Raster, pxPerMm: number): void {
  const { widthPx: w, heightPx: h, data } = raster;
  const labels = labelColors(raster);
  const inside = distances(labels, w, h);
  const [dirX, dirY] = directions(inside, w, h, Math.max(1, pxPerMm * EVEN_MM));
  const thread = THREAD_MM * pxPerMm;
  const seen = Math.min(1, Math.max(0, thread - 0.8));
  const satin = (SATIN_MM * pxPerMm) / 2;
  const dome = 0.55 * pxPerMm;
  const [gains, sheens] = [new Float32Array(w * h), new Float32Array(w * h)];
  let [sum, sewn] = [0, 0];
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      const i = y * w + x;
      const label = labels[i]!;
      if (label === 0) continue;
      const d = inside[i]!;
      const narrow = d < satin && Math.hypot(dirX[i]!, dirY[i]!) > 0.35;
      const [sx, sy] = narrow ? unit(dirX[i]!, dirY[i]!) : [Math.cos(FILL_ANGLE), Math.sin(FILL_ANGLE)];
      // Across the stitches: which thread, and where on its round.
      const across = (-sy * x + sx * y) / thread;
      const round = across - Math.floor(across) - 0.5;
      const along = (sx * x + sy * y) / (STITCH_MM * pxPerMm) + (Math.floor(across) * 0.37 + (label % 7) * 0.11);
      const end = narrow ? 1 : Math.abs(along - Math.floor(along) - 0.5) * 2;
      // The normal of a round thread, tipped over where the shape falls off to its edge.
      const fall = d < dome ? 1 - d / dome : 0;
      const [ex, ey] = outward(inside, i, x, y, w, h);
      const nx = -sy * round * 1.7 * seen + ex * fall * 0.5;
      const ny = sx * round * 1.7 * seen + ey * fall * 0.5;
      const nz = 1;
      const light = (-0.52 * nx - 0.6 * ny + 0.76 * nz) / (Math.hypot(nx, ny, nz) * 0.76);
      const gap = 1 - seen * (0.28 * (Math.abs(round) * 2) ** 4 + (end > 0.94 ? 0.22 : 0));
      gains[i] = Math.min(1.32, Math.max(0.45, light)) * gap;
      sheens[i] = light > 1.02 ? (light - 1.02) * SHEEN * seen : 0;
      sum += gains[i]!;
      sewn += 1;
    }
  // Light and dark cancel out: thread is the color that it was chosen for.
  const even = sewn > 0 ? sewn / sum : 1;
  for (let i = 0; i < labels.length; i += 1) {
    if (labels[i] === 0) continue;
    const alpha = data[i * 4 + 3]!;
    for (let c = i * 4; c < i * 4 + 3; c += 1)
      data[c] = Math.min(alpha, Math.round(data[c]! * gains[i]! * even + sheens[i]!));
  }
}

const unit = (x: number, y: number): [number, number] => {
  const length = Math.hypot(x, y);
  return length < 1e-6 ? [0, 0] : [x / length, y / length];
};

/** The direction to the nearest edge of a shape. */
function outward(inside: Float32Array, i: number, x: number, y: number, w: number, h: number): [number, number] {
  if (x === 0 || y === 0 || x === w - 1 || y === h - 1) return [0, 0];
  return unit(inside[i - 1]! - inside[i + 1]!, inside[i - w]! - inside[i + w]!);
}

/** A number for each color that is there, 0 where nothing is sewn. */
function labelColors({ widthPx, heightPx, data }: Raster): Uint16Array {
  const labels = new Uint16Array(widthPx * heightPx);
  const known = new Map<number, number>();
  for (let i = 0; i < labels.length; i += 1) {
    if (data[i * 4 + 3]! < 128) continue;
    const color = (data[i * 4]! << 16) | (data[i * 4 + 1]! << 8) | data[i * 4 + 2]!;
    let label = known.get(color);
    if (label === undefined) known.set(color, (label = known.size + 1));
    labels[i] = label;
  }
  return labels;
}

/** Distance in px to the nearest pixel of another label, by two passes of 3-4 chamfer (Borgefors 1986, from memory). */
function distances(labels: Uint16Array, w: number, h: number): Float32Array {
  const far = 1e6;
  const d = new Float32Array(w * h).fill(far);
  const look = (i: number, x: number, y: number, dx: number, dy: number, cost: number) => {
    const [nx, ny] = [x + dx, y + dy];
    if (nx < 0 || ny < 0 || nx >= w || ny >= h) return cost;
    const j = ny * w + nx;
    return labels[j] === labels[i] ? d[j]! + cost : cost / 2;
  };
  const sweep = (from: number, until: number, step: 1 | -1) => {
    for (let i = from; i !== until; i += step) {
      if (labels[i] === 0) {
        d[i] = 0;
        continue;
      }
      const [x, y] = [i % w, Math.floor(i / w)];
      d[i] = Math.min(
        d[i]!,
        look(i, x, y, -step, 0, 1),
        look(i, x, y, 0, -step, 1),
        look(i, x, y, -step, -step, 4 / 3),
        look(i, x, y, step, -step, 4 / 3),
      );
    }
  };
  sweep(0, w * h, 1);
  sweep(w * h - 1, -1, -1);
  return d;
}

/** The smoothed direction to the nearest edge: across narrow shapes. Its length says how sure it is. */
function directions(d: Float32Array, w: number, h: number, radius: number): [Float32Array, Float32Array] {
  // Opposite flanks point opposite ways and yet are one direction: angles are doubled before they are averaged.
  const [cos2, sin2] = [new Float32Array(w * h), new Float32Array(w * h)];
  for (let y = 1; y + 1 < h; y += 1)
    for (let x = 1; x + 1 < w; x += 1) {
      const i = y * w + x;
      if (d[i] === 0) continue;
      const [gx, gy] = [d[i + 1]! - d[i - 1]!, d[i + w]! - d[i - w]!];
      const length = Math.hypot(gx, gy);
      if (length < 0.2) continue;
      cos2[i] = (gx * gx - gy * gy) / (length * length);
      sin2[i] = (2 * gx * gy) / (length * length);
    }
  for (let pass = 0; pass < 3; pass += 1) {
    blur(cos2, w, h, Math.round(radius));
    blur(sin2, w, h, Math.round(radius));
  }
  const [dx, dy] = [new Float32Array(w * h), new Float32Array(w * h)];
  for (let i = 0; i < d.length; i += 1) {
    const length = Math.hypot(cos2[i]!, sin2[i]!);
    // In steps: a field of threads runs one way, and where a shape turns another field begins.
    const angle = Math.round(Math.atan2(sin2[i]!, cos2[i]!) / 2 / TURN) * TURN;
    dx[i] = Math.cos(angle) * length;
    dy[i] = Math.sin(angle) * length;
  }
  return [dx, dy];
}

/** A box mean of 2·radius + 1 in each direction, in place. */
function blur(values: Float32Array, w: number, h: number, radius: number): void {
  const line = new Float32Array(Math.max(w, h));
  const run = (start: number, step: number, n: number) => {
    let sum = 0;
    for (let i = -radius; i < n; i += 1) {
      if (i + radius < n) sum += values[start + (i + radius) * step]!;
      if (i - radius - 1 >= 0) sum -= values[start + (i - radius - 1) * step]!;
      if (i >= 0) line[i] = sum / (2 * radius + 1);
    }
    for (let i = 0; i < n; i += 1) values[start + i * step] = line[i]!;
  };
  for (let y = 0; y < h; y += 1) run(y * w, 1, w);
  for (let x = 0; x < w; x += 1) run(x, w, h);
}
