import { describe, expect, it } from 'vitest';
import { shippingTo } from '../catalog/blank';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { checkDocument } from '../document/check';
import { setChosen } from '../document/choosing';
import { newDocument, type ProductDocument } from '../document/document';
import { priceChanges } from './changes';
import {
  followBase,
  followWith,
  raisePrices,
  raiseToFloors,
  roundPrices,
  setAimForAll,
  setAims,
  setPlan,
} from './fixing';
import { baseOutlet, type Outlet } from './outlet';
import { listingForm } from '../listing/form';
import { shippingLines } from '../listing/form-shipping';
import { losesMoney, pricer } from './pricer';
import { termsFor } from './terms';
import { sampleLayer } from '../document/sample';
import { PLAIN_ROUNDING } from './rounding';
import { checkRule, ruleOf, withRule } from './rule';
import { PLAIN_SETTINGS } from './settings';
import { checkMoneySettings } from './settings-check';
import { sampleFee } from './terms-sample';
import { whatIf } from './what-if';

const m = 'color=estuary;size=m';
const xxl = 'color=estuary;size=xxl';
const base = baseOutlet('GBP', 'GB');
const shop: Outlet = {
  id: 's1',
  name: 'Pennyquay',
  currency: 'USD',
  fees: [sampleFee({ ratePpm: 100_000 })],
  expectedSales: 10,
  sellsTo: ['GB'],
  aimsAt: 'first',
};
const world = (outlet: Outlet, also = {}) => ({
  blank: demoBlank,
  list: demoList,
  rates: demoRates,
  outlet,
  ...also,
});
const plain: ProductDocument = { ...newDocument('b1', 'GBP', 'Tee'), variants: { [m]: {}, [xxl]: {} } };
const retail = (doc: ProductDocument, outlet: Outlet, key = m, also = {}) =>
  pricer(doc, world(outlet, also))(key).retailMinor;

