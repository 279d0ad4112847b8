import type { Path, Step } from '../paths/path';

export const ORNAMENT_GROUPS = ['rules', 'frames', 'badges', 'waves', 'stars', 'ribbons', 'river'] as const;
export type OrnamentGroup = (typeof ORNAMENT_GROUPS)[number];

/** A simple vector piece: its path lies in a box 1 wide and `aspect` high, y down, filled by the nonzero rule. */
export interface Ornament {
  readonly code: string;
  readonly name: string;
  readonly group: OrnamentGroup;
  readonly aspect: number;
  readonly path: Path;
}

type P = readonly [x: number, y: number];

const polygon = (points: readonly P[]): Step[] => [
  ...points.map(([x, y], i): Step => ({ kind: i === 0 ? 'M' : 'L', x, y })),
  { kind: 'Z' },
];
const rect = (x: number, y: number, w: number, h: number): Step[] =>
  polygon([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]);
/** The same the other way around: a hole. */
const hole = (x: number, y: number, w: number, h: number): Step[] =>
  polygon([
    [x, y],
    [x, y + h],
    [x + w, y + h],
    [x + w, y],
  ]);

/** Handles of a quarter circle, of its radius (common practice, no source). */
const K = 0.5522847498;
function ellipse(cx: number, cy: number, rx: number, ry: number, back = false): Step[] {
  const s = back ? -1 : 1;
  const quarter = (ax: number, ay: number, bx: number, by: number): Step => ({
    kind: 'C',
    x1: cx + rx * (ax + K * bx),
    y1: cy + s * ry * (ay + K * by),
    x2: cx + rx * (bx + K * ax),
    y2: cy + s * ry * (by + K * ay),
    x: cx + rx * bx,
    y: cy + s * ry * by,
  });
  return [
    { kind: 'M', x: cx + rx, y: cy },
    quarter(1, 0, 0, 1),
    quarter(0, 1, -1, 0),
    quarter(-1, 0, 0, -1),
    quarter(0, -1, 1, 0),
    { kind: 'Z' },
  ];
}
const ring = (cx: number, cy: number, r: number, thick: number): Step[] => [
  ...ellipse(cx, cy, r, r),
  ...ellipse(cx, cy, r - thick, r - thick, true),
];

/** A star of `n` points; `inner` is the radius of its notches. */
const star = (n: number, cx: number, cy: number, r: number, inner: number, turn = -90): Step[] =>
  polygon(
    Array.from({ length: 2 * n }, (_, i): P => {
      const angle = ((turn + (180 * i) / n) * Math.PI) / 180;
      const reach = i % 2 === 0 ? r : inner;
      return [cx + reach * Math.cos(angle), cy + reach * Math.sin(angle)];
    }),
  );

/** A band along a wave: `n` whole waves across the width 1, `amp` high each way, `thick` thick, its middle at `y`. */
function wave(n: number, y: number, amp: number, thick: number, phase = 0): Step[] {
  const parts = n * 2;
  const length = 1 / parts;
  const edge = (offset: number, back: boolean): Step[] =>
    Array.from({ length: parts }, (_, i) => {
      const at = back ? parts - 1 - i : i;
      const up = (at + phase) % 2 === 0 ? -1 : 1;
      const [from, to] = back ? [(at + 1) * length, at * length] : [at * length, (at + 1) * length];
      const reach = up * amp * 1.35;
      return {
        kind: 'C',
        x1: from + (to - from) * 0.36,
        y1: y + offset + reach,
        x2: from + (to - from) * 0.64,
        y2: y + offset + reach,
        x: to,
        y: y + offset,
      } as const;
    });
  return [
    { kind: 'M', x: 0, y: y - thick / 2 },
    ...edge(-thick / 2, false),
    { kind: 'L', x: 1, y: y + thick / 2 },
    ...edge(thick / 2, true),
    { kind: 'Z' },
  ];
}

const scallops = (n: number, r: number, bump: number): Step[] =>
  Array.from({ length: n }, (_, i) => {
    const angle = (2 * Math.PI * i) / n;
    return ellipse(0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle), bump, bump);
  }).flat();

const diamond = (cx: number, cy: number, rx: number, ry: number): Step[] =>
  polygon([
    [cx, cy - ry],
    [cx + rx, cy],
    [cx, cy + ry],
    [cx - rx, cy],
  ]);

