import type { ProductDocument } from '../document/document';
import { isEnding, WAYS, type Ending, type Way } from './rounding';
import type { Aim } from './solve';
import { putEntry } from '../own-entry';

/** A way of pricing that is kept by name: what is aimed at, how prices end, who pays shipping, and what stores differ by. */
export interface PriceRule {
  readonly aim: Exclude<Aim, { kind: 'retail' }>;
  readonly ending: Ending;
  /** Absent: up. */
  readonly way?: Way;
  readonly shipping: 'charged' | 'folded';
  /** By store: its price is the base's and so much more, parts per million. */
  readonly differences: { readonly [storeId: string]: number };
}

/** Every fault of a rule, as sentences. */
export function checkRule(value: unknown): string[] {
  if (typeof value !== 'object' || value === null) return ['A rule is an object.'];
  const { aim, ending, way, shipping, differences, ...rest } = value as Partial<PriceRule>;
  const faults: string[] = [];
  if (Object.keys(rest).length > 0)
    faults.push('A rule has an aim, an ending, a way to it, shipping and differences, and nothing else.');
  if (typeof aim === 'object' && aim !== null && Object.keys(aim).length > 2)
    faults.push('An aim has a kind and its amount, and nothing else.');
  if (aim?.kind === 'profit') {
    if (!Number.isInteger(aim.amountMinor) || Math.abs(aim.amountMinor) > 10_000_000)
      faults.push('A profit must be a whole number of minor units.');
  } else if (aim?.kind === 'margin' || aim?.kind === 'markup') {
    const most = aim.kind === 'margin' ? 999_999 : 100_000_000;
    if (!Number.isInteger(aim.ppm) || aim.ppm < 0 || aim.ppm > most)
      faults.push(
        aim.kind === 'margin' ? 'A margin must be from 0 % to below 100 %.' : 'A markup must be from 0 % to 10,000 %.',
      );
  } else faults.push('A rule aims at a profit, a margin or a markup.');
  if (!isEnding(ending)) faults.push('Prices end in none, ladder, or up to four digits such as .99, 4.99 or 80.');
  if (way !== undefined && !WAYS.includes(way)) faults.push(`Prices go ${WAYS.join(', ')} to their ending.`);
  if (shipping !== 'charged' && shipping !== 'folded') faults.push('Shipping is charged, or folded into the price.');
  if (typeof differences !== 'object' || differences === null || Object.keys(differences).length > 200)
    faults.push('Differences are shares by store, up to 200.');
  else
    for (const ppm of Object.values(differences))
      if (!Number.isInteger(ppm) || ppm < -900_000 || ppm > 9_000_000)
        faults.push('A store’s difference must be from −90 % to 900 %.');
  return faults.slice(0, 50);
}

/** The document priced by a rule: single prices that were fixed are let go, and so are those of stores that the rule names. */
export function withRule(
  doc: ProductDocument,
  { aim, ending, way, shipping, differences }: PriceRule,
): ProductDocument {
  const stores = { ...doc.price.stores };
  for (const [storeId, differencePpm] of Object.entries(differences)) putEntry(stores, storeId, { differencePpm });
  // Up is said by saying nothing, so that a product that is priced so already is not changed.
  const { way: _before, ...base } = doc.price.base;
  const rounded = way === undefined || way === 'up' ? {} : { way };
  return {
    ...doc,
    price: { ...doc.price, base: { ...base, ...rounded, aim, variants: {}, ending, shipping }, stores },
  };
}

/** The rule that a document is priced by; a base that aims at single prices has none. */
export function ruleOf(doc: ProductDocument): PriceRule | null {
  const { aim, ending, way = 'up', shipping } = doc.price.base;
  if (aim.kind === 'retail') return null;
  const differences = Object.fromEntries(
    Object.entries(doc.price.stores).flatMap(([id, plan]) =>
      plan.differencePpm === undefined ? [] : [[id, plan.differencePpm]],
    ),
  );
  return { aim, ending, way, shipping, differences };
}
