import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addBundle, setBundle, setBundleAim } from '@/core/document/bundles';
import { diff } from '@/core/document/patch';
import { artworkIdsOf, type ProductDocument } from '@/core/document/document';
import { bundledKey } from '@/core/pricing/bundle';
import { setAimForAll } from '@/core/pricing/fixing';
import { acceptFloor } from '@/server/listings/floor';
import { requestCheck, listingsOf, listingView } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { prepareListing } from '@/server/listings/prepare';
import { MAX_SHOWN, shownPrices } from '@/server/listings/shown-prices';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { createProduct, type Product } from '@/server/products/products';
import { archiveProduct } from '@/server/products/shelving';
import { bundlesTold, goodsToBundle } from '@/server/products/sold-together';
import { previewSale } from '@/server/sales/preview';
import type { Store } from '@/server/stores/stores';
import { connectStore, findBlank, layerOf, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let tee: Product;
let tote: Product;
let toteKey: string;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product: tee } = await makeTee(world.ctx, actor, 'Bundled tee', ['coal']));
  const blank = await findBlank(world.ctx, 'millrace', 'landing-tote');
  toteKey = blank.variants[0]!.key;
  tote = await createProduct(world.ctx, actor, {
    blankId: blank.id,
    title: 'River tote',
    variants: [{ key: toteKey }],
  });
});
afterAll(() => world.close());

const bundle = () => loadBundle(world.ctx, actor.workspaceId, tee.id);
const edit = async (next: (doc: ProductDocument) => ProductDocument) => {
  const { product: now } = await bundle();
  await patchProduct(world.ctx, actor, now.id, now.revision, diff(now.document, next(now.document)));
};
const UNKNOWN_LETTER = {
  text: '猫',
  family: 'noto-sans',
  style: 'regular',
  sizeMm: 30,
  align: 'center',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#182a4a',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 190,
  boxHeightMm: 60,
  shrinkToMm: null,
  wrap: true,
};
/** Puts the tee's artwork on the tote. */
const printTote = async (as: (layer: ReturnType<typeof layerOf>) => object = (layer) => layer) => {
  const { product: now, blank } = await loadBundle(world.ctx, actor.workspaceId, tote.id);
  const [{ key, geometries }] = blank.areas as [(typeof blank.areas)[number]];
  const [artworkId] = artworkIdsOf((await bundle()).product.document.areas);
  const layer = as(layerOf(artworkId!, geometries[0]!.geometryId));
  await patchProduct(world.ctx, actor, now.id, now.revision, [
    { op: 'add', path: `/areas/${key}`, value: { layers: { crest: layer } } },
  ]);
};
const send = async () => {
  await requestSend(world.ctx, await bundle(), store, 'live');
  await runJobs(world.ctx);
};
const state = async () => {
  const [row] = await listingsOf(world.ctx.db, actor.workspaceId, [tee.id]);
  return listingView(store, { number: 1, row: row! }, prepareListing(world.ctx, await bundle(), store)).state;
};
interface Offer {
  readonly sku: string;
  readonly picks: string[];
  readonly price: string;
}
const inShop = async () => {
  const item = (await world.shopItems()).find(({ headline }) => headline.startsWith('Bundled'))!;
  return item as unknown as { choices: { name: string; values: string[] }[]; offers: Offer[] };
};
const together = (doc: ProductDocument) =>
  addBundle(
    doc,
    { bundle: 'b', item: 'i' },
    {
      name: 'With two totes',
      aim: { kind: 'margin', ppm: 300_000 },
      item: { productId: tote.id, variantKey: toteKey, quantity: 2 },
    },
  );

