import { noise, smoothstep } from '../noise';
import { addArea, newPasses, type Passes } from '../passes';

/** A poster without a frame on a plastered wall, seen straight on, window light from the left. Sides of its trim in mm. */
export function posterShot(
  size: number,
  sheet: { widthMm: number; heightMm: number },
  variant: Record<string, string>,
): Passes {
  const passes = newPasses(size);
  const tall = 0.8;
  const mm = sheet.heightMm / (size * tall);
  const left = (size - sheet.widthMm / mm) / 2;
  const top = size * 0.085;
  const area = addArea(passes, 'main.sheet', variant, { a: mm, b: 0, c: 0, d: mm, e: -left * mm, f: -top * mm });
  const edge = (px: number) => Math.min(1, Math.max(0, px + 0.5));
  for (let py = 0; py < size; py += 1) {
    for (let px = 0; px < size; px += 1) {
      const i = py * size + px;
      const [x, y] = [px + 0.5, py + 0.5];
      const u = (x - left) * mm;
      const v = (y - top) * mm;
      const covered = Math.min(
        edge(u / mm),
        edge((sheet.widthMm - u) / mm),
        edge(v / mm),
        edge((sheet.heightMm - v) / mm),
      );
      const [s, t] = [x / size, y / size];
      // A soft bar of window light falls across wall and sheet alike.
      const bar =
        smoothstep(-0.1, 0.35, s + 0.5 * t) *
        smoothstep(1.25, 0.75, s + 0.5 * t) *
        (1 - 0.05 * smoothstep(0.012, 0, Math.abs(s + 0.5 * t - 0.78)));
      const light = 0.8 + 0.2 * bar - 0.06 * s;
      const plaster = 1 + 0.012 * noise(x / 7, y / 7, 1) + 0.014 * noise(x / 40, y / 46, 2);
      const outside = Math.max(left - x, x - left - sheet.widthMm / mm, top - y, y - top - sheet.heightMm / mm, 0);
      const offset = Math.max(
        left + 7 - x,
        x - 11 - left - sheet.widthMm / mm,
        top + 6 - y,
        y - 12 - top - sheet.heightMm / mm,
        0,
      );
      const shadow =
        1 - 0.34 * Math.exp(-offset / 9) * smoothstep(-1, 3, outside + offset) - 0.1 * Math.exp(-outside / 30);
      const floor = smoothstep(size * 0.952, size * 0.956, y);
      for (let c = 0; c < 3; c += 1) {
        const wall =
          [0.74, 0.72, 0.68][c]! * (1 - floor) + [0.4, 0.31, 0.23][c]! * floor * (1 + 0.08 * noise(x / 300, y / 3, 4));
        passes.rest[i * 3 + c] = wall * light * plaster * shadow * (1 - covered);
      }
      passes.fabric[i] = covered;
      if (covered === 0) continue;
      const curl = 0.02 * smoothstep(0.9, 1, v / sheet.heightMm) - 0.015 * smoothstep(0.06, 0, v / sheet.heightMm);
      passes.shade[i] = light * (1 + curl + 0.004 * noise(x / 160, y / 200, 3));
      area.coverage[i] = covered;
      area.u[i] = u;
      area.v[i] = v;
    }
  }
  return passes;
}
