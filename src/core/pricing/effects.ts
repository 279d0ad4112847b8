import type { ProductDocument } from '../document/document';
import { isTypicaError } from '../errors';
import { ownEntry } from '../own-entry';
import type { TermsTo } from './floor';
import { baseCostOf, ordersMaker } from './terms';
import { goalsOf, pricer, worstAt } from './pricer';
import type { PricingWorld } from './plan';
import { profitMinor, quote, type Quote } from './quote';
import { allMeet, type Aim } from './solve';

/** What a new price list does to one variant at one price. */
export interface VariantEffect {
  readonly key: string;
  readonly retailMinor: number;
  /** The destination that is looked at: the one that loses most, or where the aim is met. */
  readonly country: string;
  readonly before: Quote;
  readonly after: Quote;
  readonly aim: Aim;
  /** Whether the price follows that of the base: then nobody typed it. */
  readonly follows: boolean;
  /** `loss`: sold below cost; `under`: less than the seller's aim, which it met before. */
  readonly verdict: 'loss' | 'under';
}

/** A destination that loses more after than before: the one that loses most; null where none does. */
function lossTo(then: readonly TermsTo[], now: readonly TermsTo[], retailMinor: number): TermsTo | null {
  const worst = now.filter(({ country, terms }) => {
    const left = profitMinor(terms, retailMinor);
    const before = then.find((one) => one.country === country);
    return left < 0 && (!before || profitMinor(before.terms, retailMinor) > left);
  });
  return worst.length > 0 ? worstAt(worst, retailMinor) : null;
}

/**
 * The chosen variants of a product that lose money to any destination or fall under the seller's aim once costs change from `before` to `after`,
 * at the prices that buyers pay: those in the shop, where there is a shop (`shopPriceMinor`), else those of the product as they were before.
 * A price here that follows its cost does not change what a listing in a shop still takes. A variant that lost money before and loses
 * no more is not an effect. Variants without a cost on either side are left out, and so are those that end;
 * where an exchange rate is missing, nobody can say, and `onUnknown` is told.
 */
export function priceEffects(
  doc: ProductDocument,
  before: PricingWorld,
  after: PricingWorld,
  shopPriceMinor: { readonly [variantKey: string]: number } | null,
  onUnknown: (key: string, says: string) => void = () => {},
): VariantEffect[] {
  const effects: VariantEffect[] = [];
  const ended = new Set(after.blank.variants.filter((variant) => variant.ended).map((variant) => variant.key));
  const effectOn = effectMaker(doc, before, after);
  for (const key of Object.keys(doc.variants)) {
    if (ended.has(key)) continue;
    const shopPrice = shopPriceMinor ? ownEntry(shopPriceMinor, key) : null;
    if (shopPrice === undefined) continue;
    try {
      const effect = effectOn(key, shopPrice);
      if (effect) effects.push(effect);
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      if (error.code === 'rate-missing') onUnknown(key, error.message);
    }
  }
  return effects;
}

/** What changes for one variant at the price in a shop, or (null) at its own. */
function effectMaker(doc: ProductDocument, before: PricingWorld, after: PricingWorld) {
  // Made when the first variant asks: what cannot be priced at all is told by variant.
  let made: { price: ReturnType<typeof pricer>; ordersOf: ReturnType<typeof ordersMaker> } | null = null;
  return (key: string, shopPrice: number | null): VariantEffect | null => {
    made ??= { price: pricer(doc, before), ordersOf: ordersMaker(doc, after) };
    const { aim, follows, retailMinor: own, to: then } = made.price(key);
    const now = made.ordersOf(baseCostOf(after, key));
    // Without a shop, a price that follows its cost is raised with it: only what was typed stays.
    if (shopPrice === null && (aim.kind !== 'retail' || follows)) return null;
    const retailMinor = shopPrice ?? own;
    const losing = lossTo(then, now, retailMinor);
    const { aimsAt } = before.outlet;
    const under =
      aim.kind !== 'retail' &&
      allMeet(goalsOf(aimsAt, then), aim, retailMinor) &&
      !allMeet(goalsOf(aimsAt, now), aim, retailMinor);
    if (!losing && !under) return null;
    const at = losing ?? (aimsAt === 'worst' ? worstAt(now, retailMinor) : now[0]!);
    const was = then.find(({ country }) => country === at.country) ?? then[0]!;
    return {
      key,
      retailMinor,
      country: at.country,
      before: quote(was.terms, retailMinor),
      after: quote(at.terms, retailMinor),
      aim,
      follows,
      verdict: losing ? 'loss' : 'under',
    };
  };
}
