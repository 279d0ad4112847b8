import { Headings } from '../catalog/csv-headings';
import type { CsvFault } from '../catalog/price-csv';
import { isTypicaError } from '../errors';
import { minorDigits } from './money';
import type { ExchangeRate } from './rates';

/** Columns of a file of exchange rates: one unit of `from` is `rate` units of `to` on `date`. */
export const RATE_COLUMNS = ['from', 'to', 'rate', 'date'] as const;
const NEEDED = RATE_COLUMNS.map((name) => ({ oneOf: [name], says: `The column "${name}" is missing.` }));

/** Whether such a day is in the calendar: Date.parse takes 30 February for 2 March. */
const isDay = (date: string): boolean => {
  const at = new Date(`${date}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(date);
};

/** Why a rate cannot be kept, or null. `today` as YYYY-MM-DD: a rate of tomorrow is a mistake. */
export function rateFault(
  { from, to, rate, date }: ExchangeRate,
  today: string,
): { column: string; says: string } | null {
  for (const [column, currency] of [
    ['from', from],
    ['to', to],
  ] as const)
    try {
      minorDigits(currency);
    } catch (error) {
      if (!isTypicaError(error)) throw error;
      return { column, says: error.message };
    }
  if (from === to) return { column: 'to', says: `${from} to ${to} is always 1.` };
  if (!/^\d{1,9}(\.\d{1,10})?$/.test(rate) || Number(rate) <= 0)
    return { column: 'rate', says: `“${rate}” is not a rate: a number above zero with a point, such as 1.2744.` };
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || !isDay(date))
    return { column: 'date', says: `“${date}” is not a day; write it as 2026-11-28.` };
  if (date > today) return { column: 'date', says: `${date} lies in the future.` };
  return null;
}

/** Reads such a file row by row; the first row is the headings. */
export class RateReader {
  readonly rates: ExchangeRate[] = [];
  readonly faults: CsvFault[] = [];
  private headings: Headings | null = null;

  constructor(private readonly today: string) {}

  row(fields: readonly string[], line: number): void {
    if (!this.headings) {
      this.headings = Headings.read(fields, line, NEEDED, this.faults);
      return;
    }
    const { headings } = this;
    const at = (name: string) => headings.at(fields, name);
    const rate = { from: at('from').toUpperCase(), to: at('to').toUpperCase(), rate: at('rate'), date: at('date') };
    const fault = rateFault(rate, this.today);
    if (fault) this.faults.push({ line, column: fault.column, code: 'csv-rate', says: fault.says });
    else this.rates.push(rate);
  }
}
