import { placementMatrix, effectiveDpi, normalizeDegrees, type Placement } from '@/core/geometry/placement';
import type { Geometry } from '@/core/geometry/area';
import { layerMatrix } from '@/core/geometry/fit';
import type { Layer } from '@/core/document/document';
import { parseLengthMm } from '@/core/units/length';

/** A layer on the shape in view: where it is, its height ÷ width, and the sheet. */
export interface Placed {
  readonly placement: Placement;
  readonly aspect: number;
  readonly geometry: Geometry;
}

export type LengthName = 'xMm' | 'yMm' | 'widthMm' | 'heightMm';

const round = (mm: number) => Math.round(mm * 1000) / 1000;

/** A length of the layer, mm. */
export const lengthOf = ({ placement, aspect }: Placed, name: LengthName): number =>
  name === 'heightMm' ? placement.widthMm * aspect : placement[name];

/** The layer with one of its lengths set. Throws a sentence where it could not be seen there, or is no size to print. */
export function withLength(placed: Placed, name: LengthName, mm: number): Partial<Placement> {
  const { placement, aspect, geometry } = placed;
  if (name === 'widthMm' || name === 'heightMm') {
    const widthMm = name === 'widthMm' ? mm : mm / aspect;
    if (!(widthMm >= 1 && widthMm * Math.max(1, aspect) <= 10_000)) throw new Error('It must be from 1 mm to 10 m.');
    return { widthMm: round(widthMm) };
  }
  const reach = placement.widthMm * Math.hypot(1, aspect);
  const sideMm = name === 'xMm' ? geometry.widthMm : geometry.heightMm;
  if (mm <= -reach || mm >= sideMm + reach) throw new Error('There it would lie wholly outside of the sheet.');
  return { [name]: round(mm) };
}

/** What was typed as a length, in mm: `12`, `3 in`, `50 %` of the sheet's side, `600 px` at its DPI. */
export const typedLength = (typed: string, name: LengthName, geometry: Geometry): number =>
  parseLengthMm(typed, {
    dpi: geometry.dpi,
    wholeMm: name === 'yMm' || name === 'heightMm' ? geometry.heightMm : geometry.widthMm,
  });

/** What was typed as a turn, in degrees from −180 to 180. Throws a sentence for what is no number. */
export function typedDegrees(typed: string): number {
  const degrees = Number(typed.replace('°', '').replace(',', '.').replace('−', '-').trim());
  if (!Number.isFinite(degrees) || typed.trim() === '')
    throw new Error(`“${typed}” is not a number of degrees, such as 15 or −7.5.`);
  return normalizeDegrees(degrees);
}

/** Pixels per inch that an artwork is printed with where it lies, or while it is moved. */
export function dpiAt(
  { placement, aspect }: Placed,
  layer: Layer,
  facts: { readonly widthPx: number; readonly heightPx: number },
  /** The shape in view among the blank's, or null while the layer is moved: then it lies as placed. */
  still: { readonly geometryId: string; readonly geometries: { readonly [id: string]: Geometry } } | null,
): number {
  const matrix = still
    ? layerMatrix(layer, aspect, still.geometryId, still.geometries)
    : placementMatrix(placement, aspect);
  return Math.round(effectiveDpi(matrix, facts.widthPx, facts.heightPx));
}

/** How a resolution stands to the one that is wanted: enough, less, much less, too little. */
export function dpiTone(dpi: number, wantedDpi: number): 'enough' | 'less' | 'much-less' | 'too-little' {
  if (dpi >= wantedDpi) return 'enough';
  if (dpi >= (wantedDpi * 2) / 3) return 'less';
  return dpi >= wantedDpi / 3 ? 'much-less' : 'too-little';
}
