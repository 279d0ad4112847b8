import { CsvTable } from '../csv/table';
import type { CsvFault } from '../csv/fault';
import { safeLine } from '../csv/safe';
import { invalid, isTypicaError } from '../errors';
import { MAX_RETAIL_MINOR, formatAmount, money, parseAmountMinor, parsePercentPpm, PPM } from './money';
import type { PricedVariant } from './pricer';
import { type Aim } from './solve';

/** Columns of a product's prices as CSV. `store` is empty for all stores; of the last four at most one is read: what is fixed. */
export const SHEET_COLUMNS = [
  'variant',
  'sku',
  'name',
  'store',
  'currency',
  'cost',
  'left',
  'price',
  'profit',
  'margin',
  'markup',
] as const;
const FIXED = ['price', 'profit', 'margin', 'markup'] as const;
const NEEDED = [
  { oneOf: ['variant', 'sku'], says: 'A column that says which variant it is is missing: variant or sku.' },
  { oneOf: FIXED, says: `A column with what is to hold is missing: ${FIXED.join(', ')}.` },
];

/** Where prices are set: for all stores (`id` null), or for one. */
export interface SheetOutlet {
  readonly id: string | null;
  readonly name: string;
  readonly currency: string;
}

/** One line of what a file changes. */
export interface SheetChange {
  readonly line: number;
  readonly variantKey: string;
  readonly storeId: string | null;
  readonly was: Aim;
  readonly now: Aim;
}

/** What of a variant is known before a file is read. */
export interface SheetKnown {
  readonly variantKey: string;
  readonly sku: string;
  readonly storeId: string | null;
  readonly aim: Aim;
  /** The price as it is; null where it cannot be solved. */
  readonly retailMinor: number | null;
}

const nameOf = (storeId: string | null, kind: 'key' | 'sku', name: string): string =>
  `${storeId ?? ''}\n${kind}\n${name}`;

const percent = (ppm: number): string => String(ppm / 10_000);

/** A variant that no price meets, with what is fixed for it. */
export interface Unpriced {
  readonly key: string;
  readonly aim: Aim;
}

/** Prices of one outlet as lines: the price, and beside it what is fixed; those that no price meets with what is fixed alone, so that the file can mend it. */
export function sheetLines(
  { priced, unpriced }: { readonly priced: readonly PricedVariant[]; readonly unpriced: readonly Unpriced[] },
  outlet: SheetOutlet,
  about: (key: string) => { readonly sku: string; readonly name: string },
): string {
  const amount = (minor: number) => formatAmount(money(minor, outlet.currency)).replace('−', '-');
  const line = (key: string, aim: Aim, cost: string, left: string): string =>
    safeLine([
      key,
      about(key).sku,
      about(key).name,
      outlet.id === null ? '' : outlet.name,
      outlet.currency,
      cost,
      left,
      aim.kind === 'retail' ? amount(aim.amountMinor) : '',
      aim.kind === 'profit' ? amount(aim.amountMinor) : '',
      aim.kind === 'margin' ? percent(aim.ppm) : '',
      aim.kind === 'markup' ? percent(aim.ppm) : '',
    ]);
  return [
    ...priced.map(({ key, aim, quote, terms }) =>
      line(key, aim, amount(terms.landed.totalMinor), amount(quote.profitMinor)),
    ),
    ...unpriced.map(({ key, aim }) => line(key, aim, '', '')),
  ].join('');
}

/** Reads such a file row by row; the first row is the headings. Nothing is changed: `changes` says what would be. */
export class SheetReader {
  readonly changes: SheetChange[] = [];
  readonly faults: CsvFault[] = [];
  /** Rows that say what is so already. */
  same = 0;
  private readonly table = new CsvTable(NEEDED, this.faults);
  private readonly seen = new Map<string, number>();

  /** What is known, by outlet and variant or SKU; the first of those that share an SKU. */
  private readonly byName = new Map<string, SheetKnown>();

  constructor(
    known: readonly SheetKnown[],
    private readonly outlets: readonly SheetOutlet[],
  ) {
    for (const one of known) {
      const [key, sku] = [nameOf(one.storeId, 'key', one.variantKey), nameOf(one.storeId, 'sku', one.sku)];
      this.byName.set(key, one);
      if (!this.byName.has(sku)) this.byName.set(sku, one);
    }
  }

