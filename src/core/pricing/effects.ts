import type { ProductDocument } from '../document/document';
import { isTypicaError } from '../errors';
import { planFor, pricer, termsFor, type PricingWorld } from './plan';
import { quote, type Quote } from './quote';
import { priceFor, type Aim } from './solve';
import { ownEntry } from '../own-entry';

/** What a new price list does to one variant at one price. */
export interface VariantEffect {
  readonly key: string;
  readonly retailMinor: number;
  readonly before: Quote;
  readonly after: Quote;
  readonly aim: Aim;
  /** Whether the price follows that of the base: then nobody typed it. */
  readonly follows: boolean;
  /** `loss`: sold below cost; `under`: less than the seller's aim, which it met before. */
  readonly verdict: 'loss' | 'under';
}

const meets = (aim: Aim, q: Quote): boolean =>
  aim.kind === 'retail'
    ? q.profitMinor >= 0
    : aim.kind === 'profit'
      ? q.profitMinor >= aim.amountMinor
      : aim.kind === 'margin'
        ? q.marginPpm !== null && q.marginPpm >= aim.ppm
        : q.markupPpm === null || q.markupPpm >= aim.ppm;

/**
 * The chosen variants of a product that lose money or fall under the seller's aim once costs change from `before` to `after`, at the
 * prices that buyers pay: those in the shop, where there is a shop (`shopPriceMinor`), else those of the product as they were before.
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
  const { ending } = planFor(doc, before.outlet.id);
  const priced = pricer(doc, before);
  const ended = new Set(after.blank.variants.filter((variant) => variant.ended).map((variant) => variant.key));
  for (const key of Object.keys(doc.variants)) {
    if (ended.has(key)) continue;
    if (shopPriceMinor && ownEntry(shopPriceMinor, key) === undefined) continue;
    try {
      const [then, now] = [termsFor(doc, key, before), termsFor(doc, key, after)];
      if (now.landed.totalMinor <= then.landed.totalMinor) continue;
      const { aim, follows } = priced(key);
      // Without a shop, a price that follows its cost is raised with it: only what was typed stays.
      if (!shopPriceMinor && (aim.kind !== 'retail' || follows)) continue;
      const retailMinor = ownEntry(shopPriceMinor, key) ?? priceFor(then, aim, ending);
      const [q0, q1] = [quote(then, retailMinor), quote(now, retailMinor)];
      const verdict = q1.profitMinor < 0 ? 'loss' : !meets(aim, q1) && meets(aim, q0) ? 'under' : null;
      if (verdict) effects.push({ key, retailMinor, before: q0, after: q1, aim, follows, verdict });
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      if (error.code === 'rate-missing') onUnknown(key, error.message);
    }
  }
  return effects;
}