/** One oar from handle to blade, lying along the width. */
const oar = (y: number, h: number): Step[] => [
  ...rect(0, y - h * 0.12, 0.74, h * 0.24),
  ...polygon([
    [0.72, y - h * 0.12],
    [0.78, y - h * 0.5],
    [1, y - h * 0.42],
    [1, y + h * 0.5],
    [0.78, y + h * 0.5],
    [0.72, y + h * 0.12],
  ]),
];

const turned = (path: Path, degrees: number, cx: number, cy: number): Step[] => {
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const t = (x: number, y: number): P => [cx + (x - cx) * cos - (y - cy) * sin, cy + (x - cx) * sin + (y - cy) * cos];
  return path.map((step): Step => {
    if (step.kind === 'Z') return step;
    const [x, y] = t(step.x, step.y);
    if (step.kind === 'C') {
      const [x1, y1] = t(step.x1, step.y1);
      const [x2, y2] = t(step.x2, step.y2);
      return { kind: 'C', x1, y1, x2, y2, x, y };
    }
    if (step.kind === 'Q') {
      const [x1, y1] = t(step.x1, step.y1);
      return { kind: 'Q', x1, y1, x, y };
    }
    return { kind: step.kind, x, y };
  });
};

const piece = (code: string, name: string, group: OrnamentGroup, aspect: number, path: Path): Ornament => ({
  code,
  name,
  group,
  aspect,
  path,
});

const frame = (h: number, thick: number, inset = 0): Step[] => [
  ...rect(inset, inset, 1 - 2 * inset, h - 2 * inset),
  ...hole(inset + thick, inset + thick, 1 - 2 * (inset + thick), h - 2 * (inset + thick)),
];

/** A leaf from its stem at 0,0 to its tip, as long as `l`, turned by `degrees`. */
const leaf = (x: number, y: number, l: number, degrees: number): Step[] =>
  turned(
    [
      { kind: 'M', x, y },
      { kind: 'Q', x1: x + l * 0.5, y1: y - l * 0.34, x: x + l, y },
      { kind: 'Q', x1: x + l * 0.5, y1: y + l * 0.34, x, y },
      { kind: 'Z' },
    ],
    degrees,
    x,
    y,
  );

const wreath = (side: 1 | -1): Step[] =>
  Array.from({ length: 7 }, (_, i) => {
    const angle = 100 + i * 22;
    const a = (angle * Math.PI) / 180;
    const [x, y] = [0.5 + side * 0.38 * Math.cos(a), 0.46 - 0.38 * Math.sin(a) * -1];
    const tilt = side === 1 ? angle + 62 : 180 - angle - 62;
    return [...leaf(x, y, 0.15, tilt), ...leaf(x, y, 0.13, tilt + side * 58)];
  }).flat();

