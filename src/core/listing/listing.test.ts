import { describe, expect, it } from 'vitest';
import { sampleLayer } from '../document/sample';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { newDocument, type ProductDocument } from '../document/document';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands } from '../rules/demands';
import { brokenRules, evaluateRules } from '../rules/evaluate';
import { acceptedLosses, type AcceptedLosses } from '../rules/accepted-losses';
import type { RuleFacts } from '../rules/rule';
import { wordsResults } from '../rules/words-rules';
import { syncState } from '../sync/state';
import { skuFor } from '../variants/sku';
import { tierName, tiersOf } from '../variants/tiers';
import { OWN_FORMAT } from './picture-format';
import { chosenColors, chosenGeometryIds } from '../document/chosen';
import { listingForm, outOfSale } from './form';
import { baseOutlet, type Outlet } from '../pricing/outlet';
import { priceVariant } from '../pricing/pricer';

const outlet: Outlet = {
  id: 's1',
  name: 'Pennyquay',
  currency: 'USD',
  fees: [],
  expectedSales: 10,
  sellsTo: ['US', 'GB', 'CA'],
  aimsAt: 'first',
};
const keys = demoBlank.variants.map((variant) => variant.key);
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Crossed Blades tee'),
  variants: Object.fromEntries(keys.map((key) => [key, {}])),
};
const form = (over: Partial<ProductDocument> = {}) =>
  listingForm({
    productId: 'p000001',
    doc: { ...doc, ...over },
    blank: demoBlank,
    list: demoList,
    rates: demoRates,
    outlet,
    pictures: [{ id: 'p1', key: 'k1', shotId: 'x', color: 'estuary', alt: 'a', main: false }],
  });

describe('tiers and SKUs', () => {
  it('groups variants of the same cost, cheapest first, and names them by their sizes', () => {
    expect(
      tiersOf(demoBlank, demoList, doc.variants).map((tier) => [tier.costMinor, tier.name, tier.variantKeys.length]),
    ).toEqual([
      [740, 'S – M', 4],
      [890, 'XXL', 2],
    ]);
  });

  it('names tiers by what tells them apart: a color where the color decides, else the sizes alone', () => {
    const dear = Object.fromEntries(
      Object.entries(demoList.baseCostMinor).map(([key, cost]) => [key, key.includes('sandbar') ? 990 : cost]),
    );
    expect(tiersOf(demoBlank, { ...demoList, baseCostMinor: dear }, doc.variants).map((tier) => tier.name)).toEqual([
      'Estuary, S – M',
      'Estuary, XXL',
      'Sandbar, S – XXL',
    ]);
    const oneSize = { ...demoBlank, options: demoBlank.options.filter(({ code }) => code === 'color') };
    expect(tierName(oneSize, ['color=estuary', 'color=sandbar'])).toBe('Estuary, Sandbar');
  });

  it('makes codes that do not depend on what else is chosen', () => {
    expect(skuFor('p-AbC123xyz9', demoBlank, 'color=estuary;size=m')).toBe('23XYZ9-TOWPATHTEE-ESTUARY-M');
    expect(new Set(keys.map((key) => skuFor('p1', demoBlank, key))).size).toBe(keys.length);
  });
});

