import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '@/core/catalog/sample';
import { newDocument } from '@/core/document/document';
import { baseOutlet } from '@/core/pricing/outlet';
import { leftEverywhere, mixOf } from './everywhere-view';

const key = 'color=estuary;size=m';
const doc = { ...newDocument('b1', 'GBP', 'Tee'), variants: { [key]: {} } };
const list = {
  ...demoList,
  shipping: demoList.shipping.filter(({ countries }) => !countries.includes('*')),
};
const outlet = { ...baseOutlet('GBP', 'GB'), sellsTo: ['GB', 'JP'] };
const left = (mix: Parameters<typeof mixOf>[0], retailMinor = 3000) =>
  leftEverywhere(doc, { blank: demoBlank, list, rates: demoRates, outlet }, { key, retailMinor }, mixOf(mix, 'GB'));

describe('what is left everywhere', () => {
  it('is told for each country of the outlet and of the shares, home alone where no shares were said', () => {
    const { lines, whole } = left([]);
    expect(lines.map(({ country, weight }) => [country, weight])).toEqual([
      ['GB', 1],
      ['JP', 0],
    ]);
    expect(whole).toHaveLength(lines[0]!.baskets.length);
    expect(whole.map((one) => one!.profitMinor)).toEqual(lines[0]!.baskets.map((one) => one!.profitMinor));
  });

  it('grows by what the price grows, per item of the basket', () => {
    const [dear, cheap] = [left([], 3100), left([], 3000)].map(({ lines }) => lines[0]!.baskets[0]!.profitMinor);
    // No fees, no tax: a buyer's pound is the seller's.
    expect(dear! - cheap!).toBe(100);
  });

  it('leaves a gap where the partner does not send', () => {
    const japan = left([{ country: 'GB', weight: 3 }]).lines[1]!;
    expect(japan).toMatchObject({ country: 'JP', sent: false });
    expect(japan.baskets.every((one) => one === null)).toBe(true);
  });
});
