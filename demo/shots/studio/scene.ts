import type { PxBox } from '../../../src/core/shot/shot';
import type { Shape, V } from './shapes';

/** What a surface is in a shot: not of the good; what takes the fabric's color; of the good with a color of its own; what stands before the print. */
export type Role = 'room' | 'fabric' | 'good' | 'front';
const ROLES: readonly Role[] = ['room', 'fabric', 'good', 'front'];

/** How a surface takes light. Colors are linear, 0 to 1. */
export interface Material {
  readonly role: Role;
  readonly albedo: V;
  /** Another color, where the grain has one: rings of wood, pages of a book. */
  readonly second?: V;
  /** Reflection at normal incidence of a coat, or of metal; 0: matt. */
  readonly f0?: number;
  readonly roughness?: number;
  readonly metal?: boolean;
  readonly glass?: boolean;
  /** Part of the light from behind that comes through. */
  readonly through?: number;
  readonly grain?: { readonly kind: Grain; readonly depthMm: number; readonly sizeMm: number };
}
export type Grain =
  'jersey' | 'canvas' | 'rib' | 'terry' | 'wood' | 'brushed' | 'plaster' | 'paper' | 'speckle' | 'pages';

/** A print area: where it begins in u, v of its panels, and its size. */
export interface AreaPlace {
  readonly key: string;
  readonly u: number;
  readonly v: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly panels: readonly number[];
}

/** A rectangle that shines to the side of a × b. */
export interface Lamp {
  readonly corner: V;
  readonly a: V;
  readonly b: V;
  readonly color: V;
}

export interface Camera {
  readonly eye: V;
  readonly target: V;
  /** Half of the picture's width is 1 / zoom at a distance of 1. */
  readonly zoom: number;
}

export interface Part {
  readonly shape: Shape;
  readonly material: Material;
  /** A number by which areas find it; 0 where there is no area. */
  readonly panel?: number;
}

export interface Scene {
  readonly camera: Camera;
  readonly parts: readonly Part[];
  readonly lamps: readonly Lamp[];
  readonly areas: readonly AreaPlace[];
  readonly sky: V;
  readonly ground: V;
  readonly sun?: { readonly toward: V; readonly color: V; readonly spread: number };
}

/** How a picture of a scene is traced. */
export interface Quality {
  readonly size: number;
  readonly samples: number;
  /** Without light: only where things are, and the grid that maps are held to. */
  readonly bare?: boolean;
  /** Only a part of the picture. */
  readonly part?: PxBox;
}

/** A scene as the tracer reads it: lines of text, and behind those of meshes their numbers. */
export function sceneFile(scene: Scene, { size, samples, bare, part }: Quality, seed = 1): Buffer {
  const chunks: Buffer[] = [];
  const line = (...words: (string | number)[]) => chunks.push(Buffer.from(`${words.join(' ')}\n`));
  line('size', size, size, samples, seed);
  if (bare) line('bare');
  if (part) line('part', part.leftPx, part.topPx, part.widthPx, part.heightPx);
  line('camera', ...scene.camera.eye, ...scene.camera.target, scene.camera.zoom);
  line('sky', ...scene.sky, ...scene.ground);
  if (scene.sun) line('sun', ...scene.sun.toward, ...scene.sun.color, scene.sun.spread);
  for (const { corner, a, b, color } of scene.lamps) line('light', ...corner, ...a, ...b, ...color);
  const materials = [...new Set(scene.parts.map(({ material }) => material))];
  for (const m of materials)
    line(
      'material',
      'm',
      ROLES.indexOf(m.role),
      ...m.albedo,
      ...(m.second ?? m.albedo),
      m.f0 ?? 0,
      m.roughness ?? 0.3,
      m.metal ? 1 : 0,
      m.glass ? 1 : 0,
      m.through ?? 0,
      m.grain?.kind ?? 'none',
      m.grain?.depthMm ?? 0,
      m.grain?.sizeMm ?? 1,
    );
  for (const { key, u, v, widthMm, heightMm, panels } of scene.areas)
    line('area', key, u, v, widthMm, heightMm, panels.length, ...panels);
  for (const { shape, material, panel = 0 } of scene.parts) {
    const { positions, normals, uv, triangles } = shape;
    line('mesh', materials.indexOf(material), panel, positions.length / 3, triangles.length / 3, normals ? 1 : 0);
    const floats = [
      Float32Array.from(positions),
      ...(normals ? [Float32Array.from(normals)] : []),
      Float32Array.from(uv),
    ];
    for (const values of [...floats, Uint32Array.from(triangles)]) chunks.push(Buffer.from(values.buffer));
  }
  return Buffer.concat(chunks);
}
