import type { Passes } from '../passes';
import type { Camera, Material, Part } from '../studio/scene';
import { joined, sheet, surface, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { flatOnWall, wallRoom } from '../studio/wall';

const WOOD: Material = {
  role: 'fabric',
  albedo: [0.5, 0.42, 0.34],
  f0: 0.035,
  roughness: 0.42,
  grain: { kind: 'wood', depthMm: 0.05, sizeMm: 1.6 },
};
const PAPER: Material = {
  role: 'good',
  albedo: [0.84, 0.84, 0.83],
  grain: { kind: 'paper', depthMm: 0.008, sizeMm: 0.5 },
};
const SHEET = 1;
/** Face of the frame, its depth, and how far the print lies before the wall; mm. */
const FACE_MM = 20;
const DEEP_MM = 25;
const PRINT_MM = 14;

/** The section of the frame, from the print outward and before the wall: an edge broken a little all around. */
const SECTION: readonly (readonly [number, number])[] = [
  [0, PRINT_MM - 2],
  [0, DEEP_MM - 1],
  [1, DEEP_MM],
  [FACE_MM - 1.2, DEEP_MM],
  [FACE_MM, DEEP_MM - 1.2],
  [FACE_MM, 0],
];

/** Four pieces, mitered: each is as long at its outside as both frames beside it are wide. */
function frame(widthMm: number, heightMm: number): Shape {
  const sides: [V, V, number, number][] = [
    [[1, 0, 0], [0, 1, 0], widthMm, heightMm],
    [[0, -1, 0], [1, 0, 0], heightMm, widthMm],
    [[-1, 0, 0], [0, -1, 0], widthMm, heightMm],
    [[0, 1, 0], [-1, 0, 0], heightMm, widthMm],
  ];
  return joined(
    sides.flatMap(([along, out, length, across], side) =>
      SECTION.slice(0, -1).map(([d0, z0], k) => {
        const [d1, z1] = SECTION[k + 1]!;
        const at = (s: number, t: number): V => {
          const [d, z] = [d1 + (d0 - d1) * t, z1 + (z0 - z1) * t];
          // A hair is left open at the miter, as there is between real ones.
          const reach = (s - 0.5) * (length + 2 * d - 0.18);
          const away = across / 2 + d;
          return [along[0] * reach + out[0] * away, along[1] * reach + out[1] * away, z];
        };
        return surface(40, 1, at, (s, t) => [side * 977 + s * length, side * 53 + d1 + z1 + (d0 + z0 - d1 - z1) * t]);
      }),
    ),
  );
}

/** A print in a frame of wood on a wall; its corner from near by in place of the whole, when `near` says which part, mm from the print's top left. */
export function framedShot(
  quality: Quality,
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
  variant: Record<string, string>,
  near?: { readonly x: number; readonly y: number; readonly sideMm: number },
): Passes {
  const viewMm = heightMm / 0.62;
  const up = viewMm * 0.055;
  const [left, top] = [-widthMm / 2, heightMm / 2 + up];
  const room = wallRoom(viewMm);
  const lifted = frame(widthMm, heightMm);
  const shape = { ...lifted, positions: lifted.positions.map((value, i) => (i % 3 === 1 ? value + up : value)) };
  const parts: Part[] = [
    { shape, material: WOOD },
    { shape: sheet([left, top, PRINT_MM], [widthMm, 0, 0], [0, -heightMm, 0]), material: PAPER, panel: SHEET },
  ];
  const middle = near && ([left + near.x, top - near.y, DEEP_MM] as const);
  const camera: Camera = middle
    ? {
        eye: [middle[0] + near.sideMm * 0.55, middle[1] + near.sideMm * 0.25, near.sideMm * 2.3],
        target: middle,
        zoom: 4.8,
      }
    : room.camera;
  const scene = {
    ...room,
    camera,
    parts: [...room.parts, ...parts],
    areas: [{ key: 'main.sheet', u: 0, v: 0, widthMm, heightMm, panels: [SHEET] }],
  };
  const flat = middle ? {} : { flat: flatOnWall(viewMm, quality.size, PRINT_MM, left, top) };
  return trace(scene, quality, { 'main.sheet': { variant, ...flat } });
}
