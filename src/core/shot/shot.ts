import type { OptionValues } from '../catalog/blank';
import { TypicaError } from '../errors';
import type { Matrix, Point } from '../geometry/matrix';

/**
 * A shot: the data from which mock-ups of one blank from one angle are made. The file format is one JSON document with PNG passes
 * beside it; docs/shots.md describes it. This is the newest version that can be read; an older one is read as it is.
 */
export const SHOT_VERSION = 3;

/** A rectangle of picture pixels. */
export interface PxBox {
  readonly leftPx: number;
  readonly topPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/**
 * `linear16`: 16-bit gray or RGB, linear light, 65535 stands for `scale`. `steps16`: the same light as `steps` even to the eye (`steps.ts`),
 * up to `scale`. `coverage8`: 8-bit gray, 255 is covered. A pass may hold only a
 * `window` of the picture, and be `reduced` to half its size.
 */
export interface PassFile {
  readonly file: string;
  readonly encoding: 'linear16' | 'steps16' | 'coverage8';
  readonly scale: number;
  /** Of `steps16`: which step is a light of 1. */
  readonly steps?: number;
  readonly window?: PxBox;
  readonly reduced?: 1 | 2;
}

/** 16-bit RGB: red u, green v, each from its first to its second bound in mm; blue is not used. Taken at pixel centers. */
export interface TracedMap {
  readonly kind: 'traced';
  readonly file: string;
  readonly uMm: readonly [number, number];
  readonly vMm: readonly [number, number];
  readonly window?: PxBox;
}

/** A flat area seen in perspective: where the trim's corners are in the picture, clockwise from its top left. */
export interface HomographyMap {
  readonly kind: 'homography';
  readonly cornersPx: readonly [Point, Point, Point, Point];
  readonly widthMm: number;
  readonly heightMm: number;
}

/** An area around a body: two edges of it, how far top and bottom bend between them, and what of the body lies between the edges. */
export interface CylinderMap {
  readonly kind: 'cylinder';
  /** Top and bottom end of each edge. */
  readonly leftPx: readonly [Point, Point];
  readonly rightPx: readonly [Point, Point];
  /** How far the middle of the top and of the bottom lies below the straight line between the edges' ends, px along the edges. */
  readonly bendTopPx: number;
  readonly bendBottomPx: number;
  /** Half of the angle between the edges as the body's axis sees it: 90 where they are its outlines. */
  readonly halfDeg: number;
  readonly radiusMm: number;
  /** Place on the area (mm of the trim) in the middle between the edges. */
  readonly middleMm: number;
  /** Mm of the trim at the edges' top and bottom ends. */
  readonly topMm: number;
  readonly bottomMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** An area on a bent surface: where a grid of evenly spaced points of the trim is in the picture, row by row from the top left. */
export interface MeshMap {
  readonly kind: 'mesh';
  readonly columns: number;
  readonly rows: number;
  readonly pointsPx: readonly Point[];
  readonly widthMm: number;
  readonly heightMm: number;
}

export type AreaMap = TracedMap | HomographyMap | CylinderMap | MeshMap;

export interface ShotDocument {
  readonly format: 'typica-shot';
  readonly version: number;
  readonly code: string;
  readonly name: string;
  /** `front`, `back`, `handle-right`, `close-up` …: for choosing pictures. */
  readonly angle: string;
  /** Left out of the set of pictures that follows by itself: it is seen only where it is chosen. */
  readonly chosenOnly?: true;
  /** Where a good that can be turned stands, degrees: shots with this are the steps of its turning. */
  readonly turnDeg?: number;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Straight up to this linear value, a soft shoulder above. */
  readonly tone: { readonly straightTo: number };
  /** All light times this; 1 when absent. */
  readonly exposure?: number;
  readonly passes: {
    /** RGB: everything that is not fabric as seen, already times (1 − fabric as seen): background, contact shadow, things in front. */
    readonly rest: PassFile;
    /** Gray: diffuse light with the albedo divided out. Absent: an even light of 1. */
    readonly shade?: PassFile;
    /** Gray: the part of `shade` that comes straight from the lights. */
    readonly direct?: PassFile;
    /** Coverage of what takes the fabric's color, whatever stands before it. Absent: the good keeps the color that it has in `rest`. */
    readonly fabric?: PassFile;
    /** Coverage of what stands before fabric and print: drawstrings, a handle. */
    readonly front?: PassFile;
    readonly specular?: PassFile;
    /** Coverage of the whole good, for a picture on pure white. Absent: fabric, print areas and what stands in front. */
    readonly good?: PassFile;
  };
  /** u, v over the whole fabric in its pattern, mm: what heather and weave are laid in. */
  readonly pattern?: TracedMap;
  /** Each print area in view. */
  readonly areas: { readonly [areaKey: string]: ShotAreaFile };
}

export interface ShotAreaFile {
  /** The variant in whose geometry the map is measured. */
  readonly variant: OptionValues;
  /** Where the area is, whatever stands before it. Absent with a map that is not traced: up to the trim. */
  readonly coverage?: PassFile;
  readonly map: AreaMap;
  /** Where the area is seen flat and straight on: the map as one affine matrix from picture pixels to mm, for drawing on top of the picture. */
  readonly flat?: Matrix;
}

export interface Pass16 {
  readonly values: Uint16Array;
  readonly scale: number;
}

/** A map, decoded: 0 … 65535 from the first to the second bound. */
export interface MapPlanes {
  readonly u: Uint16Array;
  readonly v: Uint16Array;
  readonly uMm: readonly [number, number];
  readonly vMm: readonly [number, number];
}

/** Passes of a shot, decoded. All have widthPx × heightPx entries (rest three times as many), rows from the top. */
export interface Shot {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly straightTo: number;
  readonly exposure: number;
  readonly rest: Pass16;
  readonly shade: Pass16 | null;
  readonly direct: Pass16 | null;
  readonly specular: Pass16 | null;
  readonly fabric: Uint8Array | null;
  readonly front: Uint8Array | null;
  readonly good: Uint8Array | null;
  readonly pattern: MapPlanes | null;
  readonly areas: { readonly [areaKey: string]: ShotArea };
}

export interface ShotArea extends MapPlanes {
  readonly coverage: Uint8Array;
}

const bad = (says: string) => new TypicaError('invalid', 'shot-invalid', `This shot cannot be read: ${says}.`);

const isPoint = (p: unknown): p is Point => Number.isFinite((p as Point)?.x) && Number.isFinite((p as Point)?.y);

function checkMap(key: string, map: AreaMap | undefined): void {
  const sized = (m: { widthMm: number; heightMm: number }) => {
    if (!(m.widthMm > 0) || !(m.heightMm > 0)) throw bad(`the map of “${key}” has no extent`);
  };
  switch (map?.kind) {
    case 'traced':
      if (!map.file || !(map.uMm?.[1] > map.uMm?.[0]) || !(map.vMm?.[1] > map.vMm?.[0]))
        throw bad(`the map of “${key}” has no extent`);
      return;
    case 'homography':
      sized(map);
      if (map.cornersPx?.length !== 4 || !map.cornersPx.every(isPoint)) throw bad(`the map of “${key}” lacks a corner`);
      return;
    case 'cylinder':
      sized(map);
      if (![...(map.leftPx ?? []), ...(map.rightPx ?? [])].every(isPoint) || !(map.radiusMm > 0))
        throw bad(`the map of “${key}” lacks an edge or its radius`);
      if (!(map.halfDeg > 0 && map.halfDeg <= 90) || map.topMm === map.bottomMm)
        throw bad(`the map of “${key}” has no extent`);
      return;
    case 'mesh':
      sized(map);
      if (!(map.columns >= 2 && map.rows >= 2) || map.pointsPx?.length !== map.columns * map.rows)
        throw bad(`the mesh of “${key}” lacks points`);
      return;
    default:
      throw bad(`the area “${key}” has no map that is known here`);
  }
}

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
  if (!(doc.tone?.straightTo > 0 && doc.tone.straightTo < 1)) throw bad('its tone must be straight up to 0 to 1');
  if (doc.exposure !== undefined && !(doc.exposure > 0)) throw bad('its exposure must be more than 0');
  if (!doc.passes?.rest?.file) throw bad('the pass “rest” is missing');
  for (const [name, pass] of Object.entries(doc.passes)) {
    if (!pass?.file) throw bad(`the pass “${name}” names no file`);
    if (pass.encoding !== 'coverage8' && !(pass.scale > 0)) throw bad(`the pass “${name}” has no scale`);
    if (pass.encoding === 'steps16' && !(pass.steps! >= 2 && pass.steps! <= 4096))
      throw bad(`the pass “${name}” must have 2 to 4096 steps`);
  }
  if (doc.pattern) checkMap('fabric', doc.pattern);
  for (const [key, area] of Object.entries(doc.areas ?? {})) {
    checkMap(key, area.map);
    if (area.map.kind === 'traced' && !area.coverage?.file) throw bad(`the area “${key}” has no coverage`);
  }
  return doc;
}

/** Every file that a shot is made of, beside its document. */
export const shotFiles = (doc: ShotDocument): string[] => [
  ...new Set([
    ...Object.values(doc.passes).map((pass) => pass.file),
    ...(doc.pattern ? [doc.pattern.file] : []),
    ...Object.values(doc.areas).flatMap(({ coverage, map }) => [
      ...(coverage ? [coverage.file] : []),
      ...(map.kind === 'traced' ? [map.file] : []),
    ]),
  ]),
];