  row(fields: readonly string[], line: number): void {
    const fault = (column: string | null, code: string, says: string) => {
      this.faults.push({ line, column, code, says });
    };
    const row = this.table.row(fields, line);
    if (!row) return;
    const at = (name: string) => row.at(name);
    const storeName = at('store');
    const outlet = this.outlets.find((one) =>
      storeName === '' ? one.id === null : one.id === storeName || one.name.toLowerCase() === storeName.toLowerCase(),
    );
    if (!outlet)
      return fault(
        'store',
        'csv-store-unknown',
        `There is no store “${storeName}”; there are ${this.outlets.map((one) => (one.id ? one.name : '(empty, for all)')).join(', ')}.`,
      );
    const currency = at('currency');
    if (currency !== '' && currency.toUpperCase() !== outlet.currency)
      return fault(
        'currency',
        'csv-currency',
        `Prices ${outlet.id ? `in ${outlet.name}` : 'for all stores'} are in ${outlet.currency}, not ${currency}.`,
      );
    const [key, sku] = [at('variant'), at('sku')];
    const own = this.byName.get(nameOf(outlet.id, key !== '' ? 'key' : 'sku', key !== '' ? key : sku));
    if (!own)
      return fault(
        key !== '' ? 'variant' : 'sku',
        'csv-variant-unknown',
        `“${key || sku}” is not a chosen variant of this product.`,
      );
    const id = `${outlet.id ?? ''}/${own.variantKey}`;
    if (this.seen.has(id))
      return fault('variant', 'csv-variant-twice', `This variant is on line ${this.seen.get(id)} already.`);
    this.seen.set(id, line);
    const given = FIXED.filter((name) => at(name) !== '');
    if (given.length === 0) {
      this.same += 1;
      return;
    }
    if (given.length > 1)
      return fault(given[1]!, 'csv-fixed-twice', `Only one of ${given.join(' and ')} can hold; empty the others.`);
    const name = given[0]!;
    try {
      const now = readAim(name, at(name), outlet.currency);
      if (now.kind === 'retail' && own.aim.kind !== 'retail' && own.retailMinor === now.amountMinor) this.same += 1;
      else if (JSON.stringify(now) === JSON.stringify(own.aim)) this.same += 1;
      else this.changes.push({ line, variantKey: own.variantKey, storeId: outlet.id, was: own.aim, now });
    } catch (error) {
      if (!isTypicaError(error)) throw error;
      fault(name, error.code, error.message);
    }
  }
}

/** What is typed for a price, a profit, a margin or a markup. Throws a sentence for what cannot hold. */
export function readAim(kind: 'price' | 'profit' | 'margin' | 'markup', typed: string, currency: string): Aim {
  if (kind === 'price' || kind === 'profit') {
    const amountMinor = parseAmountMinor(typed, currency);
    if (kind === 'price' && amountMinor <= 0) throw invalidAim(`A price must be above zero; “${typed.trim()}” is not.`);
    if (Math.abs(amountMinor) > MAX_RETAIL_MINOR)
      throw invalidAim(
        `“${typed.trim()}” is more than any price here: ${formatAmount(money(MAX_RETAIL_MINOR, currency))} ${currency} is the most.`,
      );
    return { kind: kind === 'price' ? 'retail' : 'profit', amountMinor };
  }
  const ppm = parsePercentPpm(typed);
  if (kind === 'margin' && ppm >= PPM)
    throw invalidAim(
      `A margin of ${typed.trim()} cannot be reached: it is the share of the price that is left, so it lies below 100 %. A markup can be more.`,
    );
  if (kind === 'margin' && ppm < -10 * PPM)
    throw invalidAim(`A margin must be from −1000 % to below 100 %; “${typed.trim()}” is not.`);
  if (kind === 'markup' && (ppm < -PPM || ppm > 100 * PPM))
    throw invalidAim(`A markup must be from −100 % to 10,000 %; “${typed.trim()}” is not.`);
  return { kind, ppm };
}

const invalidAim = (says: string) => invalid('aim-impossible', says);
