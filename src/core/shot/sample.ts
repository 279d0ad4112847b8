import type { Shot } from './shot';

const SIDE = 64;

/** A flat shot of 64×64 for tests: fabric all over, an area of 32×32 mm at 1 px a mm from (16, 16), even light, black surroundings. */
export function flatShot(over: Partial<Shot> = {}, shade = 65535): Shot {
  const n = SIDE * SIDE;
  const coverage = new Uint8Array(n);
  const [u, v] = [new Uint16Array(n), new Uint16Array(n)];
  for (let y = 0; y < SIDE; y += 1) {
    for (let x = 0; x < SIDE; x += 1) {
      const i = y * SIDE + x;
      if (x >= 16 && x < 48 && y >= 16 && y < 48) coverage[i] = 255;
      u[i] = Math.round(((x + 0.5) / SIDE) * 65535);
      v[i] = Math.round(((y + 0.5) / SIDE) * 65535);
    }
  }
  return {
    widthPx: SIDE,
    heightPx: SIDE,
    straightTo: 0.8,
    exposure: 1,
    rest: { values: new Uint16Array(n * 3), scale: 1 },
    shade: { values: new Uint16Array(n).fill(shade), scale: 1 },
    direct: null,
    specular: null,
    fabric: new Uint8Array(n).fill(255),
    front: null,
    good: null,
    pattern: { u, v, uMm: [0, 640], vMm: [0, 640] },
    areas: { 'main.front': { coverage, u, v, uMm: [-16, 48], vMm: [-16, 48] } },
    ...over,
  };
}
