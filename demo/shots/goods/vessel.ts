import type { Passes } from '../passes';
import { paperSweep, tableLights } from '../studio/room';
import type { Camera, Material, Part } from '../studio/scene';
import { add, arc, lathe, sweep, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';

/** A vessel in mm, y up from the table, its axis in z and x = 0. */
export interface Vessel {
  readonly kind: 'mug' | 'cup' | 'bottle';
  readonly radiusMm: number;
  readonly heightMm: number;
  /** The wrap that is printed. */
  readonly wrap: { readonly widthMm: number; readonly heightMm: number; readonly fromTopMm: number };
}

/** The camera that a vessel is seen by: a little from above, far enough that its walls look upright, aside by where the handle points. */
export function cameraOf({ kind, heightMm }: Vessel, facingDeg: number): Camera {
  const aside = kind === 'bottle' ? 0 : 15 * Math.sin(((180 - facingDeg) * Math.PI) / 180);
  const zoom = kind === 'bottle' ? 960 / heightMm : 8.7 * (95 / Math.max(95, heightMm * 0.98));
  const middle = heightMm * 0.5 + (kind === 'bottle' ? 9 : -2);
  return { eye: [aside, middle + 107, 640], target: [aside, middle, 0], zoom };
}

const GLAZE: Material = { role: 'fabric', albedo: [0.86, 0.86, 0.86], f0: 0.037, roughness: 0.12 };
const ENAMEL: Material = {
  role: 'good',
  albedo: [0.83, 0.82, 0.79],
  second: [0.6, 0.59, 0.56],
  f0: 0.05,
  roughness: 0.16,
  grain: { kind: 'speckle', depthMm: 0, sizeMm: 0.55 },
};
/** The rim of the cup takes the color: it is dark on the blank's own. */
const RIM: Material = { role: 'fabric', albedo: [0.1, 0.1, 0.12], f0: 0.05, roughness: 0.2 };
const LACQUER: Material = {
  role: 'fabric',
  albedo: [0.72, 0.72, 0.72],
  f0: 0.04,
  roughness: 0.34,
  grain: { kind: 'speckle', depthMm: 0.004, sizeMm: 0.35 },
};
const STEEL: Material = {
  role: 'good',
  albedo: [0.66, 0.67, 0.68],
  f0: 0.66,
  roughness: 0.3,
  metal: true,
  grain: { kind: 'brushed', depthMm: 0.006, sizeMm: 0.8 },
};

/** Panel of the outer wall, which the wrap lies on. */
export const WALL = 1;

/** A handle in the plane x = 0 behind the body: away from it at the top, round it and back, wider where it meets the wall. */
function handle(radiusMm: number, heightMm: number, out: number, wide: number, thick: number): Shape {
  const [top, low] = [heightMm * 0.8, heightMm * 0.24];
  const from = radiusMm - 2.4;
  const tall = top - low;
  const points: V[] = [
    [0, top, from],
    [0, top + 1.2, from + out * 0.3],
    [0, top - tall * 0.02, from + out * 0.66],
    [0, top - tall * 0.18, from + out * 0.93],
    [0, top - tall * 0.42, from + out],
    [0, top - tall * 0.66, from + out * 0.9],
    [0, top - tall * 0.85, from + out * 0.62],
    [0, low + tall * 0.03, from + out * 0.28],
    [0, low, from],
  ];
  // A smooth curve through the points (Catmull-Rom).
  const path = (s: number): V => {
    const x = Math.min(points.length - 1.0001, Math.max(0, s * (points.length - 1)));
    const k = Math.floor(x);
    const t = x - k;
    const at = (i: number) => points[Math.min(points.length - 1, Math.max(0, i))]!;
    const [a, b, c, d] = [at(k - 1), at(k), at(k + 1), at(k + 2)];
    const one = (i: 0 | 1 | 2) =>
      0.5 *
      (2 * b[i] +
        (c[i] - a[i]) * t +
        (2 * a[i] - 5 * b[i] + 4 * c[i] - d[i]) * t * t +
        (3 * b[i] - a[i] - 3 * c[i] + d[i]) * t ** 3);
    return [one(0), one(1), one(2)];
  };
  const flare = (s: number) => 1 + 0.55 * (Math.exp(-s / 0.05) + Math.exp(-(1 - s) / 0.05));
  const shape = sweep(path, [1, 0, 0], (s, angle) => {
    // Between an ellipse and a rounded slab.
    const [c, n] = [Math.cos(angle), Math.sin(angle)];
    const power = (v: number) => Math.sign(v) * Math.abs(v) ** 0.82;
    return [power(c) * wide * 0.5 * flare(s), power(n) * thick * 0.5 * (1 + 0.35 * (flare(s) - 1))];
  });
  return turned(shape, 180);
}

interface Made {
  readonly parts: readonly Part[];
}

function mug({ radiusMm: r, heightMm: h }: Vessel): Made {
  const wall = 4;
  const rim = 2;
  const wallParts = lathe(
    [
      [r, 3.6],
      [r, h - rim],
    ],
    r,
  );
  const foot = lathe([[0, 1.2], [r - 11, 1.2], [r - 9.5, 0], [r - 7, 0], ...arc([r - 5.2, 4.4], 5.2, -80, 0, 14)], r);
  const inside = lathe(
    [
      ...arc([r - rim, h - rim], rim, 0, 180, 16),
      [r - wall, h * 0.5],
      ...arc([r - wall - 8, 13], 8, 0, -90, 12),
      [0, 5],
    ],
    r,
  );
  return {
    parts: [
      { shape: wallParts, material: GLAZE, panel: WALL },
      { shape: foot, material: GLAZE },
      { shape: inside, material: GLAZE },
      { shape: handle(r, h, 34 * (h / 95) ** 0.5, 13, 9.5), material: GLAZE },
    ],
  };
}

function cup({ radiusMm: r, heightMm: h }: Vessel): Made {
  const wall = 1.3;
  const bead = 1.9;
  return {
    parts: [
      {
        shape: lathe(
          [
            [r, 5],
            [r, h - bead],
          ],
          r,
        ),
        material: ENAMEL,
        panel: WALL,
      },
      { shape: lathe([[0, 0.6], [r - 6, 0.6], [r - 5, 0], ...arc([r - 5, 5], 5, -90, 0, 14)], r), material: ENAMEL },
      {
        shape: lathe([[r - wall, h - bead], [r - wall, 8], ...arc([r - wall - 6, 8], 6, 0, -90, 10), [0, 2]], r),
        material: ENAMEL,
      },
      { shape: lathe(arc([r - wall / 2, h - bead], bead, -180, 180, 28), r), material: RIM },
      { shape: handle(r, h, 31, 12, 4.6), material: ENAMEL },
    ],
  };
}

function bottle({ radiusMm: r, heightMm: h }: Vessel): Made {
  const shoulder = h * 0.775;
  const neck = r * 0.6;
  const top = h * 0.855;
  const curve: [number, number][] = Array.from({ length: 30 }, (_, i) => {
    const t = (i + 1) / 30;
    const e = t * t * (3 - 2 * t);
    return [r + (neck - r) * e, shoulder + (top - 6 - shoulder) * t];
  });
  const lid = neck + 2.6;
  return {
    parts: [
      {
        shape: lathe(
          [
            [r, 5],
            [r, shoulder],
          ],
          r,
        ),
        material: LACQUER,
        panel: WALL,
      },
      { shape: lathe([[0, 0.8], [r - 7, 0.8], [r - 6, 0], ...arc([r - 5, 5], 5, -80, 0, 12)], r), material: STEEL },
      { shape: lathe([[r, shoulder], ...curve, [neck, top]], r), material: LACQUER },
      {
        shape: lathe(
          [
            [neck, top - 2],
            [lid - 1, top - 2],
            ...arc([lid - 1.2, top - 0.6], 1.2, -60, 0, 6),
            ...arc([lid - 3.2, h - 3.2], 3.2, 0, 90, 14),
            [0, h],
          ],
          r,
        ),
        material: STEEL,
      },
      // A loop to carry it by.
      {
        shape: sweep(
          (s) => {
            const angle = Math.PI * s;
            return [Math.cos(angle) * (lid - 5), h - 2 + Math.sin(angle) * 20, 0];
          },
          [0, 0, 1],
          (_, angle) => [Math.cos(angle) * 5.5, Math.sin(angle) * 1.9],
        ),
        material: STEEL,
      },
    ],
  };
}

/** What a vessel is made of, its wrap's middle turned `facingDeg` away from the viewer to the left. */
export function vesselParts(vessel: Vessel, facingDeg: number, at: V = [0, 0, 0]): Part[] {
  const { parts } = vessel.kind === 'mug' ? mug(vessel) : vessel.kind === 'cup' ? cup(vessel) : bottle(vessel);
  return parts.map((part) => {
    const shape = turned(part.shape, -facingDeg);
    const positions = [...shape.positions];
    for (let i = 0; i < positions.length; i += 3) {
      const p = add([positions[i]!, positions[i + 1]!, positions[i + 2]!], at);
      [positions[i], positions[i + 1], positions[i + 2]] = p;
    }
    // v of a lathe is its height: that of the wrap runs down from its top.
    const uv =
      part.panel === WALL
        ? shape.uv.map((value, i) => (i % 2 === 1 ? vessel.heightMm - vessel.wrap.fromTopMm - value : value))
        : shape.uv;
    return { ...part, shape: { ...shape, positions, uv } };
  });
}

/** The shot of a vessel with the wrap's middle turned away by `facingDeg`; a handle is opposite the middle. */
export function vesselShot(
  quality: Quality,
  vessel: Vessel,
  facingDeg: number,
  key: string,
  variant: Record<string, string>,
): Passes {
  const { wrap } = vessel;
  const scene = {
    camera: cameraOf(vessel, facingDeg),
    parts: [paperSweep(), ...vesselParts(vessel, facingDeg)],
    ...tableLights(vessel.heightMm),
    areas: [{ key, u: -wrap.widthMm / 2, v: 0, widthMm: wrap.widthMm, heightMm: wrap.heightMm, panels: [WALL] }],
  };
  return trace(scene, quality, { [key]: { variant } }, { dark: vessel.kind === 'bottle' });
}
