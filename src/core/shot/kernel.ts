import { encodeSrgb, linearOf8, type Rgb } from '../artwork/color';
import { halve, type Raster } from '../print/raster';
import type { Shot, ShotArea } from './shot';

/** The printed sheet of an area as pixels: where its top left corner lies in mm of the trim, and how fine it is. */
export interface AreaArt {
  readonly raster: Raster;
  readonly leftMm: number;
  readonly topMm: number;
  readonly pxPerMm: number;
}

/** Ink as seen in the picture: premultiplied, linear light, 0 … 65535, four values a pixel. Independent of the fabric's color. */
export interface Ink {
  readonly values: Uint16Array;
}

const LINEAR16 = Uint16Array.from(linearOf8, (v) => Math.round(v * 65535));
const STEPS = 4096;
/** 8-bit sRGB of linear light in steps of 1/4096. */
const ENCODED = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(encodeSrgb(i / STEPS)));

/** Premultiplied 8-bit sRGB to premultiplied linear 16-bit. Filtering happens after this, in linear light. */
function toLinear({ widthPx, heightPx, data }: Raster): { widthPx: number; heightPx: number; values: Uint16Array } {
  const values = new Uint16Array(data.length);
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!;
    if (alpha === 0) continue;
    for (let c = i; c < i + 3; c += 1) {
      values[c] =
        alpha === 255
          ? LINEAR16[data[c]!]!
          : (LINEAR16[Math.min(255, Math.round((data[c]! * 255) / alpha))]! * alpha) / 255;
    }
    values[i + 3] = alpha * 257;
  }
  return { widthPx, heightPx, values };
}

/**
 * Warps the art of one area into the picture by its map: for each pixel of the shot the place in the art, filtered by a chain of
 * halved copies chosen by the map's local scale, bilinear within. Added over what `ink` holds already (areas do not overlap).
 */
export function warpInk(ink: Ink, shot: Shot, area: ShotArea, art: AreaArt): void {
  const levels = [toLinear(art.raster)];
  for (let r = art.raster; Math.min(r.widthPx, r.heightPx) > 4 && levels.length < 8;) {
    r = halve(r);
    levels.push(toLinear(r));
  }
  const { widthPx: w, heightPx: h } = shot;
  const [uStep, vStep] = [
    ((area.uMm[1] - area.uMm[0]) / 65535) * art.pxPerMm,
    ((area.vMm[1] - area.vMm[0]) / 65535) * art.pxPerMm,
  ];
  const [u0, v0] = [(area.uMm[0] - art.leftMm) * art.pxPerMm, (area.vMm[0] - art.topMm) * art.pxPerMm];
  const { coverage, u, v } = area;
  const { values } = ink;
  for (let y = 0; y < h; y += 1) {
    for (let x = 0; x < w; x += 1) {
      const i = y * w + x;
      const covered = coverage[i]!;
      if (covered === 0) continue;
      // Local scale: art pixels per picture pixel along the longer axis, from neighbors that lie on the area too.
      const right = x + 1 < w && coverage[i + 1] ? i + 1 : x > 0 && coverage[i - 1] ? i - 1 : i;
      const below = y + 1 < h && coverage[i + w] ? i + w : y > 0 && coverage[i - w] ? i - w : i;
      const dx = Math.hypot((u[right]! - u[i]!) * uStep, (v[right]! - v[i]!) * vStep);
      const dy = Math.hypot((u[below]! - u[i]!) * uStep, (v[below]! - v[i]!) * vStep);
      const level = Math.min(levels.length - 1, Math.max(0, Math.round(Math.log2(Math.max(dx, dy, 1)))));
      const { widthPx: aw, heightPx: ah, values: av } = levels[level]!;
      const shrink = 1 / (1 << level);
      const ax = (u0 + u[i]! * uStep) * shrink - 0.5;
      const ay = (v0 + v[i]! * vStep) * shrink - 0.5;
      const ix = Math.floor(ax);
      const iy = Math.floor(ay);
      if (ix < -1 || iy < -1 || ix >= aw || iy >= ah) continue;
      const [fx, fy] = [ax - ix, ay - iy];
      // The printed sheet ends where the area ends: its last pixels go on, coverage cuts them.
      const [xa, xb] = [Math.max(ix, 0), Math.min(ix + 1, aw - 1)];
      const [ya, yb] = [Math.max(iy, 0) * aw, Math.min(iy + 1, ah - 1) * aw];
      const [p, q, r, s] = [(ya + xa) << 2, (ya + xb) << 2, (yb + xa) << 2, (yb + xb) << 2];
      const [wp, wq, wr, ws] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
      // Ink coverage is alpha × print coverage ÷ fabric coverage; the fabric's own coverage is applied when composing.
      const share = Math.min(1, covered / Math.max(1, shot.fabric[i]!));
      const o = i << 2;
      for (let c = 0; c < 4; c += 1)
        values[o + c] = (av[p + c]! * wp + av[q + c]! * wq + av[r + c]! * wr + av[s + c]! * ws) * share;
    }
  }
}

export const newInk = (shot: Shot): Ink => ({ values: new Uint16Array(shot.widthPx * shot.heightPx * 4) });

/**
 * The picture on one fabric color: tone(rest + shade × (fabric or ink) + specular), straight RGB, opaque, rows from the top.
 * tone is straight up to `straightTo`, then a shoulder that reaches 1 only in the limit; then the sRGB curve.
 */
export function composePicture(shot: Shot, fabricColor: Rgb, ink: Ink | null): Uint8Array {
  const { widthPx, heightPx, rest, shade, specular, fabric } = shot;
  const out = new Uint8Array(widthPx * heightPx * 3);
  const [restScale, shadeScale] = [rest.scale / 65535, shade.scale / 65535];
  const specularScale = specular ? specular.scale / 65535 : 0;
  const color = fabricColor.map((c) => linearOf8[c]!);
  const knee = shot.straightTo;
  const room = 1 - knee;
  for (let i = 0, o = 0; o < out.length; i += 1, o += 3) {
    const covered = fabric[i]! / 255;
    const light = covered === 0 ? 0 : shade.values[i]! * shadeScale * covered;
    const gloss = specular ? specular.values[i]! * specularScale : 0;
    const bare = ink ? 1 - ink.values[i * 4 + 3]! / 65535 : 1;
    for (let c = 0; c < 3; c += 1) {
      let value = rest.values[o + c]! * restScale + gloss;
      if (light > 0) value += light * (color[c]! * bare + (ink ? ink.values[i * 4 + c]! / 65535 : 0));
      if (value > knee) value = knee + room * (1 - Math.exp(-(value - knee) / room));
      out[o + c] = ENCODED[(value * STEPS + 0.5) | 0]!;
    }
  }
  return out;
}
