import { CsvTable } from '../csv/table';
import type { CsvFault } from '../csv/fault';
import { isTypicaError } from '../errors';
import { parseAmountMinor } from '../pricing/money';
import type { SoldItem } from './match';
import { MAX_SKU } from './sku';

/** Columns of a list of what is sold already, beside `sku`; at least one of these has to say what it is. */
const WORDS = ['title', 'color', 'size', 'variant'] as const;
const NEEDED = [
  { oneOf: ['sku'], says: 'The column “sku” is missing.' },
  { oneOf: WORDS, says: `A column that says what each SKU is is missing: ${WORDS.join(', ')}.` },
];
export const MAX_SOLD = 2000;
/** Characters of what is said of one item. */
const MAX_WORDS = 600;

/** Reads rows of such a list; the first is the headings. Other columns are passed over: shops export many. */
export class SoldReader {
  readonly items: SoldItem[] = [];
  readonly faults: CsvFault[] = [];
  private readonly table = new CsvTable(NEEDED, this.faults);
  private readonly lineOf = new Map<string, number>();

  constructor(private readonly currency: string) {}

  row(fields: readonly string[], line: number): void {
    const fault = (column: string | null, code: string, says: string) => {
      this.faults.push({ line, column, code, says });
    };
    const row = this.table.row(fields, line);
    if (!row) return;
    const at = (name: string) => row.at(name);
    const sku = at('sku');
    if (this.items.length >= MAX_SOLD) {
      if (this.items.length === MAX_SOLD && this.faults.at(-1)?.code !== 'csv-too-long')
        fault(
          null,
          'csv-too-long',
          `The list has more than ${MAX_SOLD} rows; one product cannot have so many variants.`,
        );
      return;
    }
    if (sku === '') fault('sku', 'csv-sku-empty', 'There is no SKU.');
    else if (sku.length > MAX_SKU)
      fault('sku', 'csv-sku-long', `The SKU has ${sku.length} characters; ${MAX_SKU} is the most.`);
    else if (this.lineOf.has(sku))
      fault('sku', 'csv-sku-twice', `“${sku}” is on line ${this.lineOf.get(sku)} already.`);
    this.lineOf.set(sku, line);
    let priceMinor: number | null = null;
    const price = at('price');
    if (price !== '')
      try {
        priceMinor = parseAmountMinor(price, this.currency);
        if (priceMinor <= 0) fault('price', 'csv-price', `“${price}” is not above zero.`);
      } catch (error) {
        if (!isTypicaError(error)) throw error;
        fault('price', 'csv-price', error.message);
      }
    const text = WORDS.map(at).filter(Boolean).join(' ');
    if (text.length > MAX_WORDS)
      return fault(null, 'csv-words-long', `What it is takes ${text.length} characters; ${MAX_WORDS} are the most.`);
    this.items.push({ line, sku, text, priceMinor });
  }
}
