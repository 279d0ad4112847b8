import { isTypicaError } from '@/core/errors';
import { pricer } from '@/core/pricing/plan';
import { json, route } from '@/server/http/route';
import { loadBundle } from '@/server/products/bundle';
import { channelOf, findStore, outletOf } from '@/server/stores/stores';

/** The whole sum of every chosen variant: `?store=ID&country=US`. Without a store there are no fees and the currency is the workspace's. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const { product, blank, list, rates, settings, home } = await loadBundle(ctx, actor.workspaceId, params.id);
  const storeId = query.get('store');
  const store = storeId ? await findStore(ctx, actor.workspaceId, storeId) : null;
  const outlet = store
    ? outletOf(ctx, store)
    : { id: null, name: 'No store', currency: actor.currency, fees: [], expectedSales: 1 };
  const country = query.get('country') ?? (store ? channelOf(ctx, store.channel).about.sellsTo[0]! : actor.country);
  const price = pricer(product.document, { blank, list, rates, outlet, country, settings, home });
  const quotes = Object.keys(product.document.variants).map((key) => {
    try {
      const { aim, own, follows, quote, floorMinor, terms } = price(key);
      return { variantKey: key, aim, own, follows, floorMinor, landed: terms.landed, quote };
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      return { variantKey: key, problem: { code: error.code, message: error.message } };
    }
  });
  return json({ revision: product.revision, storeId, country, currency: outlet.currency, quotes });
});
