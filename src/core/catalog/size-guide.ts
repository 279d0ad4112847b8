import { mulDiv } from '../pricing/money';
import type { Blank } from './blank';
import { ownEntry } from '../own-entry';

/** Centimeters to the nearest half, as size tables are printed (common practice, no source): 508 mm is `51`, 483 mm is `48.5`. */
export function centimeters(mm: number): string {
  const halves = mulDiv(Math.round(mm * 100), 1, 500);
  return halves % 2 === 0 ? String(halves / 2) : (halves / 2).toFixed(1);
}

const QUARTERS = ['', '¼', '½', '¾'];

/** Inches (25.4 mm) to the nearest quarter, as size tables are printed (common practice, no source): 508 mm is `20`, 514 mm is `20¼`. */
export function inches(mm: number): string {
  const quarters = mulDiv(Math.round(mm * 100) * 4, 1, 2540);
  const whole = Math.floor(quarters / 4);
  return whole === 0 && quarters > 0 ? QUARTERS[quarters]! : `${whole}${QUARTERS[quarters % 4]}`;
}

/** Units in which a store tells sizes. */
export const SIZES_IN = ['cm', 'inches', 'both'] as const;
export type SizesIn = (typeof SIZES_IN)[number];

export interface SizeRow {
  readonly size: string;
  /** One text per measure, null where it was not measured. */
  readonly cm: readonly (string | null)[];
  readonly inches: readonly (string | null)[];
}

/** The size guide as a table in both units, sizes in the blank's order; null when the blank has none. */
export function sizeTable(blank: Pick<Blank, 'sizeGuide' | 'options'>): { measures: string[]; rows: SizeRow[] } | null {
  const guide = blank.sizeGuide;
  const option = blank.options.find((o) => o.code === guide?.optionCode);
  if (!guide || !option) return null;
  const each = (code: string, format: (mm: number) => string) =>
    guide.measures.map((measure) => {
      const mm = ownEntry(measure.mm, code);
      return mm === undefined ? null : format(mm);
    });
  return {
    measures: guide.measures.map((measure) => measure.name),
    rows: option.values.map(({ code, name }) => ({
      size: name,
      cm: each(code, centimeters),
      inches: each(code, inches),
    })),
  };
}

const UNIT_WORDS: { readonly [unit in SizesIn]: string } = { cm: 'cm', inches: 'inches', both: 'cm and inches' };

/**
 * The sizes that are sold as lines of text, for shops that take no table; a measure's name says how it is taken: `Sizes, cm` and `M: Chest 53; Length 73`. Null where the blank has no size
 * guide, or none of its measured sizes is sold.
 */
export function sizeLines(
  blank: Pick<Blank, 'sizeGuide' | 'options'>,
  unit: SizesIn,
  isSold: (valueCode: string) => boolean,
): string | null {
  const table = sizeTable(blank);
  const option = blank.options.find(({ code }) => code === blank.sizeGuide?.optionCode);
  if (!table || !option) return null;
  const cell = ({ cm, inches: inch }: SizeRow, i: number): string | null => {
    if (cm[i] == null) return null;
    return unit === 'both' ? `${cm[i]} (${inch[i]})` : unit === 'cm' ? cm[i] : inch[i]!;
  };
  const lines = table.rows.flatMap((row, n) => {
    const told = table.measures.flatMap((measure, i) => {
      const text = cell(row, i);
      return text === null ? [] : [`${measure} ${text}`];
    });
    return told.length > 0 && isSold(option.values[n]!.code) ? [`${row.size}: ${told.join('; ')}`] : [];
  });
  return lines.length > 0 ? [`Sizes, ${UNIT_WORDS[unit]}`, ...lines].join('\n') : null;
}
