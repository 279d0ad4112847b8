import type { Passes } from '../passes';
import { flatLights, overhead, paperSweep, project, tableLights } from '../studio/room';
import type { Material, Part } from '../studio/scene';
import { block, mirrored, moved, sheet, surface, tilted, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { PAGES } from '../studio/wall';

const [WIDTH_MM, HEIGHT_MM, THICK_MM] = [148, 210, 16];
const COVER: Material = {
  role: 'good',
  albedo: [0.86, 0.855, 0.84],
  f0: 0.03,
  roughness: 0.5,
  grain: { kind: 'canvas', depthMm: 0.022, sizeMm: 0.55 },
};
const RIBBON: Material = {
  role: 'fabric',
  albedo: [0.3, 0.3, 0.32],
  f0: 0.04,
  roughness: 0.35,
  grain: { kind: 'rib', depthMm: 0.04, sizeMm: 0.7 },
};
const PANEL = 1;
const BOARD_MM = 2.4;

/** A book that lies on the table, its cover up, its middle over the origin; the spine is at the left. */
function book(): Part[] {
  const board = (y: number): Shape => moved(block([WIDTH_MM, BOARD_MM, HEIGHT_MM], 1), [0, y, 0]);
  const top = THICK_MM;
  // The face is laid a hair over its board; a groove runs along the spine, where the cover opens.
  const face = surface(
    120,
    4,
    (s, t) => {
      const x = s * WIDTH_MM;
      const groove = 0.9 * Math.exp(-(((x - 9.5) / 2.1) ** 2));
      const edge = 0.9 * Math.exp(-Math.min(x, WIDTH_MM - x) / 0.5);
      return [x - WIDTH_MM / 2, top + 0.03 - groove - edge, (t - 0.5) * HEIGHT_MM];
    },
    (s, t) => [s * WIDTH_MM, t * HEIGHT_MM],
  );
  const ribbon = surface(
    40,
    4,
    (s, t) => {
      const z = HEIGHT_MM / 2 - 14 + s * 52;
      const out = Math.max(0, z - HEIGHT_MM / 2);
      return [
        22 + out * 0.16 + 1.5 * Math.sin(out / 12) + (t - 0.5) * 6,
        Math.max(0.4, 8 - out * 0.42 + 1.2 * Math.sin(out / 7)) + 0.3 * Math.sin(t * 3),
        z,
      ];
    },
    (s, t) => [t * 6, s * 52],
  );
  return [
    { shape: board(top - BOARD_MM / 2), material: COVER },
    { shape: face, material: COVER, panel: PANEL },
    { shape: board(BOARD_MM / 2), material: COVER },
    {
      shape: moved(block([3, THICK_MM - 1.4, HEIGHT_MM], 1.2), [-WIDTH_MM / 2 + 1.2, THICK_MM / 2, 0]),
      material: COVER,
    },
    {
      shape: moved(block([WIDTH_MM - 5, THICK_MM - 2 * BOARD_MM, HEIGHT_MM - 5], 0.6), [-0.5, THICK_MM / 2, 0]),
      material: PAGES,
    },
    { shape: ribbon, material: RIBBON },
  ];
}

/** A notebook on a table, straight from above; or at an angle, standing a little turned away. */
export function logbookShot(quality: Quality, key: string, angle: boolean): Passes {
  const area = { key, u: 0, v: 0, widthMm: WIDTH_MM, heightMm: HEIGHT_MM, panels: [PANEL] };
  if (!angle) {
    // The back has its spine at the right.
    const parts = book().map((part) =>
      key === 'main.cover'
        ? part
        : {
            ...part,
            shape: {
              ...mirrored(part.shape),
              uv: part.shape.uv.map((v, i) => (part.panel && i % 2 === 0 ? WIDTH_MM - v : v)),
            },
          },
    );
    const { camera, flat } = overhead(310, [0, 0, 8], THICK_MM, quality.size);
    const scene = { camera, parts: [paperSweep(2000), ...parts], ...flatLights(), areas: [area] };
    return trace(
      scene,
      quality,
      { [key]: { variant: {}, flat: flat(-WIDTH_MM / 2, -HEIGHT_MM / 2) } },
      { dark: false },
    );
  }
  // Upright, its back leaning on nothing that is seen: a book stands by itself when it is opened a hand's width.
  const stand = (shape: Shape): Shape =>
    moved(turned(tilted(tilted(moved(shape, [0, -THICK_MM / 2, 0]), -90), 7), -21), [-6, HEIGHT_MM / 2, 0]);
  const parts = book()
    .filter(({ material }) => material !== RIBBON)
    .map((part) => ({ ...part, shape: stand(part.shape) }));
  const hanging = surface(
    30,
    3,
    (s, t) => [30 + 5 * Math.sin(s * 3) + (t - 0.5) * 6, 0.6 + 16 * (1 - s) ** 2, 2 + s * 46],
    (s, t) => [t * 6, s * 40],
  );
  const camera = { eye: [0, 190, 860] as V, target: [2, HEIGHT_MM * 0.5 - 4, 0] as V, zoom: 5.7 };
  const corners = (
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ] as const
  ).map(([s, t]) => {
    const { positions } = stand(
      sheet([-WIDTH_MM / 2 + s * WIDTH_MM, THICK_MM + 0.03, -HEIGHT_MM / 2 + t * HEIGHT_MM], [1, 0, 0], [0, 0, 1]),
    );
    return project(camera, [positions[0]!, positions[1]!, positions[2]!], quality.size);
  });
  const scene = {
    camera,
    parts: [paperSweep(), ...parts, { shape: hanging, material: RIBBON }],
    ...tableLights(HEIGHT_MM),
    areas: [area],
  };
  const passes = trace(scene, quality, { [key]: { variant: {} } }, { dark: false });
  passes.areas[key]!.map = { kind: 'homography', cornersPx: corners as never, widthMm: WIDTH_MM, heightMm: HEIGHT_MM };
  return passes;
}
