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

/** The notebook lying open with its pages down: its spine in the middle, the cover at the right of it and the back at the left. */
export function openLogbookShot(quality: Quality): Passes {
  const [cover, back] = [PANEL, PANEL + 1];
  const spine = 7;
  // Each half lies on its pages: higher at the spine, bent a little toward it.
  const heightAt = (x: number) => {
    const out = (Math.abs(x) - spine) / WIDTH_MM;
    return out < 0 ? 19 : 19 - 10.5 * Math.max(0, out) ** 0.8;
  };
  const halfOf = (hand: 1 | -1, lift: number, grow: number) =>
    surface(
      90,
      4,
      (s, t) => {
        const x = hand > 0 ? spine + s * (WIDTH_MM + grow) : -spine - (1 - s) * (WIDTH_MM + grow);
        const near = Math.abs(x) - spine;
        const groove = 0.9 * Math.exp(-(((near - 9.5) / 2.1) ** 2));
        return [x, heightAt(x) + lift - groove, (t - 0.5) * (HEIGHT_MM + grow)];
      },
      (s, t) => [s * WIDTH_MM, t * HEIGHT_MM],
    );
  const edgeOf = (hand: 1 | -1): Part[] => {
    const far = hand * (spine + WIDTH_MM);
    const y = heightAt(far);
    const at = (z: number): readonly [V, V] => [
      [hand * spine, 19, z],
      [far, y, z],
    ];
    const ends = ([-1, 1] as const).map((end) => {
      const [from, to] = at((end * HEIGHT_MM) / 2);
      const along: V = [to[0] - from[0], to[1] - from[1], 0];
      return { shape: sheet(from, along, [0, -BOARD_MM, 0]), material: COVER };
    });
    return [
      ...ends,
      { shape: sheet([far, y, -HEIGHT_MM / 2], [0, 0, HEIGHT_MM], [0, -BOARD_MM, 0]), material: COVER },
      {
        shape: surface(
          40,
          4,
          (s, t) => {
            const x = hand * (spine + s * (WIDTH_MM - 4));
            return [x, Math.max(0.3, (heightAt(x) - BOARD_MM) * (1 - t)), HEIGHT_MM / 2 - 3];
          },
          (s, t) => [s * WIDTH_MM, t * 16],
        ),
        material: PAGES,
      },
    ];
  };
  const back3 = surface(
    24,
    4,
    (s, t) => [(s * 2 - 1) * spine, 19 + 1.6 * Math.cos((s - 0.5) * Math.PI), (t - 0.5) * HEIGHT_MM],
    (s, t) => [s * 2 * spine, t * HEIGHT_MM],
  );
  const ribbon = surface(
    40,
    4,
    (s, t) => [
      12 + 3 * Math.sin(s * 4) + s * 7 + (t - 0.5) * 6,
      Math.max(0.5, 9 * (1 - s * 1.7)),
      HEIGHT_MM / 2 - 6 + s * 46,
    ],
    (s, t) => [t * 6, s * 52],
  );
  const areaOf = (key: string, panel: number) => ({
    key,
    u: 0,
    v: 0,
    widthMm: WIDTH_MM,
    heightMm: HEIGHT_MM,
    panels: [panel],
  });
  const areas = [areaOf('main.cover', cover), areaOf('main.back-cover', back)];
  const viewMm = 384;
  const away = viewMm * 2.2;
  const scene = {
    // Nearly from above, from the reader's side.
    camera: { eye: [0, away, away * 0.34] as V, target: [0, 8, 4] as V, zoom: (2 * away * 1.05) / viewMm },
    parts: [
      paperSweep(2000),
      { shape: halfOf(1, 0, 0), material: COVER, panel: cover },
      { shape: halfOf(-1, 0, 0), material: COVER, panel: back },
      ...edgeOf(1),
      ...edgeOf(-1),
      { shape: back3, material: COVER },
      { shape: ribbon, material: RIBBON },
    ],
    ...flatLights(),
    areas,
  };
  return trace(scene, quality, { 'main.cover': { variant: {} }, 'main.back-cover': { variant: {} } }, { dark: false });
}
