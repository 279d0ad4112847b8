import { CsvTable } from '../csv/table';
import type { CsvFault } from '../csv/fault';
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
  private readonly table = new CsvTable(NEEDED, this.faults);
  private readonly gtins = new Map<string, number>();

  private readonly byKey: ReadonlyMap<string, KnownCode>;
  private readonly bySku = new Map<string, KnownCode>();
  /** Lines on which variants were. */
  private readonly seen = new Map<string, number>();

  constructor(private readonly known: readonly KnownCode[]) {
    this.byKey = new Map(known.map((one) => [one.variantKey, one]));
    for (const one of known) if (!this.bySku.has(one.sku)) this.bySku.set(one.sku, one);
  }

  row(fields: readonly string[], line: number): void {
    const faultsBefore = this.faults.length;
    const fault = (column: string | null, code: string, says: string) => {
      this.faults.push({ line, column, code, says });
    };
    const row = this.table.row(fields, line);
    if (!row) return;
    const at = (name: string) => row.at(name);
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
      else if (/[\p{Cc}\p{Zl}\p{Zp}]/u.test(next))
        fault('new sku', 'csv-sku-sign', 'The SKU holds a tab, a line break or another control character.');
      else change.sku = next;
    }
    const before = this.seen.get(own.variantKey);
    this.seen.set(own.variantKey, line);
    if (before !== undefined && this.faults.length === faultsBefore)
      return fault('variant', 'csv-variant-twice', `This variant is on line ${before} already.`);
    if (change.gtin !== undefined || change.sku !== undefined) this.changes.push(change);
    else this.same += 1;
  }

  /** After the last row: what the file gives to a variant must not be another's, with the file or without it. */
  end(): void {
    const changes = new Map(this.changes.map((change) => [change.variantKey, change]));
    for (const [name, column, word] of [
      ['gtin', 'gtin', 'GTIN'],
      ['sku', 'new sku', 'SKU'],
    ] as const) {
      const holders = new Map<string, string>();
      // Those that the file leaves as they are come first, so that the line that takes their code is the one that is wrong.
      const all = this.known.toSorted((a, b) => lineOf(changes, a.variantKey) - lineOf(changes, b.variantKey));
      for (const { variantKey, ...now } of all) {
        const change = changes.get(variantKey);
        const code = change?.[name] ?? now[name];
        if (code === null || code === '') continue;
        const holder = holders.get(code);
        if (holder !== undefined && change?.[name] !== undefined)
          this.faults.push({
            line: change.line,
            column,
            code: `csv-${name}-taken`,
            says: `The ${word} ${code} is that of ${holder}; each variant has its own.`,
          });
        else holders.set(code, variantKey);
      }
    }
  }
}

const lineOf = (changes: ReadonlyMap<string, CodeChange>, key: string): number => changes.get(key)?.line ?? 0;
