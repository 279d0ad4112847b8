import { encodeSrgb } from '../artwork/color';
import { ONE } from './fabric';
import type { MapPlanes, Pass16, PxBox, Shot, ShotArea } from './shot';
import { textureOf, type TextureName } from './texture';

/**
 * A shot as the kernel takes it: only the box in which there is fabric or print, in fixed point (`ONE` = 16384 is 1 of light), everything
 * that can be known before color and design multiplied in.
 */
export interface Planes {
  readonly widthPx: number;
  readonly heightPx: number;
  /** The whole picture without fabric, 8-bit sRGB, three bytes a pixel: where there is no fabric this is what is seen. */
  readonly base: Uint8Array;
  readonly box: PxBox;
  /** Light that does not come from fabric or ink: rest and specular. Four values a pixel, the last unused. */
  readonly over: Uint16Array;
  /** Shade × fabric as seen. */
  readonly light: Uint16Array;
  readonly direct: Uint16Array | null;
  readonly specular: Uint16Array | null;
  /** Fabric as seen, 0 … 255; null for a good of which nothing takes a color. */
  readonly cover: Uint8Array | null;
  /** Median of the fabric's light. */
  readonly median: number;
  /** What heather is laid in; null where the shot has no map of its fabric. */
  readonly pattern: PatternPlanes | null;
  readonly areas: { readonly [areaKey: string]: AreaPlanes };
  /** The good in the whole picture, 0 … 255, for pure white around it. */
  readonly good: Uint8Array;
  /** 8-bit sRGB of linear light, 65536 entries, `ONE` being 1. */
  readonly tone: Uint8Array;
}

export interface AreaPlanes {
  readonly box: PxBox;
  /** How much of what takes the ink is print area: 0 … 255. */
  readonly share: Uint8Array;
  readonly u: Uint16Array;
  readonly v: Uint16Array;
  readonly uMm: readonly [number, number];
  readonly vMm: readonly [number, number];
  /** Mm per picture pixel along the longer axis: 16 × log2 of it, and 128. */
  readonly scale: Uint8Array;
  /** Light on the area where it does not lie on what takes the fabric's color: what is under the ink is in `over` then. Else null. */
  readonly light: Uint16Array | null;
  /** The finest of those, less any noise: mm per picture pixel where the area is seen largest; 0 when it is not seen. */
  readonly finestMm: number;
}

/** The tone: straight up to `straightTo`, then a shoulder that reaches 1 only in the limit, then the sRGB curve. */
export function toneTable(straightTo: number): Uint8Array {
  const room = 1 - straightTo;
  return Uint8Array.from({ length: 65536 }, (_, i) => {
    const value = i / ONE;
    return Math.round(
      encodeSrgb(value <= straightTo ? value : straightTo + room * (1 - Math.exp(-(value - straightTo) / room))),
    );
  });
}

/** The box of all pixels at which one of the planes is not 0. */
function boxWhere(planes: readonly Uint8Array[], widthPx: number, heightPx: number): PxBox {
  let [left, top, right, bottom] = [widthPx, heightPx, 0, 0];
  for (const plane of planes)
    for (let y = 0, i = 0; y < heightPx; y += 1)
      for (let x = 0; x < widthPx; x += 1, i += 1) {
        if (plane[i] === 0) continue;
        if (x < left) left = x;
        if (x >= right) right = x + 1;
        if (y < top) top = y;
        if (y >= bottom) bottom = y + 1;
      }
  if (right <= left) return { leftPx: 0, topPx: 0, widthPx: 0, heightPx: 0 };
  return { leftPx: left, topPx: top, widthPx: right - left, heightPx: bottom - top };
}

/** Side of the blocks for which the local scale is measured once: maps are smooth. */
const BLOCK_PX = 4;