describe('the canonical form', () => {
  it('holds options in order, a picture by color, and shipping by destination', () => {
    const f = form();
    expect(f.options.map((option) => [option.name, option.values.map((value) => value.name)])).toEqual([
      ['Color', ['Estuary', 'Sandbar']],
      ['Size', ['S', 'M', 'XXL']],
    ]);
    expect(f.variants['color=estuary;size=m']!.pictureKey).toBe('k1');
    expect(f.variants['color=sandbar;size=m']!.pictureKey).toBeNull();
    // 4.00 GBP at 1.25 is 5.00 USD; each further 1.00 GBP is 1.25 USD
    expect(f.shipping).toEqual([
      { countries: ['US', 'CA'], firstMinor: 625, furtherMinor: 250 },
      { countries: ['GB'], firstMinor: 500, furtherMinor: 125 },
    ]);
  });

  it('charges no shipping where it is in the price, and asks more for the thing', () => {
    const folded = form({ price: { ...doc.price, base: { ...doc.price.base, shipping: 'folded' } } });
    expect(folded.shipping.every((line) => line.firstMinor === 0)).toBe(true);
    expect(folded.variants['color=estuary;size=m']!.priceMinor).toBeGreaterThan(
      form().variants['color=estuary;size=m']!.priceMinor,
    );
  });

  it('follows a store’s own aim, then the base’s in its currency', () => {
    const price = {
      ...doc.price,
      base: { ...doc.price.base, variants: { 'color=estuary;size=m': { kind: 'retail' as const, amountMinor: 2000 } } },
      stores: { s1: { aim: { kind: 'retail' as const, amountMinor: 3100 } } },
    };
    expect(form({ price }).variants['color=estuary;size=m']!.priceMinor).toBe(3100);
    expect(form({ price: { ...price, stores: {} } }).variants['color=estuary;size=m']!.priceMinor).toBe(2500);
  });

  it('refuses an empty choice', () => {
    expect(() => form({ variants: {} })).toThrow(/No color and size/);
  });

  it('knows colors and geometries in use', () => {
    expect(chosenColors(doc, demoBlank)).toEqual(['estuary', 'sandbar']);
    expect(chosenGeometryIds({ ...doc, variants: { 'color=estuary;size=xxl': {} } }, demoBlank, 'main.front')).toEqual([
      'g-large',
    ]);
  });

  it('adds the charge of a second printed area to the cost', () => {
    const layer = sampleLayer();
    const world = {
      blank: demoBlank,
      list: demoList,
      rates: demoRates,
      outlet: baseOutlet('GBP', 'GB'),
    };
    const one = priceVariant({ ...doc, areas: { 'main.front': { layers: { l: layer } } } }, keys[0]!, world);
    const two = priceVariant(
      { ...doc, areas: { 'main.front': { layers: { l: layer } }, 'main.back': { layers: { l: layer } } } },
      keys[0]!,
      world,
    );
    expect(two.quote.makingMinor - one.quote.makingMinor).toBe(515);
  });
});

describe('a form out of a sale', () => {
  it('has the prices that were compared with, in the order of the options, whatever order it was stored in', () => {
    const plain = form();
    const sale = form({});
    const inSale = {
      ...sale,
      variants: Object.fromEntries(
        Object.entries(sale.variants)
          .map(
            ([key, v], i) =>
              [key, i === 0 ? v : { ...v, priceMinor: v.priceMinor - 100, compareAtMinor: v.priceMinor }] as const,
          )
          .toReversed(),
      ),
    };
    const back = outOfSale(inSale);
    expect(back).toEqual(plain);
    expect(Object.keys(back.variants)).toEqual(Object.keys(plain.variants));
  });
});

