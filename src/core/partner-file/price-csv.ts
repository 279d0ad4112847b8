import type { CsvFault } from '../csv/fault';
import { isCurrency, minorDigits } from '../pricing/money';

/**
 * A partner's price list as CSV (RFC 4180, UTF-8, commas): one row for each variant, the first row names the columns. `sku`, `cost` and
 * `currency` are needed; the others may be left out. `blank` and `variant` are for people and are not read.
 */
export const PRICE_COLUMNS = ['sku', 'blank', 'variant', 'cost', 'currency', 'stock', 'ended'] as const;
export type PriceColumn = (typeof PRICE_COLUMNS)[number];
const NEEDED: readonly PriceColumn[] = ['sku', 'cost', 'currency'];

/** A cost that changes by more than this factor is taken for a slip of the decimal point. */
export const ABSURD_FACTOR = 10;
/** No base cost of a printed good is higher: a hundred thousand units of any currency with two decimals. */
export const MAX_COST_MINOR = 10_000_000;
/** No stock is higher. */
export const MAX_STOCK = 10_000_000;

/** Where each column is in the rows of one file. */
export type PriceHeader = { readonly [column in PriceColumn]?: number };

/** Reads the row of headings. Faults name missing, unknown and doubled columns, and semicolons or tabs in place of commas. */
export function readPriceHeader(fields: readonly string[]): { header: PriceHeader; faults: CsvFault[] } {
  const fault = (column: string | null, code: string, says: string): CsvFault => ({ line: 1, column, code, says });
  const only = fields.length === 1 ? fields[0]! : '';
  for (const [sign, word] of [
    [';', 'semicolons'],
    ['\t', 'tabs'],
  ] as const)
    if (only.includes(sign))
      return {
        header: {},
        faults: [
          fault(
            null,
            'csv-separator',
            `The columns are separated by ${word}. Save the file again as CSV with commas; amounts then have a point, as in 7.40.`,
          ),
        ],
      };
  const header: { [column in PriceColumn]?: number } = {};
  const faults: CsvFault[] = [];
  for (const [index, field] of fields.entries()) {
    const name = field.trim().toLowerCase();
    if (!(PRICE_COLUMNS as readonly string[]).includes(name)) {
      faults.push(
        fault(
          field,
          'csv-column-unknown',
          `“${field}” is no column of a price list; there are ${PRICE_COLUMNS.join(', ')}.`,
        ),
      );
      continue;
    }
    const column = name as PriceColumn;
    if (header[column] !== undefined)
      faults.push(fault(column, 'csv-column-twice', `The column “${column}” is there twice.`));
    header[column] = index;
  }
  for (const column of NEEDED)
    if (header[column] === undefined)
      faults.push(fault(column, 'csv-column-missing', `The column “${column}” is missing.`));
  return { header, faults };
}

/** The partner's variants as they stand, by index: there can be hundreds of thousands. */
export interface PricedVariants {
  readonly count: number;
  /** Index of the variant with this SKU, or -1. */
  readonly find: (sku: string) => number;
  /** Cost in force by index, minor units; -1 for none. */
  readonly costMinor: Int32Array;
}

export interface PriceRow {
  readonly costMinor: number;
  /** Null: not said. */
  readonly stock: number | null;
  readonly ended: boolean;
}

const shown = (text: string) => (text.length > 40 ? `${text.slice(0, 40)} …` : text);

/** Decimal text with a point as minor units, or a reason why it cannot be one. Quick: it runs for each of some hundred thousand rows. */
function readCost(text: string, digits: number): number | string {
  const match = /^(-?)(\d{1,9})(?:\.(\d+))?$/.exec(text);
  if (!match) {
    if (/^-?\d{1,9},\d+$/.test(text)) return `“${text}” has a decimal comma; write a point, as in 7.40`;
    return text === '' ? 'there is no cost' : `“${shown(text)}” is not an amount such as 7.40`;
  }
  const decimals = match[3] ?? '';
  if (decimals.length > digits) return `“${text}” has ${decimals.length} decimals; the currency has ${digits}`;
  const amount = Number(match[2]) * 10 ** digits + (digits > 0 ? Number(decimals.padEnd(digits, '0')) : 0);
  if (match[1] === '-' && amount > 0) return `“${text}” is below zero`;
  return amount;
}

const YES = new Set(['yes', 'true', '1']);
const NO = new Set(['', 'no', 'false', '0']);

/** Checks the rows of one file, one after the other; it remembers which variants it has seen. */
export class PriceChecker {
  /** Line of each variant by index, 0 for none. */
  private readonly lineOf: Int32Array;
  private readonly digits: number;

  constructor(
    private readonly header: PriceHeader,
    private readonly columnCount: number,
    private readonly currency: string,
    private readonly variants: PricedVariants,
    private readonly partnerName: string,
  ) {
    this.digits = minorDigits(currency);
    this.lineOf = new Int32Array(variants.count);
  }

