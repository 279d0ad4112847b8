import { invalid } from '../errors';

/** Millimeters in an inch: exact, international yard and pound agreement of 1959. */
export const MM_PER_INCH = 25.4;
/** Points in an inch (PostScript point). */
export const POINTS_PER_INCH = 72;

/** Length on paper as a whole number of pixels at a density, rounded half up. ISO 216 A2 at 300 DPI is 4961 × 7016. */
export function mmToPx(lengthMm: number, dpi: number): number {
  return Math.round((lengthMm / MM_PER_INCH) * dpi);
}

/** Length in mm of `px` pixels at a density. Not rounded. */
export function pxToMm(px: number, dpi: number): number {
  return (px / dpi) * MM_PER_INCH;
}

export const inchToMm = (inches: number): number => inches * MM_PER_INCH;
export const mmToInch = (lengthMm: number): number => lengthMm / MM_PER_INCH;

/** PNG pHYs density for a DPI, whole pixels per meter (PNG third edition, 11.3.4.3): 300 DPI is 11811. */
export function dpiToPixelsPerMeter(dpi: number): number {
  return Math.round((dpi * 1000) / MM_PER_INCH);
}

const LENGTH = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(mm|cm|in|inch|"|px|pt|%)?$/i;

/**
 * Reads a typed length: `120`, `12 cm`, `4.5 in`, `300 px`, `18 pt`, `50 %`; a comma is taken as the decimal sign. A bare number is in
 * `unit` (mm). Pixels need the density of the area, and percent the length that is the whole. Throws `length-unreadable` or
 * `length-without-density` with a sentence.
 */
export function parseLengthMm(
  text: string,
  { dpi, wholeMm, unit = 'mm' }: { dpi?: number; wholeMm?: number; unit?: 'mm' | 'cm' | 'in' | 'pt' } = {},
): number {
  const match = LENGTH.exec(text.trim());
  if (!match)
    throw invalid(
      'length-unreadable',
      `“${text}” is not a length. Type a number with a unit, such as 120 mm, 12 cm or 4.5 in.`,
    );
  const value = Number(match[1]!.replace(',', '.'));
  switch ((match[2] ?? unit).toLowerCase()) {
    case 'cm':
      return value * 10;
    case 'in':
    case 'inch':
    case '"':
      return inchToMm(value);
    case 'pt':
      return inchToMm(value / POINTS_PER_INCH);
    case 'px':
      if (!dpi) throw invalid('length-without-density', 'A length in px needs a print density; type it in mm here.');
      return pxToMm(value, dpi);
    case '%':
      if (wholeMm === undefined)
        throw invalid('length-unreadable', `“${text}” is a share; here a length is wanted, such as 12 mm.`);
      return (value / 100) * wholeMm;
    default:
      return value;
  }
}
