import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { newDocument } from '../document/document';
import { EU_DUTY, dutyTo, NO_OWN_COSTS, ownFees, type OwnCosts } from './own-costs';
import { baseOutlet, type Outlet } from './outlet';
import { pricer } from './pricer';
import { quote } from './quote';
import { RateTable } from './rates';
import { PLAIN_SETTINGS, settingsOn, type MoneySettings } from './settings';
import { solveRetail } from './solve';
import { setAimForAll, setPlan } from './fixing';
import { classOf, taxOnTop, taxTo, taxWithin, type Tax } from './tax';
import { sampleFee, sampleTerms } from './terms-sample';

const vat = (country: string, ratePpm: number, also: Partial<Tax> = {}): Tax => ({
  country,
  label: 'VAT',
  ratePpm,
  inside: true,
  ...also,
});

describe('tax within and on top', () => {
  it.each([
    // HMRC, VAT guide (Notice 700): the VAT fraction of 20 % is 1/6, that of 5 % is 1/21 (from memory).
    [12_000, 200_000, 2000],
    [2100, 50_000, 100],
    [999, 200_000, 167],
    // Germany, 19 %: 119.00 gross hold 19.00; 7 %: 107.00 hold 7.00 (section 12 UStG, from memory).
    [11_900, 190_000, 1900],
    [10_700, 70_000, 700],
    // Directive 2006/112/EC works in the same way at 25 %: a fifth of the gross sum (from memory).
    [12_500, 250_000, 2500],
  ])('%i holds tax at %i ppm: %i', (gross, ratePpm, tax) => expect(taxWithin(gross, vat('XX', ratePpm))).toBe(tax));

  it.each([
    // California, statewide 7.25 % on 100.00 (CDTFA, from memory); New York City 8.875 % on 40.00 is 3.55 (by hand).
    [10_000, 72_500, 725],
    [4000, 88_750, 355],
  ])('%i gets tax at %i ppm on top: %i', (net, ratePpm, tax) =>
    expect(taxOnTop(net, vat('XX', ratePpm, { inside: false }))).toBe(tax),
  );
});

describe('which tax holds', () => {
  const taxes = [
    vat('*', 100_000),
    vat('GB', 200_000),
    vat('GB', 175_000, { firstDay: '2026-12-01' }),
    vat('GB', 50_000, { taxClass: 'reduced' }),
    vat('US', 0, { inside: false }),
    vat('US-CA', 72_500, { inside: false }),
  ];
  const rate = (...ask: Parameters<typeof taxTo> extends [unknown, ...infer R] ? R : never) =>
    taxTo(taxes, ...ask)?.ratePpm ?? null;

  it('a state before its country, a country before all others', () => {
    expect([rate('US-CA'), rate('US-TX'), rate('US'), rate('FR')]).toEqual([72_500, 0, 0, 100_000]);
  });

  it('by class: reduced where it is named, else as standard; zero is none', () => {
    const day = '2026-11-29';
    expect([
      rate('GB', { day }),
      rate('GB', { day, taxClass: 'reduced' }),
      rate('GB', { day, taxClass: 'zero' }),
    ]).toEqual([200_000, 50_000, null]);
    expect(rate('FR', { taxClass: 'reduced' })).toBe(100_000);
    const goods = [
      { kind: 'T-shirt', country: '*', taxClass: 'reduced' },
      { kind: 'T-shirt', country: 'GB', taxClass: 'zero' },
    ] as const;
    expect([classOf(goods, 'T-shirt', 'GB'), classOf(goods, 'T-shirt', 'FR'), classOf(goods, 'Mug', 'GB')]).toEqual([
      'zero',
      'reduced',
      'standard',
    ]);
  });

  it('from its first day on', () => {
    expect([rate('GB', { day: '2026-11-30' }), rate('GB', { day: '2026-12-01' })]).toEqual([200_000, 175_000]);
    const settings: MoneySettings = { ...PLAIN_SETTINGS, taxes };
    expect(taxTo(settingsOn(settings, '2026-11-30').taxes, 'GB')?.ratePpm).toBe(200_000);
    expect(taxTo(settingsOn(settings, '2027-01-01').taxes, 'GB')?.ratePpm).toBe(175_000);
  });
});

