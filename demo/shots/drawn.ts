import sharp from 'sharp';
import type { AreaMap } from '../../src/core/shot/shot';
import { addArea, type Passes } from './passes';
import { noise, smoothstep } from './noise';

/** The part of a plane (mm, x right, y down) that a picture shows. */
export interface View {
  readonly sizePx: number;
  readonly leftMm: number;
  readonly topMm: number;
  readonly mmPerPx: number;
}

/** A view of `sideMm` around a point. */
export const viewAround = (sizePx: number, xMm: number, yMm: number, sideMm: number): View => ({
  sizePx,
  leftMm: xMm - sideMm / 2,
  topMm: yMm - sideMm / 2,
  mmPerPx: sideMm / sizePx,
});

export type Rgb = readonly [number, number, number];
type Field = (xMm: number, yMm: number) => number;

/**
 * A flat piece of a good, laid over those before it. `fabric` takes the fabric's color; `rest` keeps its own; `front` stands before fabric
 * and print. Colors are linear light.
 */
export interface Piece {
  /** SVG path data in mm. */
  readonly path: string;
  readonly role: 'fabric' | 'rest' | 'front';
  readonly color?: Rgb;
  /** Height toward the viewer, mm: what folds and bulges. */
  readonly height?: Field;
  /** What else makes it lighter or darker. */
  readonly tone?: Field;
  /** How far it stands off what is below, mm: its shadow there. */
  readonly liftMm?: number;
  /** How much light is lost toward its rim, where it turns away, and how wide that is. */
  readonly rim?: { readonly depth: number; readonly widthMm: number };
}

/** A print area on a piece. */
export interface DrawnArea {
  readonly key: string;
  readonly variant: Record<string, string>;
  readonly on: number;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Place on the area, mm of the trim, of a place on the plane. */
  readonly at: (xMm: number, yMm: number) => readonly [number, number];
  /** Of an area that is flat and upright: where its top left corner is, so that the bench can draw over the picture. */
  readonly flatAt?: readonly [number, number];
  /** SVG path data in mm of the plane that it is cut to. */
  readonly path?: string;
  /** A map that is computed from marks, in place of `at`. */
  readonly map?: (view: View) => AreaMap;
}

export interface Backdrop {
  readonly wall?: Rgb;
  /** Y of a table's edge, mm; none when absent. */
  readonly tableMm?: number;
}

const LIGHT = unit([-0.42, -0.55, 0.72]);
const WALL: Rgb = [0.86, 0.85, 0.828];

function unit(v: readonly number[]): number[] {
  const length = Math.hypot(...v);
  return v.map((c) => c / length);
}

async function maskOf(view: View, path: string, { blurMm = 0, dx = 0, dy = 0 } = {}): Promise<Float32Array> {
  const scale = 1 / view.mmPerPx;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${view.sizePx}" height="${view.sizePx}"><rect width="100%" height="100%" fill="#000"/><g transform="scale(${scale}) translate(${dx - view.leftMm} ${dy - view.topMm})" fill="#fff"><path d="${path}"/></g></svg>`;
  let image = sharp(Buffer.from(svg)).toColourspace('b-w');
  const blurPx = blurMm / view.mmPerPx;
  if (blurPx > 0.4) image = image.blur(blurPx);
  const raw = await image.raw().toBuffer();
  return Float32Array.from(raw, (v) => v / 255);
}

/** Light on a piece at a place: soft from all around, and from the top left. */
function lightAt(piece: Piece, x: number, y: number, e: number): number {
  const { height } = piece;
  let light = 0.36 + 0.24 + 0.62 * LIGHT[2]!;
  if (height) {
    const dzdx = (height(x + e, y) - height(x - e, y)) / (2 * e);
    const dzdy = (height(x, y + e) - height(x, y - e)) / (2 * e);
    const n = unit([-dzdx, -dzdy, 1]);
    light = 0.36 + 0.24 * n[2]! + 0.62 * Math.max(0, n[0]! * LIGHT[0]! + n[1]! * LIGHT[1]! + n[2]! * LIGHT[2]!);
  }
  return light * (piece.tone?.(x, y) ?? 1);
}