describe('rules', () => {
  const demands: ChannelDemands = {
    titleMin: 1,
    titleMax: 110,
    descriptionMax: 5000,
    tagsMax: 10,
    tagMax: 28,
    optionsMax: 2,
    variantsMax: 75,
    picturesMin: 1,
    picturesMax: 12,
    pictureLongSideMinPx: 1400,
    pictureFormat: OWN_FORMAT,
    firstOnWhite: false,
    priceMin: { minor: 20, currency: null },
    partnerDeclared: true,
  };
  const facts: RuleFacts = {
    channelName: 'Pennyquay',
    pictureLongSidePx: 1600,
    partnerDeclared: true,
    losing: [],
    usedAreaCount: 1,
  };
  const good = { ...form(), description: 'A tee.' };
  const broken = (over: object, f: Partial<RuleFacts> = {}) =>
    brokenRules(evaluateRules({ ...good, ...over }, demands, { ...facts, ...f })).map((r) => r.id);

  it('says of words as they are typed what it says of the whole form', () => {
    for (const over of [{}, { title: '' }, { description: '' }, { tags: ['x'.repeat(29), 'a', 'A'] }]) {
      const whole = evaluateRules({ ...good, ...over }, demands, facts).filter(({ part }) => part === 'words');
      expect(whole).toHaveLength(5);
      expect(wordsResults({ ...good, ...over }, demands, 'Pennyquay')).toEqual(whole);
    }
  });

  it('keeps a good form', () => expect(broken({})).toEqual([]));

  it('counts as a person does (UAX #29: a family emoji is 1)', () => {
    expect(graphemeCount('👨‍👩‍👧‍👦')).toBe(1);
    expect(broken({ title: '👨‍👩‍👧‍👦'.repeat(110) })).toEqual([]);
    expect(broken({ title: 'x'.repeat(111) })).toEqual(['title']);
  });

  it.each([
    ['title', { title: '' }],
    ['description', { description: '' }],
    ['tags', { tags: Array.from({ length: 11 }, (_, i) => `t${i}`) }],
    ['tag-length', { tags: ['x'.repeat(29)] }],
    ['tag-twice', { tags: ['River', 'river'] }],
    ['pictures', { pictures: [] }],
    [
      'variants',
      {
        variants: Object.fromEntries(
          Array.from({ length: 76 }, (_, i) => [`size=${i}`, { ...good.variants[keys[0]!], sku: `S${i}` }]),
        ),
      },
    ],
    ['options', { options: [1, 2, 3].map((i) => ({ code: `o${i}`, name: '', values: [] })) }],
  ])('finds a broken %s', (id, over) => expect(broken(over)).toEqual([id]));

  const loses = (
    key: string,
    priceMinor: number,
    losses: Record<string, number>,
    floorMinor: number | null = 1340,
  ) => ({
    key,
    name: key === 'm' ? 'Estuary, M' : 'Coal, L',
    priceMinor,
    losses: Object.entries(losses).map(([country, profitMinor]) => ({ country, profitMinor })),
    floorMinor,
  });
  const floorWith = (losing: ReturnType<typeof loses>[], accepted?: AcceptedLosses) =>
    evaluateRules(good, demands, {
      ...facts,
      losing,
      lossesAccepted: accepted ? { losses: accepted, by: 'Ida' } : null,
    }).find((rule) => rule.id === 'floor')!;

  it('finds a price that loses money to a destination, and names the worst with the numbers', () => {
    expect(floorWith([loses('m', 900, { GB: -10, CA: -410 }), loses('l', 900, { GB: -1 })])).toMatchObject({
      kept: false,
      acceptable: true,
      says: 'Estuary, M at 9.00 USD loses money to Canada (−4.10) and to 1 more: its floor is 13.40 USD (and 1 more).',
    });
    expect(floorWith([loses('m', 900, { GB: -10 }, null)]).says).toContain('with these fees no price brings anything');
    expect(floorWith([])).toMatchObject({ kept: true, says: 'No price is below its floor.' });
  });

  it('lets losses pass that somebody took upon themselves one by one; deeper or new ones are open again', () => {
    const losing = [loses('m', 900, { GB: -10, CA: -410 })];
    const accepted = acceptedLosses(losing);
    expect(accepted).toEqual({ m: { GB: -10, CA: -410 } });
    expect(floorWith(losing, accepted)).toMatchObject({ kept: true, acceptedBy: 'Ida' });
    // What loses less is covered.
    expect(floorWith([loses('m', 950, { CA: -360 })], accepted)).toMatchObject({ kept: true });
    // 14 of 15 variants made a loss that was not there when the first was accepted: they are told, without the first.
    const deeper = floorWith([loses('m', 899, { GB: -10, CA: -411 }), loses('l', 20, { CA: -1300 })], accepted);
    expect(deeper.kept).toBe(false);
    expect(deeper.says).toMatch(/^Estuary, M at 8.99 USD loses money to Canada \(−4.11\): .* \(and 1 more\)\.$/);
    expect(floorWith([loses('m', 900, { GB: -10, CA: -410, DE: -1 })], accepted).says).toContain('Germany');
    expect(floorWith([loses('l', 900, { GB: -1 })], accepted).kept).toBe(false);
  });

  it('finds two variants with one SKU', () => {
    const same = Object.fromEntries(
      Object.entries(good.variants).map(([key, variant]) => [key, { ...variant, sku: 'SAME' }]),
    );
    expect(broken({ variants: same })).toEqual(['sku']);
  });

  it('wants the partner declared and pictures large', () => {
    expect(broken({}, { partnerDeclared: false })).toEqual(['partner']);
    expect(broken({}, { pictureLongSidePx: 1399 })).toEqual(['picture-size']);
  });
});

describe('sync', () => {
  const facts = { hereHash: 'a', agreedHash: 'a', thereHash: 'a', refusedHash: null };
  it.each([
    ['in-step', {}],
    ['not-listed', { agreedHash: null, thereHash: null }],
    ['ahead', { hereHash: 'b' }],
    ['behind', { thereHash: 'b' }],
    ['split', { hereHash: 'b', thereHash: 'c' }],
    ['in-step', { hereHash: 'b', thereHash: 'b' }],
    ['refused', { hereHash: 'b', refusedHash: 'b' }],
    ['ahead', { hereHash: 'c', refusedHash: 'b' }],
    ['not-listed', { hereHash: 'c', refusedHash: 'b', agreedHash: null, thereHash: null }],
    ['in-step', { thereHash: null }],
  ] as const)('is %s', (state, over) => expect(syncState({ ...facts, ...over })).toBe(state));
});
