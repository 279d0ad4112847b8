import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { addBundle, removeBundle, setBundle, setBundleAim, setBundleItem, setBundleNames } from '../document/bundles';
import { checkDocument } from '../document/check';
import { newDocument, type ProductDocument } from '../document/document';
import { everyOffer, listingForm, offersOf, optionValue, outOfSale } from '../listing/form';
import { newlyShown, priceTerms } from '../listing/shown-prices';
import { storeLimit } from '../variants/limits';
import { bundledKey, bundlePricer, offerName, splitBundled, type Companion, type Companions } from './bundle';
import { viewBundles } from './bundle-view';
import { priceChanges } from './changes';
import { baseOutlet, type Outlet } from './outlet';
import { pricer } from './pricer';
import { termsFor } from './terms';
import { PLAIN_SETTINGS } from './settings';
import { sampleFee } from './terms-sample';

const [m, xxl, mugKey] = ['color=estuary;size=m', 'color=estuary;size=xxl', 'volume=11oz'];
const mugBlank = {
  ...demoBlank,
  id: 'b2',
  kind: 'mug',
  name: 'Tide Mug',
  options: [{ code: 'volume', name: 'Volume', pieceCode: null, values: [{ code: '11oz', name: '11 oz', hex: null }] }],
  variants: [{ ...demoBlank.variants[0]!, key: mugKey, values: { volume: '11oz' } }],
};
const mugList = {
  ...demoList,
  baseCostMinor: { [mugKey]: 300 },
  shipping: [
    { region: 'gb', countries: ['GB'], firstMinor: 600, furtherMinor: 250, daysMin: 2, daysMax: 4 },
    { region: 'us', countries: ['US'], firstMinor: 900, furtherMinor: 300, daysMin: 6, daysMax: 14 },
  ],
};
const retail = (amountMinor: number) => ({ kind: 'retail', amountMinor }) as const;
const mugDoc: ProductDocument = {
  ...newDocument('b2', 'GBP', 'Tide mug'),
  variants: { [mugKey]: {} },
};
const mug: Companion = {
  title: 'Tide mug',
  doc: { ...mugDoc, price: { ...mugDoc.price, base: { ...mugDoc.price.base, aim: retail(1100) } } },
  blank: mugBlank,
  list: mugList,
};
const elsewhere: Companion = {
  ...mug,
  blank: { ...mugBlank, partner: { ...mugBlank.partner, id: 'p2', name: 'Saltmarsh Studio' } },
};
const with_ = (companion: Companion): Companions => new Map([['q1', companion]]);
const home = baseOutlet('GBP', 'GB');
const shop: Outlet = { ...home, id: 's1', name: 'Pennyquay', sellsTo: ['GB', 'US'], expectedSales: 10 };
const tee: ProductDocument = { ...newDocument('b1', 'GBP', 'Ebb tee'), variants: { [m]: {}, [xxl]: {} } };
const item = { productId: 'q1', variantKey: mugKey, quantity: 1 };
const doc = addBundle(tee, { bundle: 'b', item: 'i' }, { name: 'With a Tide mug', aim: retail(2500), item });
const two = setBundleItem(doc, 'b', 'i', { ...item, quantity: 2 });
const world = (outlet: Outlet, also = {}) => ({
  blank: demoBlank,
  list: demoList,
  rates: demoRates,
  outlet,
  home: 'GB',
  ...also,
});
const priced = (of: ProductDocument, outlet: Outlet, companions = with_(mug), also = {}) => {
  const { priceOf, parcelsTo } = bundlePricer(of, of.bundles!.entries.b!, world(outlet, also), companions);
  return { one: priceOf(m), parcelsTo };
};

