import { MM_PER_POINT } from '@/core/lettering/text';
import { parseLengthMm } from '@/core/units/length';

export type LengthUnit = 'mm' | 'pt';

/** What a length of letters may be, mm of the text's own box, and how that box is scaled on the good. */
export interface LengthBounds {
  readonly least: number;
  readonly most: number;
  readonly scale: number;
  readonly unit: LengthUnit;
  readonly dpi: number;
}

export const round = (value: number): number => Math.round(value * 1000) / 1000;

/** A length as it stands on the good: `12.0 mm`, `34.0 pt`. */
export const lengthText = (mm: number, { scale, unit }: LengthBounds): string =>
  unit === 'pt' ? `${((mm * scale) / MM_PER_POINT).toFixed(1)} pt` : `${(mm * scale).toFixed(1)} mm`;

/** What was typed as a length on the good, mm of the box. Throws a sentence for one that is too small or too large. */
export function typedSize(typed: string, { least, most, scale, unit, dpi }: LengthBounds): number {
  const wanted = parseLengthMm(typed, { unit, dpi }) / scale;
  if (!(wanted >= least && wanted <= most))
    throw new Error(`It must be from ${round(least * scale)} mm to ${round(most * scale)} mm.`);
  return round(wanted);
}

/** A length stepped by so many of its unit, within its bounds. */
export const steppedLength = (mm: number, by: number, { least, most, scale, unit }: LengthBounds): number =>
  round(Math.min(most, Math.max(least, mm + (by * (unit === 'pt' ? MM_PER_POINT : 1)) / scale)));

/** What was typed as a number with its unit, such as `−30°` or `1,2 ×`. Throws a sentence for what is none, or out of bounds. */
export function typedNumber(typed: string, unit: string, least: number, most: number): number {
  const text = typed.replace(unit.trim(), '').replace(',', '.').replace('−', '-').trim();
  const wanted = Number(text);
  if (text === '' || !Number.isFinite(wanted) || wanted < least || wanted > most)
    throw new Error(`“${typed}” is not a number from ${least} to ${most}.`.replaceAll('-', '−'));
  return wanted;
}
