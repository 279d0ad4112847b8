import { lossesAt, type Loss, type TermsTo } from './floor';
import { PPM } from './money';
import { itemsPaidMinor, type Terms } from './quote';
import { deepestSale, largestVoucherMinor, type SaleTerms } from './sale';

/** What a discount code takes off: a share of each item, or a sum once off an order. */
export type CodeOff =
  { readonly kind: 'share'; readonly ppm: number } | { readonly kind: 'sum'; readonly amountMinor: number };

const CODE = /^[A-Z0-9][A-Z0-9-]{2,23}$/;
/** What buyers type: 3 to 24 capital letters, digits and hyphens. */
export const isCode = (text: unknown): text is string => typeof text === 'string' && CODE.test(text);

/** Faults of a code and of what it takes off, as sentences. */
export function checkCode(code: string, terms: SaleTerms): string[] {
  const faults: string[] = [];
  if (!isCode(code))
    faults.push('A code has 3 to 24 capital letters, digits and hyphens, and begins with a letter or digit.');
  if (terms.kind === 'price') faults.push('A code takes off a share or a sum; it has no price of its own.');
  return faults;
}

/** Terms of an order that is paid with a code. */
export const withCode = (terms: Terms, off: CodeOff): Terms =>
  off.kind === 'share' ? { ...terms, salePpm: off.ppm } : { ...terms, voucherMinor: off.amountMinor };

/** What a code does to a price, on an order of one item. Minor units of the outlet's currency. */
export interface CodeEffect {
  /** What the buyer pays for the item. */
  readonly paidMinor: number;
  /** Destinations to which money is lost with the code. */
  readonly losses: readonly Loss[];
}

export function codeEffect(to: readonly TermsTo[], priceMinor: number, off: CodeOff): CodeEffect {
  const withIt = new Map([...new Set(to.map(({ terms }) => terms))].map((terms) => [terms, withCode(terms, off)]));
  const then = to.map((one) => ({ ...one, terms: withIt.get(one.terms)! }));
  return { paidMinor: itemsPaidMinor(then[0]!.terms, priceMinor), losses: lossesAt(then, priceMinor) };
}

const NOTHING_LOST = { kind: 'profit', amountMinor: 0 } as const;

/** The deepest code that still pays on every price that was looked at, to every destination. */
export interface DeepestCode {
  /** Share, parts per million in tenths of a percent; null where a price loses money without a code already. */
  readonly sharePpm: number | null;
  /** Sum off an order of one item, minor units. */
  readonly sumMinor: number | null;
}

/** Finds the deepest code over many prices, one after the other: each can only make it shallower. */
export class DeepestCodeFinder {
  private share: number | null = PPM;
  private sum: number | null = Number.POSITIVE_INFINITY;
  private looked = false;

  look(to: readonly TermsTo[], priceMinor: number): void {
    this.looked = true;
    const orders = [...new Set(to.map(({ terms }) => terms))];
    if (this.share !== null) this.share = deepestSale(orders, priceMinor, NOTHING_LOST, this.share)?.salePpm ?? null;
    if (this.sum === null) return;
    const sum = largestVoucherMinor(orders, priceMinor, NOTHING_LOST);
    this.sum = sum === null ? null : Math.min(this.sum, sum);
  }

  /** Null where nothing was looked at. */
  found(): DeepestCode | null {
    return this.looked ? { sharePpm: this.share, sumMinor: this.sum } : null;
  }
}