describe('a bundle', () => {
  it('costs the making of all of it, and the real shipping of its parcel: the dearest first, the others as further ones', () => {
    const { one, parcelsTo } = priced(two, home);
    // 7.40 + 2 × 3.00; the mug is the first at 6.00, the other mug 2.50 and the tee 1.00.
    expect(one.terms.landed.makingMinor).toBe(1340);
    expect(one.terms.landed.shippingMinor).toBe(950);
    expect(parcelsTo('GB')).toEqual([
      {
        partnerName: 'Millrace Works',
        from: 'GB',
        goods: ['Ebb tee', '2 × Tide mug'],
        shipping: { amountMinor: 950, currency: 'GBP' },
      },
    ]);
    // The buyer pays 25.00 and the tee's own shipping of 4.00: 29.00 − 13.40 − 9.50.
    expect(one.quote).toMatchObject({ retailMinor: 2500, shippingChargedMinor: 400, profitMinor: 610 });
    expect(one.floor.minor).toBe(1340 + 950 - 400);
  });

  it('travels in a parcel of its own from another partner', () => {
    const { one, parcelsTo } = priced(doc, home, with_(elsewhere));
    expect(parcelsTo('GB').map(({ shipping }) => shipping.amountMinor)).toEqual([400, 600]);
    expect(one.terms.landed.shippingMinor).toBe(1000);
  });

  it('has its floor where nothing is lost to any country, and names it', () => {
    // To the US: making 10.40, shipping 9.00 + 2.00 with 5.00 paid; to GB 10.40 + 7.00 − 4.00.
    expect(priced(doc, shop).one.floor).toMatchObject({ minor: 1640, countries: ['US'], withoutMinor: 1340 });
    const cheap = setBundleAim(doc, 'b', 's1', retail(1639));
    expect(priced(cheap, shop).one.losses).toMatchObject([{ country: 'US', profitMinor: -1 }]);
    expect(priced(setBundleAim(doc, 'b', 's1', retail(1640)), shop).one.losses).toEqual([]);
  });

  it('is one item to the shop, and taxed as the good with the highest rate in it', () => {
    const fees = [sampleFee({ per: 'item', fixedMinor: 50 })];
    const settings = {
      ...PLAIN_SETTINGS,
      taxes: [
        { country: 'GB', label: 'VAT', ratePpm: 200_000, inside: true },
        { country: 'GB', label: 'VAT', ratePpm: 50_000, inside: true, taxClass: 'reduced' as const },
      ],
      goods: [{ kind: 'apparel', country: '*', taxClass: 'reduced' as const }],
    };
    const { one } = priced(two, { ...home, fees }, with_(mug), { settings });
    expect(one.quote.feesMinor).toBe(50);
    // 29.00 with 20 % inside it.
    expect(one.quote.taxMinor).toBe(483);
  });

  it('reaches a margin, ends as the product’s prices do, and follows rates in another currency', () => {
    const base = { ...doc.price.base, ending: '.99' as const };
    const aimed = setBundle({ ...doc, price: { ...doc.price, base } }, 'b', { aim: { kind: 'margin', ppm: 400_000 } });
    const { one } = priced(aimed, home);
    // (10.40 + 7.00 − 4.00) ÷ 0.6 = 22.33…
    expect(one.retailMinor).toBe(2299);
    const dollars: Outlet = { ...shop, currency: 'USD', sellsTo: ['GB'] };
    // 25.00 GBP at 1.25.
    expect(priced(doc, dollars).one.retailMinor).toBe(3125);
  });

  it('of n same goods costs what an order of n costs', () => {
    const same: Companion = { title: 'Other tee', doc: tee, blank: demoBlank, list: demoList };
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 19 }), fc.constantFrom('GB', 'US', 'CA'), (others, country) => {
        const of = setBundleItem(doc, 'b', 'i', { productId: 'q1', variantKey: m, quantity: others });
        const { one } = priced(of, { ...home, sellsTo: [country] }, with_(same));
        const order = termsFor(tee, m, world({ ...home, sellsTo: [country] }), country, others + 1);
        expect(one.terms.landed.makingMinor).toBe(order.landed.makingMinor);
        expect(one.terms.landed.shippingMinor).toBe(order.landed.shippingMinor);
      }),
    );
  });

  it('says what is wrong with it: a product that is gone, a variant that is not chosen, a country that a partner does not send to', () => {
    const problem = (companions: Companions, outlet = home) =>
      viewBundles(doc, world(outlet), companions).map((one) => one.problem)[0];
    expect(problem(new Map())).toMatch(/“With a Tide mug” holds a product, which was deleted or is archived/);
    expect(problem(with_({ ...mug, doc: mugDoc && { ...mugDoc, variants: {} } }))).toMatch(
      /11 oz, which is not chosen/,
    );
    const ended = { ...mugBlank, variants: [{ ...mugBlank.variants[0]!, ended: true }] };
    expect(problem(with_({ ...mug, blank: ended }))).toMatch(/no longer makes/);
    expect(problem(with_(mug), { ...shop, sellsTo: ['GB', 'CA'] })).toMatch(
      /cannot be sent to Canada: Millrace Works does not send Tide mug there/,
    );
    expect(problem(with_(mug))).toBeNull();
  });

  it('is told with what all of it costs apart, its parcels and what is left', () => {
    const [told] = viewBundles(doc, world(home), with_(mug));
    const alone = pricer(doc, world(home));
    expect(told!.sums).toMatchObject({
      variants: 2,
      price: [2500, 2500],
      shippingPaidMinor: 400,
      // The tee's 4.00 and the mug's 6.00.
      apart: { price: [alone(m).retailMinor + 1100, alone(xxl).retailMinor + 1100], shippingPaidMinor: 1000 },
      making: [1040, 1190],
      shippingMinor: 700,
      left: [2500 + 400 - 1190 - 700, 2500 + 400 - 1040 - 700],
      floorMinor: 1190 + 700 - 400,
      losing: 0,
    });
  });
});