/** A shot of pieces that lie before a wall, each over those before it. */
export async function drawnShot(
  view: View,
  pieces: readonly Piece[],
  areas: readonly DrawnArea[],
  backdrop: Backdrop & { readonly heather?: boolean } = {},
): Promise<Passes> {
  const { sizePx: size, mmPerPx: mm } = view;
  const n = size * size;
  const place = (i: number): [number, number] => [
    view.leftMm + ((i % size) + 0.5) * mm,
    view.topMm + (Math.floor(i / size) + 0.5) * mm,
  ];
  const plane = () => new Float32Array(n);
  const [rest, shade, fabric, front, good] = [new Float32Array(n * 3), plane(), plane(), plane(), plane()];
  const pattern = backdrop.heather ? { u: plane(), v: plane() } : null;
  const wall = backdrop.wall ?? WALL;
  for (let i = 0; i < n; i += 1) {
    const [, y] = place(i);
    const down = Math.floor(i / size) / size;
    const table = backdrop.tableMm === undefined ? 0 : smoothstep(-0.5, 0.5, (y - backdrop.tableMm) / mm);
    for (let c = 0; c < 3; c += 1)
      rest[i * 3 + c] =
        wall[c]! * (1.02 - 0.05 * down) * (1 - table) + [0.8, 0.775, 0.735][c]! * table * (0.96 + 0.06 * down);
  }
  const passes: Passes = { size, rest, shade, direct: null, specular: null, fabric, front, good, pattern, areas: {} };
  const open = areas.map((area) => {
    const flat = area.flatAt;
    return addArea(
      passes,
      area.key,
      area.variant,
      flat && { a: mm, b: 0, c: 0, d: mm, e: view.leftMm - flat[0], f: view.topMm - flat[1] },
    );
  });
  for (const [k, piece] of pieces.entries()) {
    const cover = await maskOf(view, piece.path);
    const lift = piece.liftMm ?? 3;
    const shadow =
      lift > 0 ? await maskOf(view, piece.path, { blurMm: lift * 1.5, dx: lift * 0.7, dy: lift * 1.1 }) : null;
    const contact = lift > 0 ? await maskOf(view, piece.path, { blurMm: Math.max(0.8, lift * 0.35) }) : null;
    const soft = piece.rim ? await maskOf(view, piece.path, { blurMm: piece.rim.widthMm }) : null;
    for (let i = 0; i < n; i += 1) {
      const c = cover[i]!;
      if (shadow && c < 1) {
        const dark = 1 - 0.34 * shadow[i]! - 0.18 * contact![i]!;
        for (let j = i * 3; j < i * 3 + 3; j += 1) rest[j]! *= dark;
        shade[i]! *= dark;
      }
      if (c === 0) continue;
      const [x, y] = place(i);
      let light = lightAt(piece, x, y, Math.max(0.6, mm));
      if (soft) light *= 1 - piece.rim!.depth * (1 - smoothstep(0.45, 0.98, soft[i]!));
      good[i] = good[i]! + c * (1 - good[i]!);
      const color = piece.color ?? [1, 1, 1];
      for (let j = 0; j < 3; j += 1)
        rest[i * 3 + j] = rest[i * 3 + j]! * (1 - c) + (piece.role === 'fabric' ? 0 : color[j]! * light * c);
      if (piece.role === 'front') {
        front[i] = front[i]! * (1 - c) + c;
        continue;
      }
      shade[i] = shade[i]! * (1 - c) + light * c;
      front[i]! *= 1 - c;
      fabric[i] = fabric[i]! * (1 - c) + (piece.role === 'fabric' ? c : 0);
      if (pattern && piece.role === 'fabric') {
        pattern.u[i] = x + 400;
        pattern.v[i] = y + 200;
      }
      for (const area of open) area.coverage[i]! *= 1 - c;
    }
    for (const [a, area] of areas.entries()) {
      if (area.on !== k) continue;
      const own = open[a]!;
      if (area.map) {
        own.map = area.map(view);
      }
      const within = area.path ? await maskOf(view, area.path) : null;
      for (let i = 0; i < n; i += 1) {
        if (cover[i] === 0) continue;
        const [x, y] = place(i);
        const [u, v] = area.at(x, y);
        const edge = (d: number) => Math.min(1, Math.max(0, d / mm + 0.5));
        own.u[i] = u;
        own.v[i] = v;
        own.coverage[i] =
          Math.min(edge(u), edge(area.widthMm - u), edge(v), edge(area.heightMm - v)) * cover[i]! * (within?.[i] ?? 1);
      }
    }
  }
  if (!pieces.some((piece) => piece.role === 'fabric')) passes.fabric = null;
  return passes;
}

/** A rectangle as path data, its corners rounded by `r`. */
export const rect = (x: number, y: number, w: number, h: number, r = 0): string =>
  r === 0
    ? `M${x} ${y} H${x + w} V${y + h} H${x} Z`
    : `M${x + r} ${y} H${x + w - r} A${r} ${r} 0 0 1 ${x + w} ${y + r} V${y + h - r} A${r} ${r} 0 0 1 ${x + w - r} ${y + h} H${x + r} A${r} ${r} 0 0 1 ${x} ${y + h - r} V${y + r} A${r} ${r} 0 0 1 ${x + r} ${y} Z`;

export const ellipse = (cx: number, cy: number, rx: number, ry: number): string =>
  `M${cx - rx} ${cy} A${rx} ${ry} 0 1 1 ${cx + rx} ${cy} A${rx} ${ry} 0 1 1 ${cx - rx} ${cy} Z`;

export const polygon = (points: readonly (readonly [number, number])[]): string =>
  `M${points.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join(' L')} Z`;

/** Grain of woven cloth, around 1, as fine as can be seen. */
export const grain =
  (mm: number, pitchMm: number, depth: number, seed = 9): Field =>
  (x, y) =>
    mm < pitchMm ? 1 + depth * noise(x / pitchMm, y / pitchMm, seed) * Math.min(1, (pitchMm / mm - 1) / 2) : 1;

/** A part of a good that is seen from near: its middle, and how much is seen. */
export type Near = { readonly x: number; readonly y: number; readonly sideMm: number };
/** Option values of a variant. */
export type Variant = Record<string, string>;
/** The view from near where one is asked for, else of the whole. */
export const looking = (size: number, near: Near | undefined, x: number, y: number, sideMm: number): View =>
  near ? viewAround(size, near.x, near.y, near.sideMm) : viewAround(size, x, y, sideMm);

/** An upright area at a place. */
export const flatArea = (
  key: string,
  variant: Variant,
  on: number,
  left: number,
  top: number,
  widthMm: number,
  heightMm: number,
): DrawnArea => ({
  key,
  variant,
  on,
  widthMm,
  heightMm,
  at: (x, y) => [x - left, y - top],
  flatAt: [left, top],
});