/** Local scale of a map as its entry in `scale`, block by block, from neighbors that lie on it too. */
function scalesOf(map: MapPlanes, on: Uint8Array, box: PxBox, widthPx: number, heightPx: number): Uint8Array {
  const uStep = (map.uMm[1] - map.uMm[0]) / 65535;
  const vStep = (map.vMm[1] - map.vMm[0]) / 65535;
  const { u, v } = map;
  const scaleAt = (i: number): number => {
    const [x, y] = [i % widthPx, Math.floor(i / widthPx)];
    const right = x + 1 < widthPx && on[i + 1] ? i + 1 : x > 0 && on[i - 1] ? i - 1 : i;
    const below = y + 1 < heightPx && on[i + widthPx] ? i + widthPx : y > 0 && on[i - widthPx] ? i - widthPx : i;
    const dx = Math.hypot((u[right]! - u[i]!) * uStep, (v[right]! - v[i]!) * vStep);
    const dy = Math.hypot((u[below]! - u[i]!) * uStep, (v[below]! - v[i]!) * vStep);
    const mm = Math.max(dx, dy);
    return mm > 0 ? Math.min(255, Math.max(1, Math.round(16 * Math.log2(mm)) + 128)) : 128;
  };
  const out = new Uint8Array(box.widthPx * box.heightPx);
  for (let y = 0; y < box.heightPx; y += BLOCK_PX)
    for (let x = 0; x < box.widthPx; x += BLOCK_PX) {
      const [endX, endY] = [Math.min(box.widthPx, x + BLOCK_PX), Math.min(box.heightPx, y + BLOCK_PX)];
      let scale = 0;
      for (let j = y; j < endY && scale === 0; j += 1)
        for (let k = x; k < endX && scale === 0; k += 1) {
          const i = (box.topPx + j) * widthPx + box.leftPx + k;
          if (on[i] !== 0) scale = scaleAt(i);
        }
      if (scale === 0) continue;
      for (let j = y; j < endY; j += 1) out.fill(scale, j * box.widthPx + x, j * box.widthPx + endX);
    }
  return out;
}

/** Mm per picture pixel of an entry in `scale`. */
export const mmOfScale = (scale: number): number => 2 ** ((scale - 128) / 16);

function finest(scale: Uint8Array, share: Uint8Array): number {
  const counts = new Uint32Array(256);
  let all = 0;
  for (let i = 0; i < scale.length; i += 1)
    if (share[i]! > 250) {
      counts[scale[i]!]! += 1;
      all += 1;
    }
  let seen = 0;
  for (let s = 1; s < 256; s += 1) if ((seen += counts[s]!) > all * 0.1) return mmOfScale(s);
  return 0;
}

/** Whether an area lies on what takes the fabric's color: a shirt's does, that of a cup with a colored rim does not. */
function liesOnFabric(area: ShotArea, fabric: Uint8Array | null): boolean {
  if (!fabric) return false;
  let [on, all] = [0, 0];
  for (let i = 0; i < fabric.length; i += 5)
    if (area.coverage[i]! > 250) {
      all += 1;
      if (fabric[i]! > 127) on += 1;
    }
  return on * 2 > all;
}

function areaPlanes(shot: Shot, area: ShotArea, seen: Uint8Array | null): AreaPlanes {
  const { widthPx, heightPx, front, shade, exposure } = shot;
  const fabric = liesOnFabric(area, shot.fabric) ? shot.fabric : null;
  const box = boxWhere([area.coverage], widthPx, heightPx);
  const share = cut8(area.coverage, box, widthPx);
  for (let y = 0, o = 0; y < box.heightPx; y += 1)
    for (let x = 0; x < box.widthPx; x += 1, o += 1) {
      const covered = share[o]!;
      if (covered === 0) continue;
      const i = (box.topPx + y) * widthPx + box.leftPx + x;
      // On fabric, ink coverage is print coverage ÷ fabric coverage; the light already holds what stands in front.
      if (fabric) share[o] = seen![i] === 0 ? 0 : Math.min(255, (covered * 255) / fabric[i]! + 0.5);
      else if (front) share[o] = (covered * (255 - front[i]!)) / 255 + 0.5;
    }
  const scale = scalesOf(area, area.coverage, box, widthPx, heightPx);
  return {
    box,
    share,
    u: cut16(area.u, box, widthPx),
    v: cut16(area.v, box, widthPx),
    uMm: area.uMm,
    vMm: area.vMm,
    scale,
    light: fabric ? null : lightOf(shade, exposure, null, box, widthPx),
    finestMm: finest(scale, share),
  };
}

