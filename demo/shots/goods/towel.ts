import { noise, smoothstep } from '../noise';
import type { Passes } from '../passes';
import type { Material, Part } from '../studio/scene';
import { moved, surface, sweep, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { OAK, wallRoom } from '../studio/wall';

const LINEN: Material = {
  role: 'fabric',
  albedo: [0.74, 0.73, 0.7],
  through: 0.08,
  grain: { kind: 'canvas', depthMm: 0.07, sizeMm: 1.1 },
};
const PANEL = 1;
/** The cloth, and what of it is printed in its middle. */
const [WIDTH_MM, LENGTH_MM, PRINT_W, PRINT_H] = [500, 700, 460, 660];
const RAIL_MM = 9;
/** What hangs down behind the rail. */
const BEHIND_MM = 46;

/** Folds of a hanging cloth: deeper and fewer the farther down. */
function folds(x: number, down: number): number {
  const soft = smoothstep(0, 420, down);
  const wave = x / 49 + 0.9 * noise(x / 160, down / 420, 31) + 0.0006 * down;
  return (
    19 * soft * Math.sin(wave) * (0.75 + 0.4 * noise(x / 200, down / 500, 35)) +
    5 * smoothstep(20, 300, down) * Math.sin(x / 23 + 1.4 * noise(x / 90, down / 260, 36)) +
    1.3 * noise(x / 42, down / 70, 32) * smoothstep(0, 60, down) +
    0.5 * noise(x / 17, down / 23, 37)
  );
}

/** A towel over a rail before a wall. */
export function towelShot(quality: Quality): Passes {
  const viewMm = 860;
  const railTop = 300;
  const before = 92;
  const over = Math.PI * (RAIL_MM + 0.8);
  const shape = surface(
    220,
    300,
    (s, t) => {
      const way = t * LENGTH_MM;
      // Cloth that goes in folds takes less room from side to side.
      const x0 = (s - 0.5) * WIDTH_MM;
      const r = RAIL_MM + 0.8;
      if (way < BEHIND_MM) return [x0, railTop - r - (BEHIND_MM - way), before - r - 0.5];
      if (way < BEHIND_MM + over) {
        const angle = Math.PI - (way - BEHIND_MM) / r;
        return [x0, railTop - r + r * Math.sin(angle), before + r * Math.cos(angle)];
      }
      const down = way - BEHIND_MM - over;
      const draw = 1 - 0.06 * smoothstep(0, 500, down);
      const hem = 0.9 * smoothstep(LENGTH_MM - 15, LENGTH_MM - 14, way);
      return [
        x0 * draw,
        railTop - r - down * 0.996 + 4 * noise(x0 / 130, 3, 38) * smoothstep(450, 620, down),
        before + r + 6 * smoothstep(0, 500, down) + folds(x0, down) + hem,
      ];
    },
    (s, t) => [s * WIDTH_MM, t * LENGTH_MM],
  );
  const holder = (x: number): Part => ({
    shape: moved(
      sweep(
        (s) => [0, 0, s * before],
        [1, 0, 0],
        (_, angle) => [Math.cos(angle) * 7, Math.sin(angle) * 7],
        12,
        24,
      ),
      [x, railTop - RAIL_MM, 0],
    ),
    material: OAK,
  });
  const room = wallRoom(viewMm, false);
  const scene = {
    ...room,
    camera: { ...room.camera, eye: [-150, 60, room.camera.eye[2]] as V, target: [0, -6, 60] as V },
    parts: [
      ...room.parts,
      { shape, material: LINEN, panel: PANEL },
      {
        shape: moved(
          sweep(
            (s) => [(s - 0.5) * 660, 0, 0],
            [0, 0, 1],
            (_, angle) => [Math.cos(angle) * RAIL_MM, Math.sin(angle) * RAIL_MM],
            40,
            36,
          ),
          [0, railTop - RAIL_MM, before],
        ),
        material: OAK,
      },
      holder(-300),
      holder(300),
    ],
    areas: [
      {
        key: 'main.face',
        u: (WIDTH_MM - PRINT_W) / 2,
        v: (LENGTH_MM - PRINT_H) / 2,
        widthMm: PRINT_W,
        heightMm: PRINT_H,
        panels: [PANEL],
      },
    ],
  };
  return trace(scene, quality, { 'main.face': { variant: {} } }, { dark: false });
}
