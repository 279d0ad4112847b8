import { canonicalJson, sha256Hex } from '@/core/canonical/canonical';
import type { ListingForm } from '@/core/listing/form';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { WireTable } from './wire';

/** So many of one product in an order have a band of their own. */
const MOST_ITEMS = 20;

/**
 * What delivery costs, as a table by weight: as all variants of a listing weigh the same there, its n-th band is n items, and costs the first and
 * n − 1 further ones. Named by its content, so that it is never made twice.
 */
export function tableOf({ shipping, variants, currency }: ListingForm): WireTable {
  const grams = Math.max(1, ...Object.values(variants).map((variant) => variant.grams ?? 0));
  const zones = shipping.map(({ countries, firstMinor, furtherMinor }) => ({
    to: countries,
    bands: Array.from({ length: MOST_ITEMS }, (_, i) => ({
      upToGrams: (i + 1) * grams,
      price: formatAmount(money(firstMinor + i * furtherMinor, currency)),
    })),
  }));
  return { name: `typica-${sha256Hex(canonicalJson(zones)).slice(0, 12)}`, zones };
}

/** First and further item, as a table says them. */
export const shippingOf = (table: WireTable | undefined, currency: string): ListingForm['shipping'] =>
  (table?.zones ?? []).map(({ to, bands }) => {
    const [first = 0, second = 0] = bands.slice(0, 2).map(({ price }) => parseAmountMinor(price, currency));
    return { countries: to, firstMinor: first, furtherMinor: second - first };
  });