describe('bundles in a listing', () => {
  const form = (of: ProductDocument, also = {}) =>
    listingForm({
      productId: 'p000001',
      doc: of,
      blank: demoBlank,
      list: demoList,
      rates: demoRates,
      outlet: home,
      pictures: [],
      companions: with_(mug),
      ...also,
    });

  it('are one more choice: variants by themselves keep their keys, SKUs and prices', () => {
    const [plain, bundled] = [form(tee), form(doc)];
    expect(bundled.options.at(-1)).toEqual({
      code: 'sold-with',
      name: 'Set',
      values: [
        { code: 'alone', name: 'On its own' },
        { code: 'b', name: 'With a Tide mug' },
      ],
    });
    for (const key of [m, xxl]) expect(bundled.variants[key]).toEqual(plain.variants[key]);
    expect(bundled.variants[bundledKey(m, 'b')]).toMatchObject({
      sku: `${plain.variants[m]!.sku}-B`,
      priceMinor: 2500,
      inStock: true,
    });
    const [, , choice] = bundled.options;
    expect(optionValue(choice!, { size: 'm' })?.name).toBe('On its own');
    expect(optionValue(choice!, { 'sold-with': 'b' })?.name).toBe('With a Tide mug');
    expect(optionValue(choice!, { 'sold-with': 'x' })).toBeUndefined();
    expect(form(removeBundle(doc, 'b'))).toEqual(plain);
  });

  it('are sold out with what is in them, take part in shares and sums off, and not in a sale at one price', () => {
    const out = { ...mug, blank: { ...mugBlank, variants: [{ ...mugBlank.variants[0]!, inStock: false }] } };
    const key = bundledKey(m, 'b');
    expect(form(doc, { companions: with_(out) }).variants[key]!.inStock).toBe(false);
    const sold = (sale: object) => form(doc, { sales: [sale] }).variants[key]!.priceMinor;
    expect(sold({ kind: 'share', ppm: 100_000 })).toBe(2250);
    expect(sold({ kind: 'sum', amountMinor: 300 })).toBe(2200);
    expect(sold({ kind: 'price', amountMinor: 2000 })).toBe(2500);
    // Never below its floor: 10.40 + 7.00 − 4.00.
    expect(sold({ kind: 'share', ppm: 600_000 })).toBe(1340);
  });

  it('count among what a store can hold', () => {
    const demands = { optionsMax: 3, variantsMax: 4 };
    expect(storeLimit(doc, demoBlank, demands, 'Pennyquay')).toMatchObject({ variants: 4, options: 3, says: null });
    expect(storeLimit(doc, demoBlank, { ...demands, variantsMax: 3 }, 'Pennyquay').says).toMatch(
      /holds 3 variants; 4 are chosen \(2 without bundles and in a bundle\), 1 too many/,
    );
    // Folded into the sizes where there is no room for a third.
    expect(storeLimit(doc, demoBlank, { ...demands, optionsMax: 2 }, 'Pennyquay')).toMatchObject({
      options: 2,
      says: null,
    });
  });

  it('are folded into the sizes of a shop that takes two options', () => {
    const { options, variants } = form(doc, { optionsMax: 2 });
    expect(options.map(({ values }) => values.map(({ name }) => name))).toEqual([
      ['Estuary'],
      ['M', 'XXL', 'M, With a Tide mug', 'XXL, With a Tide mug'],
    ]);
    const picks = (key: string) =>
      options.map(
        (option) => optionValue(option, Object.fromEntries(key.split(';').map((part) => part.split('='))))?.name,
      );
    expect(Object.keys(variants).map(picks)).toEqual([
      ['Estuary', 'M'],
      ['Estuary', 'XXL'],
      ['Estuary', 'M, With a Tide mug'],
      ['Estuary', 'XXL, With a Tide mug'],
    ]);
    expect(outOfSale(form(doc, { optionsMax: 2, sales: [{ kind: 'share', ppm: 100_000 }], comparesAt: true }))).toEqual(
      form(doc, { optionsMax: 2 }),
    );
  });

  it('have a history: of what was fixed, and of what shops showed', () => {
    const dearer = setBundleAim(doc, 'b', null, retail(2700));
    const wildcard = '*;sold-with=b';
    const change = (what: string) => ({ storeId: null, variantKey: wildcard, what });
    expect(priceChanges(doc, dearer)).toMatchObject([change('aim')]);
    expect(priceChanges(tee, doc)).toMatchObject([change('aim'), change('items')]);
    expect(priceChanges(doc, two)).toMatchObject([change('items')]);
    expect(priceChanges(doc, setBundleAim(doc, 'b', 's1', retail(2700)))).toMatchObject([
      { ...change('aim'), storeId: 's1', was: null },
    ]);
    const terms = (of: ProductDocument, revision: number) =>
      priceTerms(
        { document: of, revision },
        { ...world(home), settings: PLAIN_SETTINGS, sales: [], companions: with_(mug) },
      );
    const shown = newlyShown(
      { form: form(doc), terms: terms(doc, 1) },
      { form: form(dearer), terms: terms(dearer, 2) },
      { document: dearer, storeId: 's1', edits: [{ storeId: null, variantKey: wildcard, cause: 'typed' }] },
    );
    expect(shown.map(({ variantKey, causes }) => [variantKey, causes])).toEqual(
      [m, xxl].map((key) => [bundledKey(key, 'b'), ['typed']]),
    );
    // A new price list of what is in it moves a bundle that aims at a margin.
    const dear = with_({ ...mug, list: { ...mugList, baseCostMinor: { [mugKey]: 400 } } });
    const margin = setBundle(doc, 'b', { aim: { kind: 'margin', ppm: 400_000 } });
    const after = priceTerms(
      { document: margin, revision: 1 },
      { ...world(home), settings: PLAIN_SETTINGS, sales: [], companions: dear },
    );
    expect(
      newlyShown(
        { form: form(margin), terms: terms(margin, 1) },
        { form: form(margin, { companions: dear }), terms: after },
        { document: margin, storeId: 's1', edits: [] },
      ).map(({ causes }) => causes),
    ).toEqual([['list'], ['list']]);
  });

  it('are offered with every variant, by names that tell them apart', () => {
    const keys = everyOffer(offersOf(doc, world(home), with_(mug)), [m, xxl]).map(({ key }) => key);
    expect(keys).toEqual([m, xxl, bundledKey(m, 'b'), bundledKey(xxl, 'b')]);
    expect(keys.map((key) => offerName(demoBlank, doc, key)).slice(1)).toEqual([
      'Estuary, XXL',
      'Estuary, M, With a Tide mug',
      'Estuary, XXL, With a Tide mug',
    ]);
    expect(offerName(demoBlank, tee, bundledKey(m, 'b'))).toBe('Estuary, M, a bundle that is gone');
    expect(splitBundled(bundledKey(m, 'b'))).toEqual({ variantKey: m, bundleId: 'b' });
  });
});