/** About forty pieces of our own. */
export const ORNAMENTS: readonly Ornament[] = [
  piece('rule-plain', 'Plain rule', 'rules', 0.02, rect(0, 0, 1, 0.02)),
  piece('rule-double', 'Double rule', 'rules', 0.05, [...rect(0, 0, 1, 0.012), ...rect(0, 0.038, 1, 0.012)]),
  piece('rule-thick-thin', 'Thick and thin', 'rules', 0.05, [...rect(0, 0, 1, 0.028), ...rect(0, 0.042, 1, 0.008)]),
  piece(
    'rule-dots',
    'Dotted rule',
    'rules',
    0.04,
    Array.from({ length: 20 }, (_, i) => ellipse(0.025 + i * 0.05, 0.02, 0.014, 0.014)).flat(),
  ),
  piece(
    'rule-dashes',
    'Dashed rule',
    'rules',
    0.02,
    Array.from({ length: 12 }, (_, i) => rect(i / 11.5, 0, 0.055, 0.02)).flat(),
  ),
  piece('rule-diamond', 'Rule with a diamond', 'rules', 0.08, [
    ...rect(0, 0.034, 0.43, 0.012),
    ...rect(0.57, 0.034, 0.43, 0.012),
    ...diamond(0.5, 0.04, 0.05, 0.04),
  ]),
  piece('rule-taper', 'Tapering rule', 'rules', 0.03, [
    ...polygon([
      [0, 0.015],
      [0.5, 0],
      [1, 0.015],
      [0.5, 0.03],
    ]),
  ]),
  piece('frame-plain', 'Plain frame', 'frames', 0.75, frame(0.75, 0.025)),
  piece('frame-double', 'Double frame', 'frames', 0.75, [...frame(0.75, 0.012), ...frame(0.75, 0.025, 0.035)]),
  piece('frame-tall', 'Tall frame', 'frames', 1.4, frame(1.4, 0.03)),
  piece('frame-square', 'Square frame', 'frames', 1, frame(1, 0.04)),
  piece('frame-round', 'Round frame', 'frames', 1, ring(0.5, 0.5, 0.5, 0.04)),
  piece('frame-oval', 'Oval frame', 'frames', 0.7, [
    ...ellipse(0.5, 0.35, 0.5, 0.35),
    ...ellipse(0.5, 0.35, 0.465, 0.315, true),
  ]),
  piece('frame-corners', 'Four corners', 'frames', 0.75, [
    ...rect(0, 0, 0.18, 0.025),
    ...rect(0, 0.025, 0.025, 0.155),
    ...rect(0.82, 0, 0.18, 0.025),
    ...rect(0.975, 0.025, 0.025, 0.155),
    ...rect(0, 0.725, 0.18, 0.025),
    ...rect(0, 0.57, 0.025, 0.155),
    ...rect(0.82, 0.725, 0.18, 0.025),
    ...rect(0.975, 0.57, 0.025, 0.155),
  ]),
  piece('badge-disc', 'Disc', 'badges', 1, ellipse(0.5, 0.5, 0.5, 0.5)),
  piece('badge-double-ring', 'Double ring', 'badges', 1, [
    ...ring(0.5, 0.5, 0.5, 0.03),
    ...ring(0.5, 0.5, 0.45, 0.012),
  ]),
  piece('badge-scalloped', 'Scalloped disc', 'badges', 1, [
    ...ellipse(0.5, 0.5, 0.45, 0.45),
    ...scallops(20, 0.435, 0.065),
  ]),
  piece('badge-cog', 'Toothed disc', 'badges', 1, star(24, 0.5, 0.5, 0.5, 0.44)),
  piece('badge-shield', 'Shield', 'badges', 1.15, [
    { kind: 'M', x: 0, y: 0 },
    { kind: 'L', x: 1, y: 0 },
    { kind: 'L', x: 1, y: 0.55 },
    { kind: 'C', x1: 1, y1: 0.85, x2: 0.75, y2: 1.03, x: 0.5, y: 1.15 },
    { kind: 'C', x1: 0.25, y1: 1.03, x2: 0, y2: 0.85, x: 0, y: 0.55 },
    { kind: 'Z' },
  ]),
  piece('badge-diamond', 'Diamond', 'badges', 1, diamond(0.5, 0.5, 0.5, 0.5)),
  piece('badge-hexagon', 'Hexagon', 'badges', 0.866, [
    ...polygon([
      [0.25, 0],
      [0.75, 0],
      [1, 0.433],
      [0.75, 0.866],
      [0.25, 0.866],
      [0, 0.433],
    ]),
  ]),
  piece('badge-wreath', 'Wreath', 'badges', 0.95, [...wreath(1), ...wreath(-1)]),
  piece('wave-one', 'One wave', 'waves', 0.16, wave(4, 0.08, 0.04, 0.035)),
  piece('wave-two', 'Two waves', 'waves', 0.28, [...wave(4, 0.08, 0.04, 0.035), ...wave(4, 0.2, 0.04, 0.035)]),
  piece('wave-three', 'Three waves', 'waves', 0.4, [
    ...wave(4, 0.08, 0.04, 0.03),
    ...wave(4, 0.2, 0.04, 0.03, 1),
    ...wave(4, 0.32, 0.04, 0.03),
  ]),
  piece('wave-long', 'Long swell', 'waves', 0.2, wave(2, 0.1, 0.055, 0.04)),
  piece('wave-choppy', 'Choppy water', 'waves', 0.12, wave(9, 0.06, 0.03, 0.025)),
  piece('star-four', 'Four-pointed star', 'stars', 1, star(4, 0.5, 0.5, 0.5, 0.16)),
  piece('star-five', 'Five-pointed star', 'stars', 0.951, star(5, 0.5, 0.526, 0.526, 0.201)),
  piece('star-six', 'Six-pointed star', 'stars', 1, star(6, 0.5, 0.5, 0.5, 0.289)),
  piece('star-eight', 'Eight-pointed star', 'stars', 1, star(8, 0.5, 0.5, 0.5, 0.3)),
  piece('star-burst', 'Burst', 'stars', 1, star(32, 0.5, 0.5, 0.5, 0.36)),
  piece('star-three', 'Three stars', 'stars', 0.32, [
    ...star(5, 0.16, 0.17, 0.15, 0.058),
    ...star(5, 0.5, 0.17, 0.16, 0.062),
    ...star(5, 0.84, 0.17, 0.15, 0.058),
  ]),
  piece('star-sun', 'Rising sun', 'stars', 0.55, [
    { kind: 'M', x: 0.28, y: 0.55 },
    { kind: 'C', x1: 0.28, y1: 0.26, x2: 0.72, y2: 0.26, x: 0.72, y: 0.55 },
    { kind: 'Z' },
    ...[-80, -53, -27, 0, 27, 53, 80].flatMap((angle) => turned(rect(0.485, 0.07, 0.03, 0.16), angle, 0.5, 0.55)),
  ]),
  piece('ribbon-plain', 'Ribbon', 'ribbons', 0.26, [
    ...rect(0.12, 0, 0.76, 0.2),
    ...polygon([
      [0, 0.06],
      [0.16, 0.06],
      [0.16, 0.26],
      [0, 0.26],
      [0.06, 0.16],
    ]),
    ...polygon([
      [1, 0.06],
      [0.94, 0.16],
      [1, 0.26],
      [0.84, 0.26],
      [0.84, 0.06],
    ]),
  ]),
  piece(
    'ribbon-flag',
    'Pennant',
    'ribbons',
    0.5,
    polygon([
      [0, 0],
      [1, 0.25],
      [0, 0.5],
    ]),
  ),
  piece(
    'ribbon-swallowtail',
    'Swallowtail',
    'ribbons',
    0.4,
    polygon([
      [0, 0],
      [1, 0],
      [0.82, 0.2],
      [1, 0.4],
      [0, 0.4],
    ]),
  ),
  piece('ribbon-bunting', 'Bunting', 'ribbons', 0.2, [
    ...rect(0, 0, 1, 0.012),
    ...Array.from({ length: 8 }, (_, i) =>
      polygon([
        [0.01 + i * 0.125, 0.012],
        [0.115 + i * 0.125, 0.012],
        [0.0625 + i * 0.125, 0.2],
      ]),
    ).flat(),
  ]),
  piece('river-oar', 'Oar', 'river', 0.14, oar(0.07, 0.14)),
  piece('river-crossed-oars', 'Crossed oars', 'river', 0.85, [
    ...turned(oar(0.425, 0.13), 40, 0.5, 0.425),
    ...turned(oar(0.425, 0.13), 140, 0.5, 0.425),
  ]),
  piece('river-anchor', 'Anchor', 'river', 1.15, [
    ...ring(0.5, 0.13, 0.13, 0.05),
    ...rect(0.455, 0.24, 0.09, 0.86),
    ...rect(0.26, 0.34, 0.48, 0.08),
    { kind: 'M', x: 0, y: 0.7 },
    { kind: 'C', x1: 0.02, y1: 1.0, x2: 0.25, y2: 1.15, x: 0.5, y: 1.15 },
    { kind: 'C', x1: 0.75, y1: 1.15, x2: 0.98, y2: 1.0, x: 1, y: 0.7 },
    { kind: 'L', x: 0.9, y: 0.78 },
    { kind: 'C', x1: 0.86, y1: 0.95, x2: 0.7, y2: 1.04, x: 0.5, y: 1.04 },
    { kind: 'C', x1: 0.3, y1: 1.04, x2: 0.14, y2: 0.95, x: 0.1, y: 0.78 },
    { kind: 'Z' },
  ]),
  piece('river-compass', 'Compass rose', 'river', 1, [
    ...star(4, 0.5, 0.5, 0.5, 0.11),
    ...star(4, 0.5, 0.5, 0.3, 0.1, -45),
    ...ring(0.5, 0.5, 0.38, 0.02),
  ]),
  piece('river-drop', 'Drop', 'river', 1.35, [
    { kind: 'M', x: 0.5, y: 0 },
    { kind: 'C', x1: 0.62, y1: 0.3, x2: 1, y2: 0.55, x: 1, y: 0.85 },
    { kind: 'C', x1: 1, y1: 1.13, x2: 0.78, y2: 1.35, x: 0.5, y: 1.35 },
    { kind: 'C', x1: 0.22, y1: 1.35, x2: 0, y2: 1.13, x: 0, y: 0.85 },
    { kind: 'C', x1: 0, y1: 0.55, x2: 0.38, y2: 0.3, x: 0.5, y: 0 },
    { kind: 'Z' },
  ]),
];

const byCode = new Map(ORNAMENTS.map((one) => [one.code, one]));
export const ornamentByCode = (code: string): Ornament | null => byCode.get(code) ?? null;