/** A texture as it is seen over a map, 0 … 255 a pixel: from the copy whose pixels are about as large, bilinear. */
export function textureOver(name: TextureName, map: Pick<AreaPlanes, 'u' | 'v' | 'uMm' | 'vMm' | 'scale'>): Uint8Array {
  const { sizeMm, levels } = textureOf(name);
  const { u, v, scale } = map;
  const finestMm = sizeMm / levels[0]!.sidePx;
  const levelOf = Array.from(
    { length: 256 },
    (_, s) => levels[Math.min(levels.length - 1, Math.max(0, Math.round(Math.log2(mmOfScale(s) / finestMm))))]!,
  );
  const [uStep, vStep] = [(map.uMm[1] - map.uMm[0]) / 65535, (map.vMm[1] - map.vMm[0]) / 65535];
  const out = new Uint8Array(u.length).fill(128);
  for (let i = 0; i < out.length; i += 1) {
    const s = scale[i]!;
    if (s === 0) continue;
    const { sidePx, values } = levelOf[s]!;
    // Moved far to the positive, so that cutting off is rounding down; sides are powers of two.
    const x = ((map.uMm[0] + u[i]! * uStep) / sizeMm) * sidePx - 0.5 + sidePx * 4096;
    const y = ((map.vMm[0] + v[i]! * vStep) / sizeMm) * sidePx - 0.5 + sidePx * 4096;
    const [ix, iy] = [x | 0, y | 0];
    const [fx, fy] = [x - ix, y - iy];
    const mask = sidePx - 1;
    const [xa, xb, ya, yb] = [ix & mask, (ix + 1) & mask, (iy & mask) * sidePx, ((iy + 1) & mask) * sidePx];
    const top = values[ya + xa]! + (values[ya + xb]! - values[ya + xa]!) * fx;
    const low = values[yb + xa]! + (values[yb + xb]! - values[yb + xa]!) * fx;
    out[i] = top + (low - top) * fy + 0.5;
  }
  return out;
}

/** The fabric's own pattern in the box, for heather. */
export interface PatternPlanes extends MapPlanes {
  readonly scale: Uint8Array;
}

/** The rows of a box out of a plane of the whole picture. */
function cut<T extends Uint8Array | Uint16Array>(make: (n: number) => T, from: T, box: PxBox, ofWidth: number): T {
  const out = make(box.widthPx * box.heightPx);
  for (let y = 0; y < box.heightPx; y += 1) {
    const at = (box.topPx + y) * ofWidth + box.leftPx;
    out.set(from.subarray(at, at + box.widthPx), y * box.widthPx);
  }
  return out;
}
const cut16 = (from: Uint16Array, box: PxBox, ofWidth: number) => cut((n) => new Uint16Array(n), from, box, ofWidth);
const cut8 = (from: Uint8Array, box: PxBox, ofWidth: number) => cut((n) => new Uint8Array(n), from, box, ofWidth);

function patternOf(shot: Shot, box: PxBox): PatternPlanes | null {
  const { pattern, fabric, widthPx, heightPx } = shot;
  if (!pattern || !fabric) return null;
  return {
    ...pattern,
    u: cut16(pattern.u, box, widthPx),
    v: cut16(pattern.v, box, widthPx),
    scale: scalesOf(pattern, fabric, box, widthPx, heightPx),
  };
}

function medianOf(light: Uint16Array, cover: Uint8Array | null): number {
  const counts = new Uint32Array(1024);
  let all = 0;
  for (let i = 0; i < light.length; i += 1)
    if (!cover || cover[i] === 255) {
      counts[light[i]! >> 6]! += 1;
      all += 1;
    }
  let seen = 0;
  for (let k = 0; k < 1024; k += 1) if ((seen += counts[k]!) * 2 >= all && all > 0) return (k << 6) + 32;
  return ONE;
}

