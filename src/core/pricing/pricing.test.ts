import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fee } from './fees';
import { landedCost } from './landed';
import { formatMoney, minorDigits, money, mulDiv, parseAmountMinor, parsePercentPpm, PPM } from './money';
import { quote } from './quote';
import { RateTable } from './rates';
import { PLAIN_ROUNDING, priceFor, rounded } from './rounding';
import { floorMinor, solveRetail } from './solve';
import { CARD, sampleFee, sampleTerms } from './terms-sample';

const noRates = new RateTable([]);
const terms = (costMinor: number, fees: Fee[] = [], shippingChargedMinor = 0) =>
  sampleTerms(costMinor, { fees, shippingChargedMinor });
const card = CARD;

describe('facts of the trade (common practice, no source)', () => {
  it('cost 7.69 at a margin of 40 % is 12.82, profit 5.13', () => {
    const t = terms(769);
    const retail = solveRetail(t, { kind: 'margin', ppm: 400_000 });
    expect([retail, quote(t, retail).profitMinor]).toEqual([1282, 513]);
    expect(quote(t, 1500).profitMinor).toBe(731);
  });

  it('cost 9.58 and a profit of 10.00 is 19.58', () => {
    expect(solveRetail(terms(958), { kind: 'profit', amountMinor: 1000 })).toBe(1958);
  });

  it('cost 28.00 sold at 50.00 is a margin of 44 %', () => {
    expect(quote(terms(2800), 5000).marginPpm).toBe(440_000);
  });

  it('card processing of 2.9 % + 0.30 on 20.00 is 0.88', () => {
    expect(quote(terms(0, [card]), 2000).feesMinor).toBe(88);
  });

  it('a second printed side adds its own charge of 5.15', () => {
    const landed = landedCost(
      {
        baseCost: money(769, 'USD'),
        charges: [{ id: 'back', label: 'Back', cost: money(515, 'USD') }],
        shipping: money(466, 'USD'),
      },
      'USD',
      noRates,
    );
    expect([landed.makingMinor, landed.shippingMinor, landed.totalMinor]).toEqual([1284, 466, 1750]);
  });

  it('takes 0.20 for each listing that goes live, spread over sales and never short', () => {
    const fee = sampleFee({ per: 'listing', fixedMinor: 20 });
    expect(quote({ ...terms(0, [fee]), expectedSales: 1 }, 1000).feesMinor).toBe(20);
    expect(quote({ ...terms(0, [fee]), expectedSales: 7 }, 1000).feesMinor).toBe(3);
  });
});

describe('money', () => {
  it('knows minor units (ISO 4217: JPY 0, USD 2, KWD 3)', () => {
    expect(['JPY', 'USD', 'KWD'].map(minorDigits)).toEqual([0, 2, 3]);
    expect(formatMoney(money(2150, 'USD'))).toBe('21.50 USD');
    expect(formatMoney(money(-5, 'KWD'))).toBe('−0.005 KWD');
    expect(formatMoney(money(1200, 'JPY'))).toBe('1200 JPY');
  });

  it('reads amounts by either decimal sign and refuses the rest', () => {
    expect(parseAmountMinor('12.50', 'USD')).toBe(1250);
    expect(parseAmountMinor('12,5 ', 'USD')).toBe(1250);
    expect(parseAmountMinor('USD 3', 'USD')).toBe(300);
    expect(parseAmountMinor('1200', 'JPY')).toBe(1200);
    for (const bad of ['', 'abc', '1e9', '12.345', '1.2.3']) expect(() => parseAmountMinor(bad, 'USD')).toThrow();
    // What programs of several countries write, where it can mean one sum only.
    for (const [text, currency, minor] of [
      ['€12', 'EUR', 1200],
      ['12,50 €', 'EUR', 1250],
      ['-€1.50', 'EUR', -150],
      ['1 000', 'USD', 100_000],
      ['1\u202f234,50', 'EUR', 123_450],
      ["12'345.60", 'USD', 1_234_560],
      ['1,234.56', 'USD', 123_456],
      ['1.234,56', 'EUR', 123_456],
      ['1,234,567', 'USD', 123_456_700],
      ['1,000', 'JPY', 1000],
      ['¥1,480', 'JPY', 1480],
      ['1.000', 'KWD', 1000],
      ['0.125', 'KWD', 125],
    ] as const)
      expect([text, parseAmountMinor(text, currency)]).toEqual([text, minor]);
    for (const [text, currency] of [
      ['1,234', 'USD'],
      ['1.234', 'EUR'],
      ['1,000', 'KWD'],
    ] as const)
      expect(() => parseAmountMinor(text, currency)).toThrow(/can mean/);
    for (const bad of ['$12', '1 00', '12 345 6', '1,23,4', '.', ',5', '5.', '1.234.56', '--1', '1,2.3,4'])
      expect(() => parseAmountMinor(bad, 'EUR')).toThrow(/amount|can mean/);
    expect(parsePercentPpm('2.9 %')).toBe(29_000);
    expect(() => parsePercentPpm('forty')).toThrow(/not a percentage/);
  });

  it('multiplies and divides like decimal.js, to the unit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -2_000_000_000, max: 2_000_000_000 }),
        fc.integer({ min: 1, max: 999_999_999 }),
        fc.integer({ min: 1, max: 99_999_999 }),
        (a, b, c) => {
          const want = new Decimal(a).mul(b).div(c).toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toNumber();
          expect(mulDiv(a, b, c)).toBe(want + 0);
        },
      ),
      { seed: 7, numRuns: 2000 },
    );
  });
});

