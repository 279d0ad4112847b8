import { bytesToHex } from '@noble/hashes/utils.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { invalid } from '../errors';
import { canonicalJson } from '../canonical/canonical';
import { mmToPx } from '../units/length';
import type { Box } from './box';
import { chain, scaling, translation, type Matrix } from './matrix';

/** How a surface is printed. */
export const TECHNIQUES = ['direct-to-garment', 'sublimation', 'embroidery', 'giclee', 'uv'] as const;
export type Technique = (typeof TECHNIQUES)[number];

export const TECHNIQUE_NAMES: Record<Technique, string> = {
  'direct-to-garment': 'direct-to-garment',
  sublimation: 'sublimation',
  embroidery: 'embroidery',
  giclee: 'giclée',
  uv: 'UV',
};

/**
 * The measured shape of a print area for some sizes of a blank. All lengths in mm; the origin is the top left corner of the trim,
 * x right, y down. Immutable: its id is a hash of its content, so designs and files that name it keep their meaning for ever.
 */
export interface Geometry {
  readonly widthMm: number;
  readonly heightMm: number;
  /** SVG path in mm for an area that is not a rectangle, else null. */
  readonly outline: string | null;
  /** The point to which a layer with fit `keep` holds its distance. */
  readonly anchor: { readonly xMm: number; readonly yMm: number };
  /** Printed past the trim on every side. */
  readonly bleedMm: number;
  /** Nothing that matters comes closer than this to the trim. */
  readonly safeMm: number;
  readonly dpi: number;
  readonly technique: Technique;
}

/** Stable id of a geometry: `g` and the first 20 hexadecimal digits of the SHA-256 of its RFC 8785 form. */
export function geometryId(geometry: Geometry): string {
  return `g${bytesToHex(sha256(new TextEncoder().encode(canonicalJson(geometry)))).slice(0, 20)}`;
}

/** The whole printed sheet, bleed included, in mm from the trim's top left corner. */
export const printedBox = (g: Geometry): Box => ({
  left: -g.bleedMm,
  top: -g.bleedMm,
  right: g.widthMm + g.bleedMm,
  bottom: g.heightMm + g.bleedMm,
});

export const trimBox = (g: Geometry): Box => ({ left: 0, top: 0, right: g.widthMm, bottom: g.heightMm });

/** Pixel size of the print file: the printed sheet, bleed included, at the geometry's density (or another). */
export function printSizePx(g: Geometry, dpi: number = g.dpi): { widthPx: number; heightPx: number } {
  return { widthPx: mmToPx(g.widthMm + 2 * g.bleedMm, dpi), heightPx: mmToPx(g.heightMm + 2 * g.bleedMm, dpi) };
}

/** Map from mm of the trim to pixels of a sheet of this size, bleed included. */
export function sheetMatrix(g: Geometry, widthPx: number, heightPx: number): Matrix {
  const box = printedBox(g);
  return chain(
    translation(-box.left, -box.top),
    scaling(widthPx / (box.right - box.left), heightPx / (box.bottom - box.top)),
  );
}

/** Throws `geometry-invalid`, naming the first thing that cannot be printed. */
export function checkGeometry(g: Geometry): void {
  const bad = (what: string) => invalid('geometry-invalid', `A geometry cannot be used: ${what}.`, { geometry: g });
  if (!(g.widthMm > 0) || !(g.heightMm > 0)) throw bad('its sides must be longer than 0 mm');
  if (g.widthMm > 5000 || g.heightMm > 5000) throw bad('its sides must be shorter than 5 m');
  if (!(g.bleedMm >= 0) || !(g.safeMm >= 0)) throw bad('bleed and safe margin cannot be negative');
  if (2 * g.safeMm >= Math.min(g.widthMm, g.heightMm)) throw bad('the safe margin leaves nothing of the area');
  if (!(g.dpi >= 30 && g.dpi <= 2400)) throw bad('its density must be 30 to 2400 DPI');
  if (!TECHNIQUES.includes(g.technique)) throw bad(`“${g.technique}” is no technique`);
}
