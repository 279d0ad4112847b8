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
