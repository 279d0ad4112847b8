import { compareBlanks, type Comparison } from '@/core/shelf/compare';
import { MAX_ITEMS } from '@/core/shelf/query';
import { invalid, notFound } from '@/core/errors';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { loadMoney } from '../pricing/settings';
import { loadRateTable } from '../rates/rates';
import { loadOffers } from './kept-offers';
import { type Offer } from './offers';

/** Destinations that are compared when none is asked for, after the seller's own country. */
const USUAL = ['US', 'DE', 'GB'];
const DESTINATIONS = 3;

const names = new Intl.DisplayNames('en', { type: 'region' });

export interface Compared extends Comparison {
  readonly blanks: readonly {
    readonly id: string;
    readonly name: string;
    readonly partner: string;
    readonly shipsFrom: string;
    readonly listOf: string;
  }[];
  readonly offers: readonly Offer[];
  readonly destinations: readonly string[];
  readonly items: number;
  readonly currency: string;
}

/** Blanks as a workspace sees them, side by side. Throws `compare-empty`, `destination-wrong`, `rate-missing` or `not-found`. */
export async function compareOffers(
  ctx: Context,
  actor: Pick<Actor, 'workspaceId' | 'currency' | 'country'>,
  ids: readonly string[],
  to: readonly string[],
  items: number,
): Promise<Compared> {
  const wanted = [...new Set(ids)];
  if (wanted.length === 0)
    throw invalid(
      'compare-empty',
      'No blank is named. Choose two to four on Blanks, or name them in the address as ?id=first&id=second.',
    );
  const countries = [...new Set([...to, actor.country, ...USUAL])].slice(0, DESTINATIONS);
  for (const country of countries)
    if (!/^[A-Z]{2}$/.test(country))
      throw invalid('destination-wrong', `“${country}” is no country; send its two letters, such as DE.`);
  const [loaded, rates, { settings }] = await Promise.all([
    loadOffers(ctx, actor.workspaceId, wanted),
    loadRateTable(ctx, actor.workspaceId),
    loadMoney(ctx, actor.workspaceId),
  ]);
  const offers = wanted.map((id) => {
    const offer = loaded.find(({ blank }) => blank.id === id);
    if (!offer?.list) throw notFound('blank', id);
    return offer;
  });
  const count = Math.min(MAX_ITEMS, Math.max(1, Math.floor(items)));
  const comparison = compareBlanks(
    offers.map(({ blank, list }) => ({ blank, list: list! })),
    actor.currency,
    rates,
    countries.map((country) => ({ country, name: names.of(country) ?? country })),
    count,
    settings.discounts,
  );
  return {
    ...comparison,
    blanks: offers.map(({ blank, list }) => ({
      id: blank.id,
      name: blank.name,
      partner: blank.partner.name,
      shipsFrom: blank.shipsFrom,
      listOf: list!.validFrom,
    })),
    offers,
    destinations: countries,
    items: count,
    currency: actor.currency,
  };
}