describe('duty', () => {
  it('is for goods from outside, above the sum that is free; within the EU there is none', () => {
    expect([dutyTo([EU_DUTY], 'GB', 'DE'), dutyTo([EU_DUTY], 'PL', 'DE'), dutyTo([EU_DUTY], 'GB', 'US')]).toEqual([
      EU_DUTY,
      null,
      null,
    ]);
    const own = { ...EU_DUTY, country: 'DE', ratePpm: 1, firstDay: '2027-01-01' };
    expect(dutyTo([EU_DUTY, own], 'GB', 'DE', '2026-12-31')).toBe(EU_DUTY);
    expect(dutyTo([EU_DUTY, own], 'GB', 'DE', '2027-01-01')).toBe(own);
  });

  it('begins above 150.00: 150.00 pays none, 150.01 at 12 % pays 18.00 (by hand), and the solver jumps over the step', () => {
    const duty = sampleFee({ id: 'own-duty', ratePpm: 120_000, overMinor: 15_000, own: true });
    const terms = sampleTerms(14_000, { currency: 'EUR', fees: [duty] });
    expect(quote(terms, 15_000).feesMinor).toBe(0);
    expect(quote(terms, 15_001).feesMinor).toBe(1800);
    expect(solveRetail(terms, { kind: 'profit', amountMinor: 1000 })).toBe(15_000);
    // 10.01 more than the cost: 150.01 would leave −7.99; (140.00 + 10.01) ÷ 0.88 = 170.466, so 170.47.
    expect(solveRetail(terms, { kind: 'profit', amountMinor: 1001 })).toBe(17_047);
  });
});

describe('own costs', () => {
  const costs = (also: Partial<OwnCosts>): OwnCosts => ({
    ...NO_OWN_COSTS,
    currency: 'USD',
    itemsPerMonth: 50,
    ...also,
  });
  const sums = (also: Partial<OwnCosts>, items = 1) =>
    ownFees(costs(also), { landedMinor: 1200 * items, items }, 'USD', new RateTable([])).map((fee) => [
      fee.ratePpm,
      fee.fixedMinor,
    ]);

  it('are off by default, and each is a line with its sum (by hand)', () => {
    expect(sums({})).toEqual([]);
    // 2.00 a day × 365 ÷ 12 = 60.84 a month over 50 items: 1.22 rounded up.
    expect(sums({ adsPpm: 80_000, adsPerDayMinor: 200 })).toEqual([
      [80_000, 0],
      [0, 122],
    ]);
    // 4 % of 12.00 is 0.48; of 20.00 lost each time 0.80.
    expect(sums({ returnsPpm: 40_000 })).toEqual([[0, 48]]);
    expect(sums({ returnsPpm: 40_000, returnLossMinor: 2000 }, 2)).toEqual([[0, 160]]);
    // 29.00 a month over 50 items; input tax of 19 % on 12.00.
    expect(sums({ monthly: [{ label: 'Shop plan', amountMinor: 2900 }] })).toEqual([[0, 58]]);
    expect(sums({ inputTaxPpm: 190_000 })).toEqual([[0, 228]]);
  });
});

describe('a product', () => {
  const key = 'color=estuary;size=m';
  const doc = setPlan(
    setAimForAll({ ...newDocument('b1', 'GBP', 'Tee'), variants: { [key]: {} } }, null, {
      kind: 'retail',
      amountMinor: 2000,
    }),
    null,
    { shipping: 'folded' },
  );
  const at = (outlet: Outlet, settings: Partial<MoneySettings>) =>
    pricer(doc, {
      blank: demoBlank,
      list: demoList,
      rates: demoRates,
      outlet,
      settings: { ...PLAIN_SETTINGS, ...settings },
    })(key);

  it('goes to each state with a tax of its own as to a destination of its own', () => {
    const outlet = { ...baseOutlet('GBP', 'US'), fees: [sampleFee({ of: 'total', ratePpm: 500_000 })] };
    const taxes = [vat('US-CA', 100_000, { inside: false })];
    const one = at(outlet, { taxes });
    expect(one.to.map(({ country }) => country)).toEqual(['US', 'US-CA']);
    // The fee is on the tax too: it takes 10.00, and 11.00 where 2.00 of tax are on top.
    const [plain, taxed] = one.to.map(({ terms }) => quote(terms, 2000).feesMinor);
    expect([plain, taxed]).toEqual([1000, 1100]);
    expect(one.floor.countries).toEqual(['US-CA']);
  });

  it('is taxed by its class, and its own costs and duty are fees of the seller', () => {
    const taxes = [vat('GB', 200_000), vat('GB', 50_000, { taxClass: 'reduced' })];
    const goods = [{ kind: demoBlank.kind, country: 'GB', taxClass: 'reduced' as const }];
    expect(at(baseOutlet('GBP', 'GB'), { taxes }).quote.taxMinor).toBe(333);
    expect(at(baseOutlet('GBP', 'GB'), { taxes, goods }).quote.taxMinor).toBe(95);
    const own = { ...NO_OWN_COSTS, adsPpm: 100_000 };
    const duties = [{ ...EU_DUTY, country: 'US', overMinor: 0, currency: 'GBP' }];
    const { quote: q } = at(baseOutlet('GBP', 'US'), { own, duties });
    expect(q.fees.map(({ fee, amountMinor }) => [fee.own, amountMinor])).toEqual([
      [true, 240],
      [true, 200],
    ]);
  });
});