describe('exchange rates', () => {
  const table = new RateTable([
    { from: 'GBP', to: 'USD', rate: '1.2744', date: '2026-11-01' },
    { from: 'GBP', to: 'USD', rate: '1.2744', date: '2026-10-01' },
    { from: 'GBP', to: 'EUR', rate: '1.1893', date: '2026-11-01' },
    { from: 'USD', to: 'JPY', rate: '151.3', date: '2026-11-02' },
  ]);

  it('names the day of the rate that it turns by: the newest of the pair, the older part of two', () => {
    expect(table.dayOf('GBP', 'USD')).toBe('2026-11-01');
    expect(table.dayOf('JPY', 'GBP')).toBe('2026-11-01');
    expect(table.dayOf('JPY', 'USD')).toBe('2026-11-02');
    expect([table.dayOf('EUR', 'EUR'), table.dayOf('EUR', 'SEK')]).toEqual([null, null]);
  });

  it('converts exactly and rounds once (decimal.js as reference)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), (minor) => {
        expect(table.convert(money(minor, 'GBP'), 'USD').amountMinor).toBe(
          new Decimal(minor).mul('1.2744').toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toNumber(),
        );
        expect(table.convert(money(minor, 'USD'), 'JPY').amountMinor).toBe(
          new Decimal(minor).div(100).mul('151.3').toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toNumber(),
        );
      }),
      { seed: 3 },
    );
  });

  it('goes over one currency in between and says when it cannot', () => {
    expect(table.convert(money(100_00, 'EUR'), 'USD').amountMinor).toBe(
      new Decimal(100_00).div('1.1893').mul('1.2744').toDecimalPlaces(0).toNumber(),
    );
    expect(() => table.convert(money(1, 'GBP'), 'KWD')).toThrow(/no exchange rate from GBP to KWD/);
  });
});

describe('solving', () => {
  it('sums to the cent', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 90_000 }), fc.integer({ min: 0, max: 90_000 }), (cost, retail) => {
        const q = quote(terms(cost, [card], 499), retail);
        expect(q.retailMinor + q.shippingChargedMinor - q.makingMinor - q.shippingMinor - q.feesMinor).toBe(
          q.profitMinor,
        );
      }),
      { seed: 5 },
    );
  });

  it('finds the floor: no loss there, a loss one cent below', () => {
    const t = terms(910, [card]);
    const floor = floorMinor(t);
    expect(quote(t, floor).profitMinor).toBeGreaterThanOrEqual(0);
    expect(quote(t, floor - 1).profitMinor).toBeLessThan(0);
  });

  it('rounds up to an ending, never down', () => {
    expect(rounded(1282, { ...PLAIN_ROUNDING, ending: '.99' }, 'USD')).toBe(1299);
    expect(rounded(1299, { ...PLAIN_ROUNDING, ending: '.99' }, 'USD')).toBe(1299);
    expect(rounded(1300, { ...PLAIN_ROUNDING, ending: '.00' }, 'USD')).toBe(1300);
    expect(rounded(1301, { ...PLAIN_ROUNDING, ending: '.00' }, 'USD')).toBe(1400);
    expect(rounded(1281, { ...PLAIN_ROUNDING, ending: 'none' }, 'USD')).toBe(1281);
    expect(rounded(1281, { ...PLAIN_ROUNDING, ending: '.99' }, 'JPY')).toBe(1281);
    expect(
      priceFor(
        [[{ terms: terms(769), weight: 1 }]],
        { kind: 'margin', ppm: 400_000 },
        { ...PLAIN_ROUNDING, ending: '.95' },
        'USD',
      ).priceMinor,
    ).toBe(1295);
  });

  it('says why an aim cannot be met', () => {
    expect(() => solveRetail(terms(100, [card]), { kind: 'margin', ppm: 980_000 })).toThrow(/cannot be reached/);
    expect(() => solveRetail(terms(100, [{ ...card, ratePpm: PPM }]), { kind: 'profit', amountMinor: 1 })).toThrow(
      /no price brings a profit/,
    );
  });
});