describe('bundles in a document', () => {
  const faults = (of: unknown) => checkDocument(of).map(({ path }) => path);

  it('are checked: names, goods, counts and keys', () => {
    expect(faults(doc)).toEqual([]);
    expect(faults(setBundleNames(doc, { option: ' ' }))).toEqual(['/bundles/option']);
    expect(faults(setBundle(doc, 'b', { name: 'a\nb' }))).toEqual(['/bundles/entries/b/name']);
    expect(faults(setBundleItem(doc, 'b', 'i', { ...item, quantity: 21 }))).toEqual([
      '/bundles/entries/b/items/i/quantity',
    ]);
    expect(faults(setBundleItem(doc, 'b', 'i', { ...item, variantKey: '*' }))).toEqual([
      '/bundles/entries/b/items/i/variantKey',
    ]);
    const entries = { 'B=1': doc.bundles!.entries.b };
    expect(faults({ ...doc, bundles: { ...doc.bundles, entries } })).toEqual(['/bundles/entries/B=1']);
  });

  it('are changed without touching others, and gone with the last', () => {
    const more = addBundle(doc, { bundle: 'c', item: 'j' }, { name: 'Two', aim: retail(4000), item });
    expect(removeBundle(more, 'b').bundles!.entries.c).toBe(more.bundles!.entries.c);
    expect(removeBundle(doc, 'b')).toEqual(tee);
    expect(setBundleItem(doc, 'x', 'i', item)).toBe(doc);
    const own = setBundleAim(doc, 'b', 's1', retail(1));
    expect(setBundleAim(own, 'b', 's1', null).bundles!.entries.b!.stores).toEqual({});
  });
});
