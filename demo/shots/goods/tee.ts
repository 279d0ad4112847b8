import { smoothstep } from '../noise';
import type { Passes } from '../passes';
import { clothShape, fall, smoothly, type Fallen } from '../studio/cloth';
import { backdrop, fitFlat } from '../studio/room';
import type { AreaPlace, Camera, Part } from '../studio/scene';
import { add, surface, unit, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import {
  ADULT,
  around,
  bodyOf,
  bodyPanel,
  JERSEY,
  LIGHTS,
  otherWay,
  RIB,
  scaled,
  sleevePanel,
  stitchesOf,
  type Cut,
} from './shirt';

/** A tee on a body that is not seen: its panels after they fell. */
function fallenTee(cut: Cut, scale: number): Fallen[] {
  const panels = [bodyPanel(cut, false), bodyPanel(cut, true), sleevePanel(cut, 1, 18), sleevePanel(cut, -1, 18)];
  return fall(
    panels,
    stitchesOf(cut),
    bodyOf(scale, 58),
    { seconds: 3, growFrom: 0.62, growSeconds: 0.8, sway: 1.3 },
    { stretch: 2e-8, shear: 5e-7, bend: 8e-6 },
  );
}

/** A band around the neck: along the edges of front and back, up and a little inward. */
function collar(front: Fallen, back: Fallen, cut: Cut, scale: number): Part {
  const [f, b] = [smoothly(front), smoothly(back)];
  const reach = cut.neckHalf / cut.shoulderHalf;
  const edge = (t: number): V => {
    // Once around: the front from the wearer's right to left, and back along the back.
    const k = (((t % 1) + 1) % 1) * 2;
    const s = k < 1 ? (1 - reach) / 2 + reach * k : (1 + reach) / 2 - reach * (k - 1);
    return k < 1 ? f(s, 0) : b(s, 0);
  };
  const smooth = (t: number): V => {
    const all = [-2, -1, 0, 1, 2].map((d) => edge(t + d * 0.006));
    return [0, 1, 2].map((c) => all.reduce((sum, p) => sum + p[c]!, 0) / all.length) as unknown as V;
  };
  const middle: V = [0, 30 * scale, -6 * scale];
  const wide = 19 * scale;
  const shape = surface(
    260,
    10,
    (s, t) => {
      const p = smooth(s);
      // Toward the neck's own upper opening, standing up the nearer to it.
      const toward = unit([middle[0] - p[0], (middle[1] - p[1]) * 0.9, middle[2] - p[2]]);
      const way = wide * (t * 1.12 - 0.12);
      const out = unit([p[0], 0, p[2] + 6 * scale]);
      return add(add(p, toward, way), out, 1.7 * scale * Math.sin(Math.PI * Math.min(1, t * 1.15)) + 0.5);
    },
    (s, t) => [s * 460 * scale, t * wide],
  );
  return { shape, material: RIB };
}

export interface TeeSpec {
  readonly back: boolean;
  /** 1 for an adult's size M; a child's is smaller. */
  readonly scale: number;
  readonly print: {
    readonly topMm: number;
    readonly widthMm: number;
    readonly heightMm: number;
    readonly variant: Record<string, string>;
  };
  /** On the wearer's left sleeve, seen from the front. */
  readonly sleeve?: { readonly widthMm: number; readonly heightMm: number };
  /** Inside of the neck, seen from the front. */
  readonly label?: { readonly widthMm: number; readonly heightMm: number };
  /** What is looked at, mm of the shirt; the whole of it when absent. */
  readonly near?: { readonly x: number; readonly y: number; readonly sideMm: number };
}

const [FRONT, BACK, LEFT_SLEEVE] = [1, 2, 3];
const kept = new Map<number, Fallen[]>();

/** The shot of a tee on a body that is not seen. */
export function teeShot(quality: Quality, { back, scale, print, sleeve, label, near }: TeeSpec): Passes {
  const cut = scaled(ADULT, scale);
  const panels = kept.get(scale) ?? fallenTee(cut, scale);
  kept.set(scale, panels);
  // Previews need not be so smooth.
  const finer = quality.size > 800 ? 4 : 2;
  // Hems are cloth on cloth: they stand up a little at the line where they are sewn.
  const hem = (from: number) => (_: number, v: number) =>
    0.75 * smoothstep(from - 0.6, from + 0.6, v) - 0.45 * Math.exp(-(((v - from) / 1.3) ** 2));
  const bodyHem = hem(cut.length - 22 * scale);
  const cuff = hem(cut.underarm - 20 * scale);
  const shapes: Shape[] = [
    clothShape(panels[0]!, finer, 1, bodyHem),
    clothShape(panels[1]!, finer, -1, bodyHem),
    clothShape(panels[2]!, finer, 1, cuff),
    clothShape(panels[3]!, finer, -1, cuff),
  ];
  const parts: Part[] = [
    { shape: shapes[0]!, material: JERSEY, panel: FRONT },
    // The back's x runs from its own left to right: as it is seen from behind.
    { shape: back ? otherWay(shapes[1]!) : shapes[1]!, material: JERSEY, panel: BACK },
    { shape: shapes[2]!, material: JERSEY, panel: LEFT_SLEEVE },
    { shape: shapes[3]!, material: JERSEY },
    collar(panels[0]!, panels[1]!, cut, scale),
  ];
  // From the back all is turned round.
  const turnedParts = back ? parts.map((part) => ({ ...part, shape: around(part.shape) })) : parts;
  const key = back ? 'main.back' : 'main.front';
  const areas: AreaPlace[] = [
    {
      key,
      u: -print.widthMm / 2,
      v: print.topMm,
      widthMm: print.widthMm,
      heightMm: print.heightMm,
      panels: [back ? BACK : FRONT],
    },
  ];
  if (sleeve && !back)
    areas.push({
      key: 'main.sleeve',
      u: -sleeve.widthMm / 2,
      v: cut.underarm - 34 * scale - sleeve.heightMm,
      widthMm: sleeve.widthMm,
      heightMm: sleeve.heightMm,
      panels: [LEFT_SLEEVE],
    });
  if (label && !back)
    areas.push({
      key: 'main.label',
      u: -label.widthMm / 2,
      v: cut.backNeckDeep + 12 * scale,
      widthMm: label.widthMm,
      heightMm: label.heightMm,
      panels: [BACK],
    });
  const viewMm = near ? near.sideMm : 830 * scale;
  const far = 2500 * scale;
  const middle: V = near ? [near.x, -near.y, 110 * scale] : [0, -335 * scale, 0];
  const camera: Camera = near
    ? {
        eye: [middle[0] - 260 * scale, middle[1] - 40 * scale, far * 0.5],
        target: middle,
        zoom: (2 * (far * 0.5 - middle[2])) / viewMm,
      }
    : { eye: [0, middle[1] + 210 * scale, far], target: middle, zoom: (2 * far) / viewMm };
  const scene = {
    camera,
    parts: [backdrop(-430 * scale), ...turnedParts],
    ...LIGHTS(scale),
    areas,
  };
  const variant = print.variant;
  const passes = trace(scene, quality, Object.fromEntries(areas.map((area) => [area.key, { variant }])), {
    lightFrom: [key],
    heather: true,
    // From near by there are no folds that throw light on each other.
    dark: !near,
  });
  if (!near) passes.areas[key]!.flat = fitFlat(passes.areas[key]!, quality.size);
  return passes;
}
