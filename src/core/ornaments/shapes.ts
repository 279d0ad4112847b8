import type { Path, Step } from '../paths/path';

type P = readonly [x: number, y: number];

export const polygon = (points: readonly P[]): Step[] => [
  ...points.map(([x, y], i): Step => ({ kind: i === 0 ? 'M' : 'L', x, y })),
  { kind: 'Z' },
];
export const rect = (x: number, y: number, w: number, h: number): Step[] =>
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
export function ellipse(cx: number, cy: number, rx: number, ry: number, back = false): Step[] {
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
export const ring = (cx: number, cy: number, r: number, thick: number): Step[] => [
  ...ellipse(cx, cy, r, r),
  ...ellipse(cx, cy, r - thick, r - thick, true),
];

/** A star of `n` points; `inner` is the radius of its notches. */
export const star = (n: number, cx: number, cy: number, r: number, inner: number, turn = -90): Step[] =>
  polygon(
    Array.from({ length: 2 * n }, (_, i): P => {
      const angle = ((turn + (180 * i) / n) * Math.PI) / 180;
      const reach = i % 2 === 0 ? r : inner;
      return [cx + reach * Math.cos(angle), cy + reach * Math.sin(angle)];
    }),
  );

/** A band along a wave: `n` whole waves across the width 1, `amp` high each way, `thick` thick, its middle at `y`. */
export function wave(n: number, y: number, amp: number, thick: number, phase = 0): Step[] {
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

export const scallops = (n: number, r: number, bump: number): Step[] =>
  Array.from({ length: n }, (_, i) => {
    const angle = (2 * Math.PI * i) / n;
    return ellipse(0.5 + r * Math.cos(angle), 0.5 + r * Math.sin(angle), bump, bump);
  }).flat();

export const diamond = (cx: number, cy: number, rx: number, ry: number): Step[] =>
  polygon([
    [cx, cy - ry],
    [cx + rx, cy],
    [cx, cy + ry],
    [cx - rx, cy],
  ]);

/** One oar from handle to blade, lying along the width. */
export const oar = (y: number, h: number): Step[] => [
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

export const turned = (path: Path, degrees: number, cx: number, cy: number): Step[] => {
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

export const frame = (h: number, thick: number, inset = 0): Step[] => [
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

export const wreath = (side: 1 | -1): Step[] =>
  Array.from({ length: 7 }, (_, i) => {
    const angle = 100 + i * 22;
    const a = (angle * Math.PI) / 180;
    const [x, y] = [0.5 + side * 0.38 * Math.cos(a), 0.46 - 0.38 * Math.sin(a) * -1];
    const tilt = side === 1 ? angle + 62 : 180 - angle - 62;
    return [...leaf(x, y, 0.15, tilt), ...leaf(x, y, 0.13, tilt + side * 58)];
  }).flat();