describe('the plan of prices', () => {
  it('lets a store reach the aims with its own fees, or follow the prices with a difference', () => {
    const doc = setAimForAll(plain, null, { kind: 'retail', amountMinor: 2000 });
    // 20.00 GBP at 1.25.
    expect(retail(doc, shop)).toBe(2500);
    const dearer = setPlan(followWith(doc, 's1', 80_000), 's1', { ending: '.99' });
    expect(retail(dearer, shop)).toBe(2799);
    expect(pricer(dearer, world(shop))(m)).toMatchObject({ follows: true, own: false });
    // What is typed for a variant there goes before.
    expect(retail(setAims(dearer, 's1', [m], { kind: 'retail', amountMinor: 3000 }), shop)).toBe(3000);
    expect(retail(followBase(dearer, 's1'), shop)).toBe(2500);
    expect(checkDocument(dearer)).toEqual([]);
  });

  it('keeps aims when cost changes: a margin follows, a typed price stays', () => {
    const dear = { ...demoList, baseCostMinor: { ...demoList.baseCostMinor, [m]: 940 } };
    const margin = setAims(plain, null, [m], { kind: 'margin', ppm: 500_000 });
    expect(retail(margin, base)).toBe(1480);
    expect(retail(margin, base, m, { list: dear })).toBe(1880);
    const typed = setAims(plain, null, [m], { kind: 'retail', amountMinor: 900 });
    expect(losesMoney(pricer(typed, world(base))(m))).toBe(false);
    expect(losesMoney(pricer(typed, world(base, { list: dear }))(m))).toBe(true);
  });

  it('counts the partner’s discount, an insert once an order, and a tax', () => {
    const list = { ...demoList, inserts: [{ code: 'card', name: 'Card', costMinor: 100 }] };
    const settings = {
      ...PLAIN_SETTINGS,
      discounts: { [demoBlank.partner.id]: 100_000 },
      taxes: [{ country: '*', label: 'VAT', ratePpm: 200_000, inside: true }],
    };
    const doc = setAimForAll(setPlan(plain, null, { insert: 'card' }), null, { kind: 'profit', amountMinor: 500 });
    const { terms, quote: q } = pricer(doc, world(base, { list, settings }))(m);
    // 7.40 + 1.00 − 0.84
    expect(terms.landed.makingMinor).toBe(756);
    expect(q.profitMinor).toBeGreaterThanOrEqual(500);
    expect(q.taxMinor).toBe(Math.round(((q.retailMinor + q.shippingChargedMinor) * 0.2) / 1.2));
  });

  it('charges a store’s own sum for goods of a parcel class, wherever it sells, and tells the shop the same', () => {
    const wide = { ...shop, sellsTo: ['GB', 'US', 'DE'] };
    const own = { ...wide, shippingByClass: { [demoBlank.parcelClass]: { firstMinor: 499, furtherMinor: 150 } } };
    const charged = (outlet: Outlet, items = 1) =>
      outlet.sellsTo
        .filter((country) => shippingTo(demoList, country))
        .map((country) => termsFor(plain, m, world(outlet), country, items).shippingChargedMinor);
    const everywhere = charged(wide);
    expect(everywhere.length).toBeGreaterThan(1);
    expect(charged(own)).toEqual(everywhere.map(() => 499));
    expect(charged(own, 3)).toEqual(everywhere.map(() => 499 + 2 * 150));
    expect(charged({ ...own, eachItemAlike: true }, 3)).toEqual(everywhere.map(() => 3 * 499));
    expect(charged({ ...wide, shippingByClass: { crate: { firstMinor: 1, furtherMinor: 1 } } })).toEqual(everywhere);
    const lines = shippingLines({ doc: plain, ...world(own), outlet: own });
    expect(lines.flatMap(({ countries }) => countries)).toHaveLength(everywhere.length);
    for (const line of lines) expect(line).toMatchObject({ firstMinor: 499, furtherMinor: 150 });
  });

  it('gives shipping away from a sum on, in the currency in which the sum was set', () => {
    const doc = setPlan(setAimForAll(plain, null, { kind: 'retail', amountMinor: 2000 }), null, {
      freeFromMinor: 2000,
    });
    expect(pricer(doc, world(base))(m).quote.shippingChargedMinor).toBe(0);
    // 20.00 GBP are 25.00 USD: reached too.
    expect(pricer(doc, world(shop))(m).terms.freeFromMinor).toBe(2500);
    expect(
      pricer(setPlan(doc, 's1', { freeFromMinor: 2600 }), world(shop))(m).quote.shippingChargedMinor,
    ).toBeGreaterThan(0);
  });

  it('raises by a share and rounds up to an ending', () => {
    const doc = setAimForAll(plain, null, { kind: 'retail', amountMinor: 2000 });
    const price = pricer(doc, world(base));
    const raised = raisePrices(doc, null, [price(m)], 50_000, { ...PLAIN_ROUNDING, ending: '.99' }, 'GBP');
    expect([retail(raised, base), retail(raised, base, xxl)]).toEqual([2199, 2000]);
    const rounded = roundPrices(doc, null, [price(m), price(xxl)], { ...PLAIN_ROUNDING, ending: '.95' }, 'GBP');
    expect([retail(rounded, base), retail(rounded, base, xxl)]).toEqual([2095, 2095]);
    expect(rounded.price.base.ending).toBe('.95');
  });

  it('forgets what was fixed for a variant that is dropped, in every store', () => {
    const aim = { kind: 'retail', amountMinor: 900 } as const;
    const doc = setChosen(setAims(setAims(plain, null, [m], aim), 's1', [m, xxl], aim), [m], false);
    expect(doc.price.base.variants).toEqual({});
    expect(Object.keys(doc.price.stores.s1!.variants!)).toEqual([xxl]);
  });
});