/** Coverage of fabric as it is seen, past what stands in front of it. */
function seenFabric(fabric: Uint8Array, front: Uint8Array | null): Uint8Array {
  if (!front) return fabric;
  const seen = new Uint8Array(fabric.length);
  for (let i = 0; i < seen.length; i += 1) seen[i] = (fabric[i]! * (255 - front[i]!)) / 255 + 0.5;
  return seen;
}

/** Light in fixed point, times what of the fabric is seen; an absent pass is even light. */
function lightOf(pass: Pass16 | null, exposure: number, cover: Uint8Array | null, box: PxBox, ofWidth: number) {
  const values = pass && cut16(pass.values, box, ofWidth);
  const unit = pass ? (pass.scale / 65535) * exposure * ONE : exposure * ONE;
  const out = new Uint16Array(box.widthPx * box.heightPx);
  for (let i = 0; i < out.length; i += 1) {
    const value = (values ? values[i]! : 1) * unit * (cover ? cover[i]! / 255 : 1) + 0.5;
    out[i] = value > 65535 ? 65535 : value;
  }
  return out;
}

/** Everything of the good, 0 … 255. */
function goodOf(shot: Shot): Uint8Array {
  if (shot.good) return shot.good;
  const good = new Uint8Array(shot.widthPx * shot.heightPx);
  for (const part of [shot.fabric, shot.front, ...Object.values(shot.areas).map((area) => area.coverage)]) {
    if (part) for (let i = 0; i < good.length; i += 1) if (part[i]! > good[i]!) good[i] = part[i]!;
  }
  return good;
}

/** Makes a shot ready for the kernel. */
export function planesOf(shot: Shot): Planes {
  const { widthPx, heightPx, rest, shade, direct, specular, fabric, front, exposure } = shot;
  const tone = toneTable(shot.straightTo);
  const areas = Object.entries(shot.areas);
  const box = boxWhere([...(fabric ? [fabric] : []), ...areas.map(([, area]) => area.coverage)], widthPx, heightPx);
  const unit = (rest.scale / 65535) * exposure * ONE;
  const glossUnit = ((specular?.scale ?? 0) / 65535) * exposure * ONE;
  const base = new Uint8Array(widthPx * heightPx * 3);
  const over = new Uint16Array(box.widthPx * box.heightPx * 4);
  const [right, bottom] = [box.leftPx + box.widthPx, box.topPx + box.heightPx];
  for (let y = 0, i = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1, i += 1) {
      const inside = x >= box.leftPx && x < right && y >= box.topPx && y < bottom;
      const o = inside ? ((y - box.topPx) * box.widthPx + x - box.leftPx) * 4 : -1;
      const gloss = specular ? specular.values[i]! * glossUnit + 0.5 : 0.5;
      for (let c = 0; c < 3; c += 1) {
        const light = rest.values[i * 3 + c]! * unit + gloss;
        const value = light > 65535 ? 65535 : light | 0;
        base[i * 3 + c] = tone[value]!;
        if (o >= 0) over[o + c] = value;
      }
    }
  const seen = fabric && seenFabric(fabric, front);
  const cover = seen && cut8(seen, box, widthPx);
  const light = cover ? lightOf(shade, exposure, cover, box, widthPx) : new Uint16Array(box.widthPx * box.heightPx);
  return {
    widthPx,
    heightPx,
    base,
    box,
    over,
    light,
    direct: direct && lightOf(direct, exposure, cover, box, widthPx),
    specular: specular && lightOf(specular, exposure, null, box, widthPx),
    cover,
    median: medianOf(light, cover),
    pattern: patternOf(shot, box),
    areas: Object.fromEntries(areas.map(([key, area]) => [key, areaPlanes(shot, area, seen)])),
    good: goodOf(shot),
    tone,
  };
}