  /** The row, or all that is wrong with it. */
  check(fields: readonly string[], line: number): { index: number; row: PriceRow } | CsvFault[] {
    const faults: CsvFault[] = [];
    const fault = (column: PriceColumn | null, code: string, says: string) => {
      faults.push({ line, column, code, says });
    };
    if (fields.length !== this.columnCount) {
      fault(
        null,
        'csv-fields',
        `The line has ${fields.length} ${fields.length === 1 ? 'field' : 'fields'} where the headings have ${this.columnCount}; a comma in a field needs quotes around it.`,
      );
      return faults;
    }
    const at = (column: PriceColumn) => {
      const index = this.header[column];
      return index === undefined ? '' : fields[index]!.trim();
    };
    const sku = at('sku');
    const index = sku === '' ? -1 : this.variants.find(sku);
    if (sku === '') fault('sku', 'csv-sku-empty', 'There is no SKU.');
    else if (index < 0) fault('sku', 'csv-sku-unknown', `“${shown(sku)}” is no SKU of ${this.partnerName}.`);
    else if (this.lineOf[index]! > 0)
      fault('sku', 'csv-sku-twice', `“${shown(sku)}” is on line ${this.lineOf[index]} already.`);
    else this.lineOf[index] = line;
    const until = index < 0 ? -1 : this.variants.costMinor[index]!;
    const currency = at('currency');
    if (currency !== this.currency) {
      if (!/^[A-Z]{3}$/.test(currency))
        fault('currency', 'csv-currency', `“${shown(currency)}” is no currency code such as ${this.currency}.`);
      else if (!isCurrency(currency))
        fault(
          'currency',
          'csv-currency',
          `“${currency}” is not a currency of ISO 4217; ${this.partnerName} charges in ${this.currency}.`,
        );
      else
        fault(
          'currency',
          'csv-currency',
          `“${currency}” is not what ${this.partnerName} charges in, which is ${this.currency}.`,
        );
    }
    let costMinor = 0;
    const cost = readCost(at('cost'), this.digits);
    if (typeof cost === 'string') fault('cost', 'csv-cost', `${cost[0]!.toUpperCase()}${cost.slice(1)}.`);
    else {
      costMinor = cost;
      if (cost === 0) fault('cost', 'csv-cost', 'A cost of zero cannot be right.');
      else if (cost > MAX_COST_MINOR) fault('cost', 'csv-cost-absurd', `“${at('cost')}” is more than any blank costs.`);
      else if (until > 0 && (cost > until * ABSURD_FACTOR || cost * ABSURD_FACTOR < until))
        fault(
          'cost',
          'csv-cost-absurd',
          `“${at('cost')}” is ${cost > until ? 'more than ten times' : 'less than a tenth of'} the cost until now; is the decimal point in its place?`,
        );
    }
    let stock: number | null = null;
    const stockText = at('stock');
    if (stockText !== '') {
      if (/^\d{1,9}$/.test(stockText) && Number(stockText) <= MAX_STOCK) stock = Number(stockText);
      else fault('stock', 'csv-stock', `“${shown(stockText)}” is not a whole number from 0 to ${MAX_STOCK}.`);
    }
    const endedText = at('ended').toLowerCase();
    const ended = YES.has(endedText);
    if (!ended && !NO.has(endedText)) fault('ended', 'csv-ended', `“${shown(endedText)}” is neither yes nor no.`);
    return faults.length > 0 ? faults : { index, row: { costMinor, stock, ended } };
  }
}

/** Faults of the same kind in the same column, with the first of them in full. */
export interface FaultGroup {
  readonly column: string | null;
  readonly code: string;
  readonly count: number;
  /** Lines in order, at most `KEPT_LINES`. */
  readonly lines: readonly number[];
  /** The faults in full, at most `KEPT_FAULTS` of a group. */
  readonly faults: readonly CsvFault[];
}

const KEPT_FAULTS = 200;
const KEPT_LINES = 2000;

/** Collects faults by kind, so that a file with 300,000 faults of one kind is told in a line and not in 300,000. */
export class FaultBook {
  private readonly groups = new Map<string, { count: number; lines: number[]; faults: CsvFault[] }>();
  count = 0;

  add(faults: readonly CsvFault[]): void {
    for (const fault of faults) {
      this.count += 1;
      const key = `${fault.column}/${fault.code}`;
      let group = this.groups.get(key);
      if (!group) this.groups.set(key, (group = { count: 0, lines: [], faults: [] }));
      group.count += 1;
      if (group.lines.length < KEPT_LINES) group.lines.push(fault.line);
      if (group.faults.length < KEPT_FAULTS) group.faults.push(fault);
    }
  }

  /** By the first line in which each occurs. */
  list(): FaultGroup[] {
    return [...this.groups.values()]
      .map(({ count, lines, faults }) => ({
        column: faults[0]!.column,
        code: faults[0]!.code,
        count,
        lines,
        faults,
      }))
      .sort((a, b) => a.lines[0]! - b.lines[0]!);
  }
}

/** One field of RFC 4180: in quotes where it holds a comma, a quote or a line break. */
export const csvField = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** One line of RFC 4180 with its CRLF. */
export const csvLine = (fields: readonly string[]): string => `${fields.map(csvField).join(',')}\r\n`;