describe('a store that sells to several countries', () => {
  const list = {
    ...demoList,
    shipping: [
      { region: 'gb', countries: ['GB'], firstMinor: 400, furtherMinor: 101, daysMin: 2, daysMax: 4 },
      { region: 'ca', countries: ['CA'], firstMinor: 1600, furtherMinor: 333, daysMin: 2, daysMax: 4 },
    ],
  };
  const wide = (also: Partial<Outlet> = {}): Outlet => ({ ...shop, fees: [], sellsTo: ['GB', 'DE', 'CA'], ...also });
  const folded = setPlan(setAimForAll(plain, null, { kind: 'margin', ppm: 400_000 }), null, { shipping: 'folded' });
  const settings = {
    ...PLAIN_SETTINGS,
    mix: [
      { country: 'GB', weight: 3 },
      { country: 'CA', weight: 1 },
    ],
  };
  const at = (outlet: Outlet, doc = folded) => pricer(doc, world(outlet, { list, settings }))(m);

  it('has one price; its floor is where nothing is lost to any, and names the one that decides', () => {
    // 7.40 GBP are 9.25 USD to make; 4.00 GBP are 5.00 to send at home, 16.00 are 20.00 to Canada. Nobody sends to Germany.
    const one = at(wide());
    expect(one.to.map(({ country }) => country)).toEqual(['GB', 'CA']);
    expect(one.floor).toEqual({ minor: 2925, countries: ['CA'], withoutMinor: 1425, mixMinor: 1800 });
    // 14.25 at 40 % is 23.75: at home. To Canada that loses 5.50.
    expect(one).toMatchObject({ retailMinor: 2375, country: 'GB', losses: [{ country: 'CA', profitMinor: -550 }] });
    expect(losesMoney(one)).toBe(true);
  });

  it('meets its aim at the first, at whichever leaves least, or on the whole', () => {
    // 29.25 ÷ 0.6 = 48.75.
    expect(at(wide({ aimsAt: 'worst' }))).toMatchObject({ retailMinor: 4875, country: 'CA', losses: [] });
    // (3 × 14.25 + 29.25) ÷ 4 = 18.00; ÷ 0.6 = 30.00.
    const mixed = at(wide({ aimsAt: 'mix' }));
    expect(mixed).toMatchObject({ retailMinor: 3000, mix: { profitMinor: 1200, marginPpm: 400_000 } });
    // Where nobody knows where it sells, the first decides.
    expect(pricer(folded, world(wide({ aimsAt: 'mix' }), { list }))(m)).toMatchObject({ retailMinor: 2375, mix: null });
  });

  it('loses nothing where it does not sell, and says when nothing is left to sell to', () => {
    const without = setPlan(folded, 's1', { notTo: { CA: true } });
    expect(at(wide(), without)).toMatchObject({ losses: [], floor: { minor: 1425, countries: [] } });
    expect(checkDocument(without)).toEqual([]);
    expect(checkDocument(setPlan(folded, 's1', { notTo: { Canada: true } }))).not.toEqual([]);
    expect(() => at(wide({ sellsTo: ['CA'] }), without)).toThrow(/taken out of every country/);
    expect(() => at(wide({ sellsTo: ['DE', 'FR'] }))).toThrow(
      /no shipping to a country to which Pennyquay sells: DE, FR/,
    );
  });

  it('raises prices to their floors, with their ending', () => {
    const one = at(wide());
    const raised = raiseToFloors(folded, 's1', [one], { ...PLAIN_ROUNDING, ending: '.99', way: 'down' }, 'USD');
    expect(at(wide(), raised)).toMatchObject({ retailMinor: 2999, losses: [] });
  });

  it('charges for a basket what the shop is told: first and further, each rounded once', () => {
    const charged = setPlan(folded, null, { shipping: 'charged' });
    const form = listingForm({
      productId: 'p1',
      doc: charged,
      blank: demoBlank,
      list,
      rates: demoRates,
      outlet: wide(),
      pictures: [],
    });
    for (const { countries, firstMinor, furtherMinor } of form.shipping)
      for (const country of countries)
        for (let items = 1; items <= 20; items += 1) {
          const terms = termsFor(charged, m, world(wide(), { list }), country, items);
          expect(terms.shippingChargedMinor).toBe(firstMinor + (items - 1) * furtherMinor);
        }
    expect(form.shipping.map(({ countries }) => countries)).toEqual([['GB'], ['CA']]);
  });
});

describe('nothing costs nothing', () => {
  const layer = sampleLayer();
  const both = { ...plain, areas: { 'main.front': { layers: { l: layer } }, 'main.back': { layers: { l: layer } } } };

  it('an area, an insert or a shipping line that the price list lacks stops with what is missing', () => {
    const { 'main.back': _gone, ...extraAreaMinor } = demoList.extraAreaMinor;
    expect(() => retail(both, base, m, { list: { ...demoList, extraAreaMinor } })).toThrow(
      /says nothing of printing Back/,
    );
    expect(() => retail(setPlan(plain, null, { insert: 'card' }), base)).toThrow(/no longer has the insert “card”/);
    expect(() => retail(plain, base, m, { list: { ...demoList, shipping: [] } })).toThrow(/no shipping to any of your/);
    expect(retail(both, base)).toBeGreaterThan(retail(plain, base));
  });
});