describe('products that are sold together', () => {
  it('are one more choice of the listing that is there already; what was sent keeps its SKU and price', async () => {
    await send();
    const before = await inShop();
    await edit(together);
    expect(await state()).toBe('ahead');
    await expect(send()).rejects.toMatchObject({
      code: 'rules-broken',
      message: expect.stringContaining('A bundle holds River tote, on which nothing is printed yet.'),
    });
    // A letter that no font here has stops a design.
    await printTote(({ artworkId: _none, ...layer }) => ({ ...layer, kind: 'text', lettering: UNKNOWN_LETTER }));
    await expect(send()).rejects.toMatchObject({
      code: 'design-stopped',
      message: expect.stringContaining('A bundle holds River tote.'),
    });
    await printTote();
    await send();
    const after = await inShop();
    expect(await state()).toBe('in-step');
    // The shop takes two options: sizes with the totes stand beside the sizes.
    expect(after.choices.map(({ name }) => name)).toEqual(['Color', 'Size']);
    expect(after.choices[1]!.values).toContain('M, With two totes');
    expect(after.offers).toHaveLength(2 * before.offers.length);
    for (const { sku, price, picks } of before.offers)
      expect(after.offers.find((one) => one.sku === sku)).toMatchObject({ price, picks });
    const row = await requestCheck(
      world.ctx,
      (await listingsOf(world.ctx.db, actor.workspaceId, [tee.id]))[0]!,
      store.name,
    );
    expect(row.jobId).toBeTruthy();
    await runJobs(world.ctx);
    expect(await state()).toBe('in-step');
    const shown = await shownPrices(world.ctx, tee.id, {
      store: null,
      variant: bundledKey(Object.keys(tee.document.variants)[0]!, 'b'),
      person: null,
      cause: null,
      before: null,
      limit: MAX_SHOWN,
    });
    expect(shown).toMatchObject([{ causes: ['first'] }]);
  });

  it('are told with their parcel, and kept at their floor in a sale', async () => {
    const { bundles, goods } = await bundlesTold(world.ctx, actor, tee.id, store.id);
    expect(goods).toEqual([
      { productId: tote.id, title: 'River tote', variants: [{ key: toteKey, name: expect.any(String) }] },
    ]);
    const sums = bundles[0]!.sums!;
    expect(sums.parcels.map(({ goods: inside }) => inside)).toEqual([['Bundled tee', '2 × River tote']]);
    expect(sums.left[0]).toBeGreaterThan(0);
    expect(sums.apart!.price[0]).toBeGreaterThan(sums.price[0] / 2);
    const { lines } = await previewSale(world.ctx, actor, {
      name: 'Deep',
      code: null,
      terms: { kind: 'share', ppm: 900_000 },
      scope: { storeIds: [], productIds: [tee.id], kinds: [], tags: [] },
      startsAt: new Date(Date.now() + 60_000),
      endsAt: new Date(Date.now() + 120_000),
    });
    expect(lines[0]).toMatchObject({ variants: 14, losing: 0, held: 14 });
  });

  it('are not sold at a loss unless that is accepted, variant by variant', async () => {
    await edit((doc) => setBundleAim(doc, 'b', store.id, { kind: 'retail', amountMinor: 500 }));
    await expect(send()).rejects.toMatchObject({
      code: 'rules-broken',
      message: expect.stringMatching(/Coal, XS, With two totes at 5\.00 USD loses money/),
    });
    await acceptFloor(world.ctx, actor, await bundle(), store);
    await send();
    expect((await inShop()).offers.filter(({ price }) => price === '5.00')).toHaveLength(7);
    await edit((doc) => setBundleAim(doc, 'b', store.id, { kind: 'retail', amountMinor: 499 }));
    await expect(send()).rejects.toMatchObject({ code: 'rules-broken' });
    await edit((doc) => setBundleAim(doc, 'b', store.id, null));
  });

  it('follow the partner’s costs of everything in them', async () => {
    await send();
    const before = (await inShop()).offers.find(({ picks }) => picks.some((pick) => pick.endsWith('With two totes')))!;
    await edit((doc) => setBundle(doc, 'b', { aim: { kind: 'margin', ppm: 500_000 } }));
    await send();
    const after = (await inShop()).offers.find(({ sku }) => sku === before.sku)!;
    expect(Number(after.price)).toBeGreaterThan(Number(before.price));
  });

  it('are of this workspace, and found by their titles', async () => {
    const stranger = await makeActor(world.ctx);
    const { product: theirs } = await makeTee(world.ctx, stranger, 'Their tee', ['coal']);
    const goods = (text: string) => goodsToBundle(world.ctx, actor, tee.id, text);
    expect((await goods('tote')).map(({ title }) => title)).toEqual(['River tote']);
    expect(await goods('tee')).toEqual([]);
    expect(await goods('%')).toEqual([]);
    const hold = (productId: string) =>
      edit((doc) =>
        addBundle(
          doc,
          { bundle: 'c', item: 'i' },
          {
            name: 'Stranger',
            aim: { kind: 'margin', ppm: 300_000 },
            item: { productId, variantKey: toteKey, quantity: 1 },
          },
        ),
      );
    await expect(hold(theirs.id)).rejects.toMatchObject({ code: 'document-invalid' });
    await expect(hold(tee.id)).rejects.toMatchObject({ code: 'document-invalid' });
    await expect(hold('nothing')).rejects.toMatchObject({ code: 'document-invalid' });
  });

  it('say when a product in them was put away; the product can be edited, and is not sent until that is settled', async () => {
    await archiveProduct(world.ctx, actor, tote.id);
    await expect(send()).rejects.toMatchObject({
      code: 'rules-broken',
      message: expect.stringContaining('which was deleted or is archived'),
    });
    await edit((doc) => setAimForAll(doc, null, { kind: 'margin', ppm: 450_000 }));
    const { bundles } = await bundlesTold(world.ctx, actor, tee.id, null);
    expect(bundles).toMatchObject([{ sums: null, problem: expect.stringContaining('Remove it from the bundle') }]);
    await edit(({ bundles: _gone, ...doc }) => doc);
    await send();
    expect((await inShop()).choices[1]!.values).not.toContain('M, With two totes');
  });
});
