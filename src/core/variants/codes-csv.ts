import { Headings } from '../catalog/csv-headings';
import type { CsvFault } from '../catalog/price-csv';
import { isTypicaError } from '../errors';
import { parseGtin } from './gtin';
import { MAX_SKU } from './sku';

/** Columns of the codes of a product's variants; `variant` or `sku` says which, `gtin` and `new sku` what it gets. */
export const CODE_COLUMNS = ['variant', 'sku', 'name', 'gtin', 'new sku'] as const;

const NEEDED = [
  { oneOf: ['variant', 'sku'], says: 'A column that says which variant it is is missing: variant or sku.' },
  { oneOf: ['gtin', 'new sku'], says: 'A column with what is new is missing: gtin or new sku.' },
];

export interface CodeChange {
  readonly line: number;
  readonly variantKey: string;
  readonly gtin?: string;
  readonly sku?: string;
}

/** What of a variant is known before a file is read. */
export interface KnownCode {
  readonly variantKey: string;
  readonly sku: string;
  readonly gtin: string | null;
  /** A shop has seen the SKU: it stays. */
  readonly sent: boolean;
}

/** Reads codes row by row; the first row is the headings. */
export class CodeReader {
  readonly changes: CodeChange[] = [];
  readonly faults: CsvFault[] = [];
  same = 0;
  private headings: Headings | null = null;
  private readonly gtins = new Map<string, number>();

  private readonly byKey: ReadonlyMap<string, KnownCode>;
  private readonly bySku = new Map<string, KnownCode>();
  /** Lines on which variants were. */
  private readonly seen = new Map<string, number>();

  constructor(known: readonly KnownCode[]) {
    this.byKey = new Map(known.map((one) => [one.variantKey, one]));
    for (const one of known) if (!this.bySku.has(one.sku)) this.bySku.set(one.sku, one);
  }

  row(fields: readonly string[], line: number): void {
    const faultsBefore = this.faults.length;
    const fault = (column: string | null, code: string, says: string) => {
      this.faults.push({ line, column, code, says });
    };
    if (!this.headings) {
      this.headings = Headings.read(fields, line, NEEDED, this.faults);
      return;
    }
    const { headings } = this;
    const at = (name: string) => headings.at(fields, name);
    const [key, sku] = [at('variant'), at('sku')];
    const own = key !== '' ? this.byKey.get(key) : this.bySku.get(sku);
    if (!own)
      return fault(
        key !== '' ? 'variant' : 'sku',
        'csv-variant-unknown',
        `“${key || sku}” is not a chosen variant of this product.`,
      );
    const change: { line: number; variantKey: string; gtin?: string; sku?: string } = {
      line,
      variantKey: own.variantKey,
    };
    const typed = at('gtin');
    if (typed !== '')
      try {
        const gtin = parseGtin(typed);
        const twice = this.gtins.get(gtin);
        if (twice !== undefined)
          fault('gtin', 'csv-gtin-twice', `${gtin} is on line ${twice} already; each variant has its own.`);
        else if (gtin !== own.gtin) change.gtin = gtin;
        this.gtins.set(gtin, line);
      } catch (error) {
        if (!isTypicaError(error)) throw error;
        fault('gtin', error.code, error.message);
      }
    const next = at('new sku');
    if (next !== '' && next !== own.sku) {
      if (own.sent) fault('new sku', 'sku-sent', `${own.sku} was sent to a shop already and stays.`);
      else if (next.length > MAX_SKU)
        fault('new sku', 'csv-sku-long', `The SKU has ${next.length} characters; ${MAX_SKU} is the most.`);
      else if (/\p{Cc}/u.test(next)) fault('new sku', 'csv-sku-sign', 'The SKU holds a control character.');
      else change.sku = next;
    }
    const before = this.seen.get(own.variantKey);
    this.seen.set(own.variantKey, line);
    if (before !== undefined && this.faults.length === faultsBefore)
      return fault('variant', 'csv-variant-twice', `This variant is on line ${before} already.`);
    if (change.gtin !== undefined || change.sku !== undefined) this.changes.push(change);
    else this.same += 1;
  }
}
