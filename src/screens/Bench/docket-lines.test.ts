import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '@/core/catalog/sample';
import { newDocument, type ProductDocument } from '@/core/document/document';
import type { Outlet } from '@/core/pricing/outlet';
import { PLAIN_SETTINGS } from '@/core/pricing/settings';
import { sampleFee } from '@/core/pricing/terms-sample';
import { ledgerEntries } from './ledger';
import { priceAll, stepped, tierRows } from './Price/prices';
import { moveWords } from './PriceMoved';
import { docketLines } from './docket-lines';

const fee = sampleFee({ label: 'Commission, 5 %', of: 'item+shipping', ratePpm: 50_000 });
const outlet: Outlet = {
  id: 's1',
  name: 'Pennyquay',
  currency: 'USD',
  fees: [fee],
  expectedSales: 10,
  sellsTo: ['US'],
  aimsAt: 'first',
};
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Tee'),
  variants: Object.fromEntries(demoBlank.variants.map((v) => [v.key, {}])),
};
const world = { blank: demoBlank, list: demoList, rates: demoRates, outlet };

const front = {
  id: 'h1',
  document: { name: 'Front', angle: 'front', areas: { 'main.front': { variant: { size: 'm' } } } },
};

describe('docket', () => {
  const lines = (over: Partial<ProductDocument>, listings: Parameters<typeof docketLines>[0]['listings'] = []) => {
    const d = { ...doc, ...over };
    return docketLines({
      doc: d,
      blank: demoBlank,
      list: demoList,
      findings: [],
      priced: priceAll(d, world).priced,
      currency: 'USD',
      shots: [front],
      wordsBroken: false,
      listings,
    });
  };

  it('tells each part’s truth and what it lacks', () => {
    const now = lines({});
    expect(now.artwork.mark).toEqual({ kind: 'lacking', text: 'empty' });
    expect(now.variants.truth).toBe('2 colors, 6 variants');
    expect(now.pictures.mark).toEqual({ kind: 'lacking', text: 'none' });
    expect(now.price.truth).toMatch(/^2 tiers, [\d.]+–[\d.]+ USD$/);
    expect(now.words.truth).toBe('no description');
    expect(lines({ variants: {} }).price.mark.text).toBe('none');
  });

  it('counts states of stores with mark and word', () => {
    expect(
      lines({}, [
        { state: 'ahead', rules: [] },
        { state: 'not-listed', rules: [] },
      ]).stores.truth,
    ).toBe('▲ 1 ahead, ○ 1 not listed');
  });

  it('marks prices below the floor', () => {
    const low = lines({
      price: { ...doc.price, base: { ...doc.price.base, aim: { kind: 'retail', amountMinor: 100 } } },
    });
    expect(low.price.mark).toEqual({ kind: 'stop', text: '6 below floor' });
  });
});

describe('ledger', () => {
  it('sums from price to what is left, to the cent, and opens each amount', () => {
    const { priced } = priceAll(doc, world);
    const { entries } = ledgerEntries(priced[0]!, priced[0]!.terms);
    const value = (id: string) => Number(entries.find((e) => e.id === id)!.amount.replace('−', '-'));
    const cents = (id: string) => Math.round(value(id) * 100);
    expect(cents('retail') + cents('shipping-charged') - cents('making') - cents('shipping') - cents('fees')).toBe(
      cents('left'),
    );
    expect(entries.find((e) => e.id === 'making')!.behind[0]!.label).toBe('Base cost (7.40 GBP)');
    expect(entries.find((e) => e.id === 'fees')!.behind[0]!.label).toMatch(/^Commission: 5 % of \d+\.\d\d$/);
  });

  it('shows the tax of a destination, within the price or on top', () => {
    const taxed = (inside: boolean) => {
      const settings = {
        ...PLAIN_SETTINGS,
        taxes: [{ country: 'US', label: 'Tax', ratePpm: 100_000, inside }],
      };
      const { priced } = priceAll(doc, { ...world, settings });
      return ledgerEntries(priced[0]!, priced[0]!.terms).entries.find((e) => e.id === 'tax')!;
    };
    expect(taxed(true).label).toBe('− Tax');
    expect(taxed(true).behind[0]!.label).toMatch(/^Tax, 10 % within /);
    expect(taxed(false).says).toMatch(/passes through/);
  });

  it('steps a shown amount by whole units and by tenths, never below 0', () => {
    expect([stepped('19.99', 1), stepped('0.50', -1), stepped('1200', 10), stepped('19.99', 0.1)]).toEqual([
      '20.99',
      '0.00',
      '1210',
      '20.09',
    ]);
  });

  it('says what is wrong where some variants cannot be priced, and prices the others', () => {
    const key = demoBlank.variants[0]!.key;
    const { [key]: _gone, ...baseCostMinor } = demoList.baseCostMinor;
    const { priced, problem, unpriced } = priceAll(doc, { ...world, list: { ...demoList, baseCostMinor } });
    expect([priced.length, unpriced]).toEqual([5, 1]);
    expect(problem).toMatch(/no base cost/);
  });

  it('says in a line what moved a price that nobody typed', () => {
    const dear = {
      ...demoList,
      baseCostMinor: Object.fromEntries(Object.entries(demoList.baseCostMinor).map(([key, cost]) => [key, cost + 400])),
    };
    const [before] = priceAll(doc, world).priced;
    const [after] = priceAll(doc, { ...world, list: dear }).priced;
    // 4.00 GBP are 5.00 USD.
    expect(moveWords(before!, after!)).toMatch(
      /^It costs 5\.00 more: the price rose from [\d.]+ to [\d.]+ USD to keep margin 40\.0 %\.$/,
    );
    expect(moveWords(after!, before!)).toMatch(/^It costs 5\.00 less: the price fell /);
    expect(moveWords(before!, before!)).toBeNull();
    const typed = {
      ...doc,
      price: { ...doc.price, base: { ...doc.price.base, aim: { kind: 'retail', amountMinor: 900 } } },
    } as const;
    expect(
      moveWords(priceAll(typed, world).priced[0]!, priceAll(typed, { ...world, list: dear }).priced[0]!),
    ).toBeNull();
  });

  it('shows tiers with what was fixed', () => {
    const { priced } = priceAll(doc, world);
    expect(tierRows(doc, demoBlank, demoList, priced).map((row) => [row.tier.name, row.fixed, row.mixed])).toEqual([
      ['S – M', 'margin 40.0 %', false],
      ['XXL', 'margin 40.0 %', false],
    ]);
  });
});
