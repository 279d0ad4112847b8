import type { OptionValues } from '../catalog/blank';
import { TypicaError } from '../errors';
import type { Matrix } from '../geometry/matrix';

/**
 * A shot: the data from which mock-ups of one blank from one angle are made. The file format is one JSON document with PNG passes
 * beside it; docs/shots.md describes it. This is the newest version that can be read.
 */
export const SHOT_VERSION = 1;

/** `linear16`: 16-bit gray or RGB, linear light, 65535 stands for `scale`. `coverage8`: 8-bit gray, 255 is covered. */
export interface PassFile {
  readonly file: string;
  readonly encoding: 'linear16' | 'coverage8';
  readonly scale: number;
}

/** 16-bit RGB: red u, green v, each from its first to its second bound in mm of the area's trim; blue is not used. */
export interface TracedMap {
  readonly kind: 'traced';
  readonly file: string;
  readonly uMm: readonly [number, number];
  readonly vMm: readonly [number, number];
}

export interface ShotDocument {
  readonly format: 'typica-shot';
  readonly version: number;
  readonly code: string;
  readonly name: string;
  /** `front`, `back`, `handle-right` …: for choosing pictures. */
  readonly angle: string;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Straight up to this linear value, a soft shoulder above. */
  readonly tone: { readonly straightTo: number };
  /** rest: everything that is not fabric, already times (1 − fabric). shade: diffuse light on the fabric with its albedo divided out. */
  readonly passes: {
    readonly rest: PassFile;
    readonly shade: PassFile;
    readonly fabric: PassFile;
    readonly specular?: PassFile;
  };
  /** For each print area in view: the variant whose geometry the map is measured in, its coverage, and the map. */
  readonly areas: { readonly [areaKey: string]: ShotAreaFile };
}

export interface ShotAreaFile {
  readonly variant: OptionValues;
  readonly coverage: PassFile;
  readonly map: TracedMap;
  /** Where the area is seen flat and straight on: the map as one affine matrix from picture pixels to mm, for drawing on top of the picture. */
  readonly flat?: Matrix;
}

/** Passes of a shot, decoded. All have widthPx × heightPx entries (rest three times as many), rows from the top. */
export interface Shot {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly straightTo: number;
  readonly rest: { readonly values: Uint16Array; readonly scale: number };
  readonly shade: { readonly values: Uint16Array; readonly scale: number };
  readonly specular: { readonly values: Uint16Array; readonly scale: number } | null;
  readonly fabric: Uint8Array;
  readonly areas: { readonly [areaKey: string]: ShotArea };
}

export interface ShotArea {
  readonly coverage: Uint8Array;
  /** 0 … 65535 from the first to the second bound. */
  readonly u: Uint16Array;
  readonly v: Uint16Array;
  readonly uMm: readonly [number, number];
  readonly vMm: readonly [number, number];
}

const bad = (says: string) => new TypicaError('invalid', 'shot-invalid', `This shot cannot be read: ${says}.`);

/** Checks a parsed shot document. Throws `shot-invalid` with the reason (damaged, or from a newer version). */
export function checkShotDocument(value: unknown): ShotDocument {
  const doc = value as ShotDocument;
  if (typeof doc !== 'object' || doc === null || doc.format !== 'typica-shot') throw bad('it is not a shot document');
  if (!(doc.version >= 1)) throw bad('it has no version');
  if (doc.version > SHOT_VERSION)
    throw bad(`it has version ${doc.version}, and this Typica reads up to ${SHOT_VERSION}; update Typica`);
  const size = [doc.widthPx, doc.heightPx];
  if (!size.every((side) => Number.isInteger(side) && side >= 16 && side <= 8000))
    throw bad('its size must be 16 to 8000 px a side');
  for (const pass of ['rest', 'shade', 'fabric'] as const)
    if (!doc.passes?.[pass]?.file) throw bad(`the pass "${pass}" is missing`);
  for (const [key, area] of Object.entries(doc.areas ?? {})) {
    if (!area.coverage?.file || area.map?.kind !== 'traced') throw bad(`the area "${key}" has no coverage or map`);
    if (!(area.map.uMm[1] > area.map.uMm[0]) || !(area.map.vMm[1] > area.map.vMm[0]))
      throw bad(`the map of "${key}" has no extent`);
  }
  return doc;
}
