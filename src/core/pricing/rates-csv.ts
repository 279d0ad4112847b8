import { CsvTable } from '../csv/table';
import type { CsvFault } from '../csv/fault';
import { isDay } from './days';
import { isCurrency } from './money';
import type { ExchangeRate } from './rates';

/** Columns of a file of exchange rates: one unit of `from` is `rate` units of `to` on `date`. */
export const RATE_COLUMNS = ['from', 'to', 'rate', 'date'] as const;
const NEEDED = RATE_COLUMNS.map((name) => ({ oneOf: [name], says: `The column “${name}” is missing.` }));

/** A rate that is so many times what is known of the pair, or less than that part of it, is taken for a slip of the decimal point. */
export const ABSURD_RATE = 2;

export interface RateFault {
  readonly column: string;
  readonly code: 'csv-rate' | 'rate-jump';
  readonly says: string;
}

/** What a new rate is held against: the day, the rate that holds of a pair (null: none does), and whether a jump was confirmed. */
export interface RateChecks {
  /** YYYY-MM-DD: a rate of tomorrow is a mistake. */
  readonly today: string;
  readonly known: (from: string, to: string) => number | null;
  readonly sure?: boolean;
}

/** Why a rate cannot be kept, or null. */
export function rateFault({ from, to, rate, date }: ExchangeRate, checks: RateChecks): RateFault | null {
  const fault = (column: string, says: string): RateFault => ({ column, code: 'csv-rate', says });
  for (const [column, currency] of [
    ['from', from],
    ['to', to],
  ] as const)
    if (!isCurrency(currency))
      return fault(column, `“${currency}” is not a currency’s code; it has three letters, such as USD.`);
  if (from === to) return fault('to', `${from} to ${to} is always 1.`);
  if (!/^\d{1,9}(\.\d{1,10})?$/.test(rate) || Number(rate) <= 0)
    return fault('rate', `“${rate}” is not a rate: a number above zero with a point, such as 1.2744.`);
  if (!isDay(date)) return fault('date', `“${date}” is not a day; write it as 2026-11-28.`);
  if (date > checks.today) return fault('date', `${date} lies in the future.`);
  const known = checks.sure ? null : checks.known(from, to);
  const times = known === null ? 1 : Number(rate) / known;
  return times > ABSURD_RATE || times < 1 / ABSURD_RATE
    ? {
        column: 'rate',
        code: 'rate-jump',
        says: `${rate} is far from the rate that holds of ${from} to ${to}, ${Number(known!.toPrecision(6))}. If it is right, say that you are sure.`,
      }
    : null;
}

/** Reads such a file row by row; the first row is the headings. */
export class RateReader {
  readonly rates: ExchangeRate[] = [];
  readonly faults: CsvFault[] = [];
  private readonly table = new CsvTable(NEEDED, this.faults);
  /** Rates of the file by pair and day, in either direction. */
  private readonly seen = new Map<string, number>();

  constructor(private readonly checks: RateChecks) {}

  row(fields: readonly string[], line: number): void {
    const row = this.table.row(fields, line);
    if (!row) return;
    const [from, to] = [row.at('from').toUpperCase(), row.at('to').toUpperCase()];
    // A decimal comma can mean one thing only, unless three digits follow it.
    const rate = row.at('rate').replace(/^(\d+),(\d{1,2}|\d{4,10})$/, '$1.$2');
    const read = { from, to, rate, date: row.at('date') };
    const fault = rateFault(read, this.checks) ?? this.contradiction(read, line);
    if (fault) this.faults.push({ line, column: fault.column, code: fault.code, says: fault.says });
    else this.rates.push(read);
  }

  /** Two lines of one pair and day: the second is a fault, in whichever direction it is written. */
  private contradiction({ from, to, date }: ExchangeRate, line: number): RateFault | null {
    const pair = `${[from, to].sort().join('')}${date}`;
    const before = this.seen.get(pair);
    if (before !== undefined)
      return { column: 'from', code: 'csv-rate', says: `This pair is on line ${before} already, for the same day.` };
    this.seen.set(pair, line);
    return null;
  }
}
