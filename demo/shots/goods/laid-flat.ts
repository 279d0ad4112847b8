import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';
import { overhead, paperSweep } from '../studio/room';
import { flatLights } from '../studio/room';
import type { Part } from '../studio/scene';
import { surface, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { ADULT, edgeAt, JERSEY, RIB, scaled, type Cut } from './shirt';
import type { TeeSpec } from './tee';

const PANEL = 1;

/** Two layers of jersey on a table are this high, less at their folded sides. */
const LAYERS_MM = 3.4;

/** How high the cloth lies at a place of the front, mm: long creases as after a drawer, drawn from the armholes and the sides, and soft ones. */
function lies(x: number, y: number, k: number): number {
  const [u, v] = [x / k, y / k];
  const wander = 26 * noise(u / 150, v / 170, 81);
  let z = 0;
  // From each armhole down toward the waist; from the shoulder toward the middle.
  for (const hand of [-1, 1]) {
    const dx = hand * u;
    const near = smoothstep(60, 190, dx);
    z += 2.6 * ridge(v - 300 - 0.9 * (236 - dx) - wander, 15) * near;
    z += 2.0 * ridge(v - 372 - 0.62 * (236 - dx) - 0.7 * wander, 13) * near * smoothstep(270, 220, dx);
    z += 1.7 * ridge(v - 182 - 0.42 * (226 - dx) - 0.5 * wander, 12) * smoothstep(90, 170, dx);
    z += 2.3 * ridge(dx - 205 - 0.1 * (v - 520) - 0.3 * wander, 11) * smoothstep(430, 560, v) * smoothstep(715, 660, v);
  }
  // Where it was folded: once lengthwise, once across; the folds have nearly gone.
  z += 1.3 * ridge(u - 96 - 0.2 * wander, 7) * (0.5 + 0.5 * noise(v / 90, 3, 82)) * smoothstep(120, 200, v);
  z += 1.2 * ridge(v - 430 - 0.2 * wander, 8) * (0.5 + 0.5 * noise(u / 90, 5, 84));
  // Laid by hand: a few long soft waves.
  z += 2.4 * ridge(u - 40 - 0.32 * (v - 560) - wander, 22) * smoothstep(380, 520, v);
  z += 2.0 * ridge(u + 70 + 0.24 * (v - 600) - 0.8 * wander, 20) * smoothstep(420, 560, v);
  return (
    1.75 * z + 1.5 * noise(u / 74, v / 92, 85) + 0.6 * noise(u / 27, v / 35, 86) + 0.16 * noise(u / 11, v / 13, 87)
  );
}

/** From a folded or sewn edge inward the layers rise to their height. */
const risen = (inMm: number, k: number) => Math.sqrt(smoothstep(0, 9 * k, inMm + 0.3 * k));

/** A tee laid flat on paper, seen from straight above; its front is up. */
export function flatTeeShot(
  quality: Quality,
  { scale, print, label }: Omit<TeeSpec, 'back' | 'near' | 'sleeve'>,
): Passes {
  const cut: Cut = scaled(ADULT, scale);
  const k = scale;
  const { neckHalf, neckDeep, shoulderHalf, shoulderDrop, armholeDeep, length } = cut;
  const topOf = (x: number, deep: number): number => {
    const a = Math.abs(x);
    if (a <= neckHalf) return deep * (1 - (a / neckHalf) ** 2.4) ** 0.7;
    return ((a - neckHalf) / (shoulderHalf - neckHalf)) * shoulderDrop;
  };
  /** Places of the body: s across, t from neck and shoulders to the hem. */
  const pattern = (s: number, t: number, deep: number): readonly [number, number] => {
    const across = s * 2 - 1;
    const rows = 0.32;
    if (t <= rows) {
      const part = t / rows;
      const side = shoulderDrop + (armholeDeep - shoulderDrop) * part;
      const top = topOf(across * shoulderHalf, deep);
      return [across * edgeAt(cut, side), top + (armholeDeep - top) * part];
    }
    const y = armholeDeep + ((length - armholeDeep) * (t - rows)) / (1 - rows);
    return [across * edgeAt(cut, y), y];
  };
  const middleY = length * 0.49;
  const place = (x: number, y: number, z: number): V => [x, z, y - middleY];
  // A hem is sewn: a groove where the stitches hold it, a little swell beside it.
  const hem = (y: number, from: number) =>
    0.7 * smoothstep(from - 0.6, from + 0.6, y) - 0.6 * Math.exp(-(((y - from) / 1.4) ** 2));
  const heightAt = (x: number, y: number) => {
    const edge = edgeAt(cut, Math.max(y, shoulderDrop));
    // Beside the armhole the sleeve goes on: there is a seam and no edge.
    const side = y > armholeDeep ? edge - Math.abs(x) : 40 * k;
    const low = length - y + 2 * k * noise(x / (60 * k), 4, 88);
    const seam =
      y < armholeDeep ? -0.9 * ridge(edge - Math.abs(x), 1.6 * k) + 0.5 * ridge(edge - Math.abs(x) - 4 * k, 3 * k) : 0;
    const up = risen(Math.max(0, Math.min(side, low)), k);
    return up * (LAYERS_MM * k + lies(x, y, k) * k) + seam + hem(y, length - 22 * k) * Math.min(1, up);
  };
  const body = (deep: number, lower: number) =>
    surface(
      240,
      340,
      (s, t) => {
        const [x, y] = pattern(s, t, deep);
        return place(x, y, Math.max(0.2, heightAt(x, y) - lower));
      },
      (s, t) => pattern(s, t, deep) as [number, number],
    );
  /** A sleeve lies folded at its top: from the armhole outward and down. */
  const sleeve = (hand: 1 | -1) => {
    const [outMm, downMm] = [158 * k, 72 * k];
    const at = (s: number, t: number): readonly [number, number, number] => {
      const side = shoulderDrop + (armholeDeep - shoulderDrop) * t;
      const [x0, y0] = [edgeAt(cut, side), side];
      // The cuff is a straight line, nearly square to the sleeve's upper fold.
      const [xa, ya] = [shoulderHalf + outMm, shoulderDrop + downMm];
      const [xb, yb] = [edgeAt(cut, armholeDeep) + outMm * 0.5, armholeDeep + downMm * 0.42];
      const [x1, y1] = [xa + (xb - xa) * t, ya + (yb - ya) * t];
      const bow = 5 * k * Math.sin(Math.PI * s) * (t - 0.5);
      const [x, y] = [x0 + (x1 - x0) * s, y0 + (y1 - y0) * s + bow];
      const wide = Math.hypot(xb - x0, yb - y0) || 1;
      const inward = Math.min(t, 1 - t) * (armholeDeep - shoulderDrop) * 0.85;
      const cuff = (1 - s) * wide;
      const up = risen(Math.max(0, Math.min(inward, cuff + 1.5 * k)), k);
      const [u, v] = [x / k, y / k];
      const creases =
        2.4 * ridge(t - 0.3 - 0.25 * s + 0.06 * noise(u / 40, v / 40, 90 + hand), 0.06) * smoothstep(0, 0.3, s) +
        2.0 * ridge(t - 0.62 + 0.18 * s + 0.05 * noise(u / 36, v / 44, 92 + hand), 0.06) * smoothstep(1, 0.6, s) +
        0.8 * noise(u / 46, v / 52, 94 + hand) +
        0.4 * noise(u / 20, v / 24, 95 + hand);
      const seam = -0.9 * ridge(s * wide, 1.6 * k);
      const stitched = hem(-cuff, -20 * k) * Math.min(1, up);
      return [hand * x, y, Math.max(0.2, up * (LAYERS_MM * k * 0.95 + creases * k) + seam + stitched)];
    };
    return surface(
      110,
      110,
      (s, t) => place(...at(hand > 0 ? s : 1 - s, t)),
      (s, t) => {
        const [x, y] = at(hand > 0 ? s : 1 - s, t);
        return [x, y + 900];
      },
    );
  };
  const deepBack = cut.backNeckDeep;
  const band = (deep: number, lower: number) =>
    surface(
      200,
      12,
      (s, t) => {
        const x = (s * 2 - 1) * neckHalf * 0.998;
        const wide = 19 * k;
        const y = topOf(x, deep);
        // Square to the neckline, into the opening.
        const slope = (topOf(x + 0.4, deep) - topOf(x - 0.4, deep)) / 0.8;
        const l = Math.hypot(slope, 1);
        const way = wide * (t * 1.1 - 0.1);
        const z =
          heightAt(x, y + 4) -
          lower +
          0.5 +
          1.3 * k * Math.sin(Math.PI * Math.min(1, t * 1.1)) -
          0.7 * ridge(t - 0.09, 0.05);
        return place(x + ((way * slope) / l) * 0.9, y - way / l, Math.max(0.4, z));
      },
      (s, t) => [s * 300 * k, t * 19 * k],
    );
  const parts: Part[] = [
    { shape: body(neckDeep, 0), material: JERSEY, panel: PANEL },
    // The back, of which the inside of the neck is seen.
    { shape: body(deepBack, LAYERS_MM * k * 0.72), material: JERSEY, panel: PANEL + 1 },
    { shape: sleeve(1), material: JERSEY },
    { shape: sleeve(-1), material: JERSEY },
    { shape: band(neckDeep, 0), material: RIB },
    { shape: band(deepBack, LAYERS_MM * k * 0.6), material: RIB },
  ];
  const key = 'main.front';
  const areas = [
    { key, u: -print.widthMm / 2, v: print.topMm, widthMm: print.widthMm, heightMm: print.heightMm, panels: [PANEL] },
    ...(label
      ? [
          {
            key: 'main.label',
            u: -label.widthMm / 2,
            v: deepBack + 12 * k,
            widthMm: label.widthMm,
            heightMm: label.heightMm,
            panels: [PANEL + 1],
          },
        ]
      : []),
  ];
  const { camera, flat } = overhead(905 * k, [0, 0, 0], LAYERS_MM * k + 1, quality.size);
  const scene = { camera, parts: [paperSweep(4000), ...parts], ...flatLights(k * 2.2), areas };
  const { variant } = print;
  const passes = trace(scene, quality, Object.fromEntries(areas.map((area) => [area.key, { variant }])), {
    lightFrom: [key],
    heather: true,
  });
  passes.areas[key]!.flat = flat(-print.widthMm / 2, print.topMm - middleY);
  return passes;
}
