import { invalid, notFound } from '@/core/errors';
import type { Exemption } from '@/ports/channel';
import type { Context } from '../context';
import { openStore } from './keys';
import { saveSettings } from './settings';
import type { ShopFacts, Store } from './stores';

/** Asks the shop what it has that rules and settings need: declared partners, places, warehouses, exemptions. */
export async function readShopFacts(ctx: Context, store: Store): Promise<Store> {
  const client = await openStore(ctx, store);
  const declaredPartners = client.partners ? await client.partners.list() : store.settings.declaredPartners;
  const shopFacts: ShopFacts = {
    ...(client.categories ? { categories: await client.categories() } : {}),
    ...(client.warehouses ? { warehouses: await client.warehouses() } : {}),
    ...(client.exemptions ? { exemptions: await client.exemptions.list() } : {}),
  };
  await ctx.db.run('UPDATE store SET shop_facts = ?, read_at = UTC_TIMESTAMP(3) WHERE id = ?', [
    JSON.stringify(shopFacts),
    store.id,
  ]);
  const now = await saveSettings(ctx, store, (settings) => ({ ...settings, declaredPartners }));
  // As it reads back: moments are texts in JSON.
  return { ...now, shopFacts: JSON.parse(JSON.stringify(shopFacts)) as ShopFacts };
}

/** Declares a print partner in the shop. Throws `partners-not-declared` where the channel wants none declared. */
export async function declarePartner(ctx: Context, store: Store, partnerId: string): Promise<Store> {
  const partner = await ctx.db.row<{ name: string; country: string }>(
    'SELECT name, country FROM partner WHERE id = ?',
    [partnerId],
  );
  if (!partner) throw notFound('print partner', partnerId);
  const client = await openStore(ctx, store);
  if (!client.partners)
    throw invalid('partners-not-declared', `${store.name} does not ask for print partners to be declared.`);
  await client.partners.declare(partner);
  const declaredPartners = await client.partners.list();
  return saveSettings(ctx, store, (settings) => ({ ...settings, declaredPartners }));
}

/** Asks the shop for leave to sell goods of the store's brand without product codes. Throws `exemption-none`, `brand-missing`. */
export async function askExemption(ctx: Context, store: Store): Promise<{ store: Store; exemption: Exemption }> {
  const client = await openStore(ctx, store);
  if (!client.exemptions) throw invalid('exemption-none', `${store.name} asks for no product codes.`);
  const brand = store.settings.answers?.brand;
  if (!brand) throw invalid('brand-missing', 'Type the brand first: the exemption is for its goods.');
  const exemption = await client.exemptions.ask(brand);
  return { store: await readShopFacts(ctx, store), exemption };
}
