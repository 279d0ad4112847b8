import { HyperFormula } from 'hyperformula';
import { describe, expect, it } from 'vitest';
import { landedCost } from './landed';
import { money } from './money';
import { quote } from './quote';
import { RateTable } from './rates';
import { solveRetail } from './solve';
import { sampleFee, sampleTerms } from './terms-sample';

/**
 * A price list recomputed in a spreadsheet's formula engine (hyperformula, reference library), with formulas as a seller would write them: in
 * whole units, ROUND to cents where the trade rounds.
 */
const FEES = { share: 0.05, pay: 0.025, payFixed: 0.2, listing: 0.15, sales: 10 };
const rows = Array.from({ length: 60 }, (_, i) => ({
  base: 740 + i * 37,
  extra: i % 3 === 0 ? 515 : 0,
  shipping: 400 + (i % 5) * 66,
  retail: 1999 + i * 111,
}));

describe('a price list in a spreadsheet', () => {
  it('says the same of cost, fees, profit and margin, line by line', () => {
    const sheet = rows.map(({ base, extra, shipping, retail }, i) => {
      const r = i + 1;
      return [
        base / 100,
        extra / 100,
        shipping / 100,
        retail / 100,
        // GBP to USD at 1.2744 with a safety margin of 2 %, each line rounded by itself.
        `=ROUND(A${r}*1.2744*1.02,2)+ROUND(B${r}*1.2744*1.02,2)`,
        `=ROUND(C${r}*1.2744*1.02,2)`,
        `=ROUND((D${r}+F${r})*${FEES.share},2)+ROUND((D${r}+F${r})*${FEES.pay},2)+${FEES.payFixed}+ROUNDUP(${FEES.listing}/${FEES.sales},2)`,
        `=ROUND(D${r}+F${r}-E${r}-F${r}-G${r},2)`,
        `=ROUND(H${r}/D${r},6)`,
      ];
    });
    const engine = HyperFormula.buildFromArray(sheet, { licenseKey: 'gpl-v3', smartRounding: true });
    const rates = new RateTable([{ from: 'GBP', to: 'USD', rate: '1.2744', date: '2026-11-01' }], 20_000);
    for (const [i, { base, extra, shipping, retail }] of rows.entries()) {
      const landed = landedCost(
        {
          baseCost: money(base, 'GBP'),
          charges: [{ id: 'x', label: 'Back', cost: money(extra, 'GBP') }],
          shipping: money(shipping, 'GBP'),
        },
        'USD',
        rates,
      );
      const q = quote(
        sampleTerms(0, {
          landed,
          shippingChargedMinor: landed.shippingMinor,
          fees: [
            sampleFee({ of: 'item+shipping', ratePpm: 50_000 }),
            sampleFee({ of: 'item+shipping', ratePpm: 25_000, fixedMinor: 20 }),
            sampleFee({ per: 'listing', fixedMinor: 15 }),
          ],
        }),
        retail,
      );
      const cell = (col: number) => Number(engine.getCellValue({ sheet: 0, row: i, col }));
      const cents = (col: number) => Math.round(cell(col) * 100);
      expect([q.makingMinor, q.shippingMinor, q.feesMinor, q.profitMinor]).toEqual([4, 5, 6, 7].map(cents));
      expect(q.marginPpm).toBe(Math.round(cell(8) * 1_000_000));
    }
    engine.destroy();
  });

  it('finds the retail price for a margin as cost ÷ (1 − margin) rounded up to the cent does', () => {
    const sheet = rows.map(({ base }, i) => [
      base / 100, // In cents, cleared of what binary fractions add: a seller's sheet needs that too.
      `=ROUNDUP(ROUND(100*A${i + 1}/(1-0.4),4),0)`,
    ]);
    const engine = HyperFormula.buildFromArray(sheet, { licenseKey: 'gpl-v3', smartRounding: true });
    for (const [i, { base }] of rows.entries())
      expect(solveRetail(sampleTerms(base), { kind: 'margin', ppm: 400_000 })).toBe(
        Number(engine.getCellValue({ sheet: 0, row: i, col: 1 })),
      );
    engine.destroy();
  });
});
