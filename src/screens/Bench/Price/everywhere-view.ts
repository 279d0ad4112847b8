import { shippingTo } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { isTypicaError } from '@/core/errors';
import { quoteMix } from '@/core/pricing/everywhere';
import type { PricedVariant } from '@/core/pricing/pricer';
import { quote } from '@/core/pricing/quote';
import { BASKETS } from '@/core/pricing/shipping-models';
import { termsFor } from '@/core/pricing/terms';
import type { PriceWorld } from './prices';

/** Countries that are shown at the most. */
const MAX_COUNTRIES = 30;

/** How often orders come from a country; a whole number from 1. */
interface Share {
  readonly country: string;
  readonly weight: number;
}

/** What is left of a whole order, minor units of the outlet; parts per million of what its items cost. */
export interface LeftAt {
  readonly profitMinor: number;
  readonly marginPpm: number | null;
}

export interface LeftEverywhere {
  readonly lines: readonly {
    readonly country: string;
    /** 0 where the seller counts on no orders. */
    readonly weight: number;
    /** Whether the partner sends there. */
    readonly sent: boolean;
    /** By basket; null where it cannot be priced. */
    readonly baskets: readonly (LeftAt | null)[];
  }[];
  /** By basket, over all shares. */
  readonly whole: readonly (LeftAt | null)[];
}

/** Where orders come from: as the seller has said, else from home alone. */
export const mixOf = (mix: readonly Share[], homeCountry: string): readonly Share[] =>
  mix.length > 0 ? mix : [{ country: homeCountry, weight: 1 }];

/** What is left of one variant at its price by destination and basket, and on the whole. Rates and costs that are missing leave a gap. */
export function leftEverywhere(
  doc: ProductDocument,
  world: PriceWorld,
  { key, retailMinor }: Pick<PricedVariant, 'key' | 'retailMinor'>,
  mix: readonly Share[],
): LeftEverywhere {
  const termsTo = (country: string, items: number) => {
    try {
      const terms = termsFor(doc, key, world, country, items);
      return terms.landed.shipsThere ? terms : null;
    } catch (error) {
      if (isTypicaError(error)) return null;
      throw error;
    }
  };
  const countries = [...new Set([...world.outlet.sellsTo, ...mix.map(({ country }) => country)])];
  return {
    lines: countries.slice(0, MAX_COUNTRIES).map((country) => ({
      country,
      weight: mix.find((part) => part.country === country)?.weight ?? 0,
      sent: shippingTo(world.list, country) !== null,
      baskets: BASKETS.map((items) => {
        const terms = termsTo(country, items);
        return terms && quote(terms, retailMinor);
      }),
    })),
    whole: BASKETS.map((items) => {
      const parts = mix.flatMap(({ country, weight }) => {
        const terms = termsTo(country, items);
        return terms ? [{ terms, weight }] : [];
      });
      return parts.length > 0 ? quoteMix(parts, retailMinor) : null;
    }),
  };
}
