import type { Passes } from '../passes';
import { paperSweep, softbox } from '../studio/room';
import type { Material, Part } from '../studio/scene';
import { arc, block, joined, lathe, moved, sheet, surface, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { flatOnWall, OAK, vase } from '../studio/wall';

/** Satin acrylic: what shines on it from behind comes through, softened. */
const FACE: Material = { role: 'fabric', albedo: [0.8, 0.8, 0.8], f0: 0.035, roughness: 0.34, through: 0.62 };
/** Its polished edges gather light from inside. */
const EDGE: Material = { role: 'fabric', albedo: [0.95, 0.95, 0.95], f0: 0.04, roughness: 0.12, through: 0.9 };
const WOOD: Material = { ...OAK, role: 'good' };
const PIN: Material = { role: 'front', albedo: [0.72, 0.58, 0.36], f0: 0.62, roughness: 0.24, metal: true };
const PANEL = 1;
const THICK_MM = 10;

/**
 * A pennant of satin acrylic on a rod of oak, standing on a table with light behind it; sides of its trim in mm, how deep its fly end's other side is
 * notched, and how far it is turned away.
 */
export function pennantShot(
  quality: Quality,
  widthMm: number,
  heightMm: number,
  notchMm: number,
  variant: Record<string, string>,
  turnDeg = 0,
): Passes {
  const viewMm = widthMm * 1.34;
  const base = -viewMm * 0.4;
  const [left, top] = [-widthMm * 0.5, viewMm * 0.3];
  const outline: [number, number][] = [
    [0, 0],
    [widthMm, heightMm / 2],
    [0, heightMm],
    [notchMm, heightMm / 2],
  ];
  const at = ([x, y]: readonly [number, number], z: number): V => [left + x, top - y, z];
  const face: Shape = {
    positions: outline.flatMap((p) => [...at(p, THICK_MM / 2)]),
    normals: outline.flatMap(() => [0, 0, 1]),
    uv: outline.flat(),
    triangles: [0, 3, 1, 3, 2, 1],
  };
  const edges = joined(
    outline.map((from, i) => {
      const to = outline[(i + 1) % outline.length]!;
      const [a, b] = [at(from, THICK_MM / 2), at(to, THICK_MM / 2)];
      return sheet(a, [b[0] - a[0], b[1] - a[1], 0], [0, 0, -THICK_MM]);
    }),
  );
  const rodX = left + notchMm * 0.42;
  const rodTop = top + 12;
  const rod = lathe(
    [[0, 0], [5.5, 0], [5.5, rodTop - base - 5], ...arc([0, rodTop - base - 5], 5.5, 0, 90, 10)],
    5,
    35,
    64,
  );
  const foot = moved(block([118, 18, 74], 5), [rodX + 30, base + 9, -THICK_MM / 2 - 8]);
  const rodZ = -THICK_MM / 2 - 6;
  const pins = [0.13, 0.87].map((part): Part => {
    const p = at([notchMm * 0.42, heightMm * part], THICK_MM / 2);
    return {
      shape: surface(
        24,
        10,
        (s, t) => {
          const angle = s * 2 * Math.PI;
          const up = (t * Math.PI) / 2;
          return [
            p[0] + 3.4 * Math.cos(up) * Math.cos(angle),
            p[1] + 3.4 * Math.cos(up) * Math.sin(angle),
            p[2] + 2.2 * Math.sin(up),
          ];
        },
        (s, t) => [s * 20, t * 5],
      ),
      material: PIN,
    };
  });
  const stand = (part: Part): Part =>
    turnDeg
      ? { ...part, shape: moved(turned(moved(part.shape, [-rodX - 60, 0, 0]), turnDeg), [rodX + 60, 0, 0]) }
      : part;
  const far = viewMm * 2.3;
  const floor = paperSweep(520);
  const scene = {
    camera: { eye: [0, viewMm * 0.0, far] as V, target: [0, 0, 0] as V, zoom: (2 * far) / viewMm },
    parts: [
      { ...floor, shape: moved(floor.shape, [0, base, 0]) },
      ...[
        { shape: face, material: FACE, panel: PANEL },
        { shape: edges, material: EDGE },
        { shape: moved(rod, [rodX, base, rodZ]), material: WOOD },
        { shape: foot, material: WOOD },
        ...pins,
      ].map(stand),
      // Its leaves throw their shadows on the face from behind.
      ...vase(widthMm * 0.38, 7).map((part) => ({
        ...part,
        shape: moved(part.shape, [widthMm * 0.16, base, turnDeg ? -170 : -96]),
      })),
    ],
    lamps: [
      // A small lamp behind at the right is what shines through it: small, so that the leaves' shadows are seen.
      softbox([300, 170, -300], [-20, -10, 0], 70, 70, 260, [1, 0.95, 0.86]),
      softbox([-560, 360, 480], [0, 0, 0], 480, 560, 2.0),
      softbox([0, 720, 60], [0, 0, 0], 620, 520, 1.7),
    ],
    sky: [0.26, 0.26, 0.264] as V,
    ground: [0.17, 0.17, 0.17] as V,
    areas: [{ key: 'main.face', u: 0, v: 0, widthMm, heightMm, panels: [PANEL] }],
  };
  const flat = turnDeg ? {} : { flat: flatOnWall(viewMm, quality.size, THICK_MM / 2, left, top) };
  return trace(scene, quality, { 'main.face': { variant, ...flat } });
}
