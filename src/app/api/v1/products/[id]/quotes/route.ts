import { invalid, isTypicaError } from '@/core/errors';
import { baseOutlet } from '@/core/pricing/outlet';
import { pricer } from '@/core/pricing/pricer';
import { termsFor } from '@/core/pricing/terms';
import { quote } from '@/core/pricing/quote';
import { json, route } from '@/server/http/route';
import { loadBundle } from '@/server/products/bundle';
import { findStore, outletOf } from '@/server/stores/stores';

/** Items of one parcel that can be asked about. */
const MAX_ITEMS = 20;

function readItems(text: string | null): number {
  if (text === null || text === '') return 1;
  const items = /^\d{1,2}$/.test(text) ? Number(text) : 0;
  if (items < 1 || items > MAX_ITEMS)
    throw invalid('items-wrong', `items is a whole number from 1 to ${MAX_ITEMS}; “${text.slice(0, 20)}” is not.`);
  return items;
}

function readCountry(text: string | null): string | null {
  if (text === null || text === '') return null;
  if (!/^[A-Z]{2}$/.test(text))
    throw invalid(
      'country-wrong',
      `country has the two letters of ISO 3166, such as CA; “${text.slice(0, 20)}” has not.`,
    );
  return text;
}

/**
 * The whole sum of every chosen variant at its one price: `?store=ID&country=US&items=1`. The price is the store's, whatever the country: what is
 * left there is told. Without a country, to where the aim is met; without a store there are no fees and the currency is the workspace's.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const [asked, items] = [readCountry(query.get('country')), readItems(query.get('items'))];
  const { product, blank, list, rates, settings, home } = await loadBundle(ctx, actor.workspaceId, params.id);
  const storeId = query.get('store');
  const outlet = storeId
    ? outletOf(ctx, await findStore(ctx, actor.workspaceId, storeId))
    : baseOutlet(actor.currency, home, settings);
  const world = { blank, list, rates, outlet, settings, home };
  const price = pricer(product.document, world);
  const quotes = Object.keys(product.document.variants).map((key) => {
    try {
      const { aim, own, follows, held, retailMinor, country, floor, losses, mix } = price(key);
      const to = asked ?? country;
      const terms = termsFor(product.document, key, world, to, items);
      return {
        variantKey: key,
        aim,
        own,
        follows,
        held,
        country: to,
        soldThere: outlet.sellsTo.includes(to) && terms.landed.shipsThere,
        floor,
        losses,
        mix: mix && { profitMinor: mix.profitMinor, marginPpm: mix.marginPpm, markupPpm: mix.markupPpm },
        landed: terms.landed,
        quote: quote(terms, retailMinor),
      };
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      return { variantKey: key, problem: { code: error.code, message: error.message } };
    }
  });
  return json({ revision: product.revision, storeId, currency: outlet.currency, items, quotes });
});