describe('rules and settings', () => {
  const rule = {
    aim: { kind: 'margin', ppm: 450_000 },
    ending: '.99',
    way: 'nearest',
    shipping: 'folded',
    differences: { s1: 50_000 },
  } as const;

  it('prices a product by a rule, and reads the rule back', () => {
    const doc = withRule(setAims(plain, null, [m], { kind: 'retail', amountMinor: 1 }), rule);
    expect(doc.price.base.variants).toEqual({});
    expect(ruleOf(doc)).toEqual(rule);
    expect(retail(doc, base) % 100).toBe(99);
    expect(ruleOf(setAimForAll(doc, null, { kind: 'retail', amountMinor: 900 }))).toBeNull();
  });

  it('says what is wrong with a rule or with settings', () => {
    expect(checkRule(rule)).toEqual([]);
    expect(
      checkRule({
        ...rule,
        aim: { kind: 'margin', ppm: 1_000_000 },
        ending: 'x.37',
        shipping: 'maybe',
        differences: { s: 0.5 },
      }),
    ).toHaveLength(4);
    expect(checkMoneySettings(PLAIN_SETTINGS)).toEqual([]);
    expect(checkMoneySettings({ ...PLAIN_SETTINGS, taxes: [null, null], duties: [null], own: null })).toHaveLength(4);
    const faults = checkMoneySettings({
      rateMarginPpm: -1,
      taxes: [
        { country: 'Germany', label: 'VAT', ratePpm: 1, inside: true },
        { country: 'GB', label: 'VAT', ratePpm: 2_000_000, inside: 'yes' },
      ],
      discounts: { p: 990_000 },
      mix: [
        { country: 'US', weight: 0 },
        { country: 'US', weight: 1 },
      ],
      ladders: { usd: [1], USD: [200, 100] },
      goods: [{ kind: '', country: 'UK2', taxClass: 'odd' }],
      duties: [{ country: 'EU', label: 'Duty', ratePpm: 2_000_000, overMinor: -1, currency: 'XXX', firstDay: 'soon' }],
      own: { ...PLAIN_SETTINGS.own, adsPpm: 950_000, itemsPerMonth: 0, monthly: [{ label: 'Rent' }] },
    });
    const told = faults.join(' ');
    for (const says of [
      /safety margin/,
      /Germany/,
      /from 0 % to 100 %/,
      /within the price/,
      /discount/,
      /whole number/,
      /twice/,
      /“usd”/,
      /each more/,
      /up to 60 characters/,
      /two letters/,
      /class of a good/,
      /from 0 % to 99 %/,
      /0 or more/,
      /XXX/,
      /soon/,
      /1 or more/,
      /Ads take/,
      /cost by the month/,
    ])
      expect(told).toMatch(says);
  });

  it('tells what a person changed about prices, thing by thing', () => {
    const now = setPlan(setAims(plain, 's1', [m], { kind: 'profit', amountMinor: 400 }), null, { ending: '.99' });
    expect(priceChanges(plain, now)).toEqual([
      { storeId: null, variantKey: '*', what: 'ending', was: '"none"', now: '".99"' },
      { storeId: 's1', variantKey: m, what: 'aim', was: null, now: '{"amountMinor":400,"kind":"profit"}' },
    ]);
    expect(priceChanges(now, now)).toEqual([]);
  });
});

describe('what if', () => {
  it('makes costs 8 % dearer, the rate 5 % worse, a sale of 20 %: prices stay', () => {
    const doc = setAimForAll(plain, null, { kind: 'retail', amountMinor: 2000 });
    const { to } = pricer(doc, world(shop))(m);
    // 7.40 GBP are 9.25 USD, shipping 4.00 GBP are 5.00 USD, which the buyer pays; the shop takes 10 % of 25.00.
    const at = (change: object) => whatIf(to, 2500, { costPpm: 0, ratePpm: 0, salePpm: 0, ...change }).then.profitMinor;
    expect(at({})).toBe(2500 - 925 - 250);
    expect(at({ costPpm: 80_000 })).toBe(2500 - 999 - 40 - 250);
    // 9.25 ÷ 0.95 = 9.74, 5.00 ÷ 0.95 = 5.26
    expect(at({ ratePpm: -50_000 })).toBe(2500 - 974 - 26 - 250);
    expect(at({ salePpm: 200_000 })).toBe(2000 - 925 - 200);
  });
});
