import { othersToo } from '../words/and-more';
import { countryName } from '../country-names';
import { ownEntry } from '../own-entry';
import type { LosingVariant, Loss } from '../pricing/floor';
import { formatAmount, formatMoney, money } from '../pricing/money';
import type { AcceptedLosses } from './accepted-losses';
import type { ListingRule } from './rule';

/** Losing variants with what nobody accepted: a loss that is new, or deeper than it was. */
function openLosses(losing: readonly LosingVariant[], accepted: AcceptedLosses): LosingVariant[] {
  const isOpen = (key: string, { country, profitMinor }: Loss): boolean => {
    const known = ownEntry(ownEntry(accepted, key), country);
    return known === undefined || profitMinor < known;
  };
  return losing.flatMap((one) => {
    const losses = one.losses.filter((loss) => isOpen(one.key, loss));
    return losses.length > 0 ? [{ ...one, losses }] : [];
  });
}

/** The first losing variant in a sentence, and how many more there are. */
export function lossSays(losing: readonly LosingVariant[], currency: string): string {
  const [first] = losing;
  if (!first) return 'No price is below its floor.';
  const worst = first.losses.reduce((a, b) => (b.profitMinor < a.profitMinor ? b : a));
  const more = first.losses.length - 1;
  const where = `to ${countryName(worst.country)} (${formatAmount(money(worst.profitMinor, currency))})${more > 0 ? ` and to ${more} more` : ''}`;
  const floor =
    first.floorMinor === null
      ? 'with these fees no price brings anything'
      : `its floor is ${formatMoney(money(first.floorMinor, currency))}`;
  const others = othersToo(losing.length);
  return `${first.name} at ${formatMoney(money(first.priceMinor, currency))} loses money ${where}: ${floor}${others}.`;
}

export const FLOOR_RULE: ListingRule = {
  id: 'floor',
  part: 'price',
  check({ currency }, _demands, { losing, lossesAccepted }) {
    const open = openLosses(losing, lossesAccepted?.losses ?? {});
    const kept = open.length === 0;
    return {
      kept,
      says: lossSays(kept ? losing : open, currency),
      mend: 'Raise the price to the floor, charge shipping, or do not sell there: Price, Where it sells, has each of them.',
      ...(losing.length > 0 ? { acceptable: true } : {}),
      ...(losing.length > 0 && kept ? { acceptedBy: lossesAccepted!.by } : {}),
    };
  },
};
