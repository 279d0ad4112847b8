import type { Passes } from '../passes';
import type { Material, Part } from '../studio/scene';
import { joined, moved, sheet, sweep, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { flatOnWall, wallRoom } from '../studio/wall';

const FACE: Material = {
  role: 'fabric',
  albedo: [0.62, 0.52, 0.37],
  f0: 0.025,
  roughness: 0.55,
  grain: { kind: 'wood', depthMm: 0.035, sizeMm: 1.2 },
};
/** Sawn across: the veneers of plywood show as lines. */
const EDGE: Material = { role: 'fabric', albedo: [0.5, 0.4, 0.28], grain: { kind: 'rib', depthMm: 0.5, sizeMm: 1.5 } };
const CORD: Material = { role: 'good', albedo: [0.62, 0.57, 0.47], grain: { kind: 'rib', depthMm: 0.3, sizeMm: 0.9 } };
const PEG: Material = { role: 'room', albedo: [0.5, 0.335, 0.2], f0: 0.03, roughness: 0.42 };
const PANEL = 1;
const THICK_MM = 18;

/** A pennant of plywood that hangs on a wall by a cord from a peg; sides of its trim in mm, and how deep its back is notched. */
export function pennantShot(
  quality: Quality,
  widthMm: number,
  heightMm: number,
  notchMm: number,
  variant: Record<string, string>,
): Passes {
  const viewMm = widthMm * 1.42;
  const [left, top] = [-widthMm * 0.47, heightMm * 0.5 - 12];
  const outline: [number, number][] = [
    [0, 0],
    [widthMm, heightMm / 2],
    [0, heightMm],
    [notchMm, heightMm / 2],
  ];
  const at = ([x, y]: readonly [number, number], z: number): V => [left + x, top - y, z];
  const face: Shape = {
    positions: outline.flatMap((p) => [...at(p, THICK_MM + 1)]),
    normals: outline.flatMap(() => [0, 0, 1]),
    uv: outline.flat(),
    triangles: [0, 3, 1, 3, 2, 1],
  };
  const edges = joined(
    outline.map((from, i) => {
      const to = outline[(i + 1) % outline.length]!;
      const [a, b] = [at(from, THICK_MM + 1), at(to, THICK_MM + 1)];
      const along: V = [b[0] - a[0], b[1] - a[1], 0];
      // u runs through the thickness: the veneers lie along the edge.
      const strip = sheet(a, along, [0, 0, -THICK_MM]);
      return {
        ...strip,
        uv: [0, i * 50, 0, i * 50 + Math.hypot(...along), THICK_MM, i * 50, THICK_MM, i * 50 + Math.hypot(...along)],
      };
    }),
  );
  const peg = { x: left + widthMm * 0.3, y: top + 46 };
  const hole = [left + 17, left + widthMm * 0.62] as const;
  const cords = hole.map((x, i): Part => {
    const from: V = [x, i === 0 ? top - 14 : top - heightMm * 0.26 - 14, THICK_MM * 0.6];
    return {
      shape: sweep(
        (s) => [
          from[0] + (peg.x - from[0]) * s,
          from[1] + (peg.y - from[1]) * s - 3 * Math.sin(Math.PI * s),
          from[2] + 8 * s,
        ],
        [0, 0, 1],
        (_, angle) => [Math.cos(angle) * 1.1, Math.sin(angle) * 1.1],
        60,
        10,
      ),
      material: CORD,
    };
  });
  const room = wallRoom(viewMm, false);
  const scene = {
    ...room,
    parts: [
      ...room.parts,
      { shape: face, material: FACE, panel: PANEL },
      { shape: edges, material: EDGE },
      ...cords,
      {
        shape: moved(
          sweep(
            (s) => [0, 0, s * 40],
            [1, 0, 0],
            (s, angle) => [Math.cos(angle) * (s > 0.8 ? 7.5 : 5), Math.sin(angle) * (s > 0.8 ? 7.5 : 5)],
            60,
            30,
          ),
          [peg.x, peg.y - 2, 0],
        ),
        material: PEG,
      },
    ],
    areas: [{ key: 'main.face', u: 0, v: 0, widthMm, heightMm, panels: [PANEL] }],
  };
  return trace(scene, quality, {
    'main.face': { variant, flat: flatOnWall(viewMm, quality.size, THICK_MM + 1, left, top) },
  });
}
