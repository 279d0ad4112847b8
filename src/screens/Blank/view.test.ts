import { describe, expect, it } from 'vitest';
import type { Blank, PriceList } from '@/core/catalog/blank';
import { demoBlank, demoList, demoRates } from '@/core/catalog/sample';
import type { SkuMatch } from '@/core/variants/match';
import { allDestinations } from '../countries';
import { chosenVariants, soldRows } from './sold';
import {
  appliesText,
  packText,
  areaEntries,
  chargeLines,
  costTable,
  picturedBlank,
  shippingRows,
  stockTable,
  stockText,
  variantsOfColors,
} from './view';

const set: Blank = {
  ...demoBlank,
  pieces: [
    { code: 'main', name: 'Cup' },
    { code: 'towel', name: 'Towel' },
  ],
  options: [{ ...demoBlank.options[0]!, code: 'rim', pieceCode: 'main' }],
};

describe('one blank', () => {
  it('lists every area with each of its geometries, and for what it holds', () => {
    expect(areaEntries(demoBlank).map((e) => [e.name, e.applies, e.geometry.widthMm, e.widthPx])).toEqual([
      // 280 and 340 mm at 300 DPI
      ['Front', 'S, M', 280, 3307],
      ['Front', 'all others', 340, 4016],
      ['Back', 'S, M', 280, 3307],
      ['Back', 'all others', 340, 4016],
    ]);
    expect(areaEntries(set)[0]!.name).toBe('Cup front');
    expect(appliesText(demoBlank, {})).toBeNull();
    expect(appliesText(demoBlank, { size: ['s', 'm', 'xxl'] })).toBe('S – XXL');
  });

  it('puts colors of the same costs in one row', () => {
    expect(costTable(demoBlank, demoList)).toMatchObject({
      columns: ['S', 'M', 'XXL'],
      rows: [{ costsMinor: [740, 740, 890], colors: [{ code: 'estuary' }, { code: 'sandbar' }] }],
    });
    const dearer = { ...demoList, baseCostMinor: { ...demoList.baseCostMinor, 'color=sandbar;size=m': 760 } };
    expect(costTable(demoBlank, dearer).rows.map((row) => row.costsMinor)).toEqual([
      [740, 740, 890],
      [740, 760, 890],
    ]);
  });

  it('has no cost where a variant ended, and says so among the stock', () => {
    const variants = demoBlank.variants.map((v) => ({
      ...v,
      ended: v.values.size === 'xxl',
      stock: v.values.size === 's' ? 0 : 7,
      inStock: v.values.size !== 's',
    }));
    const blank = { ...demoBlank, variants };
    expect(costTable(blank, demoList).rows[0]!.costsMinor).toEqual([740, 740, null]);
    expect(stockTable(blank).rows[0]!.cells).toEqual([
      { count: 0, ended: false },
      { count: 7, ended: false },
      { count: 7, ended: true },
    ]);
    expect(stockText(blank)).toBe('2 of 4 variants in stock');
    expect(stockText(demoBlank)).toBe('all 6 variants in stock');
    expect(packText(demoBlank)).toBe('160 g');
    expect(packText({ ...blank, variants: variants.map((v, i) => ({ ...v, packWeightG: 160 + i })) })).toBe(
      '160–165 g',
    );
    expect(variantsOfColors(blank, new Set(['sandbar']))).toEqual(['color=sandbar;size=s', 'color=sandbar;size=m']);
  });

  it('names each charge: second sides (5.15, common practice, no source), techniques, inserts', () => {
    const list: PriceList = {
      ...demoList,
      techniqueMinor: { 'main.front': 350 },
      inserts: [{ code: 'card', name: 'Card', costMinor: 100 }],
    };
    expect(chargeLines(demoBlank, list)).toEqual([
      { label: 'Front, beside another area', amountMinor: 515 },
      { label: 'Back, beside another area', amountMinor: 515 },
      { label: 'direct-to-garment on front', amountMinor: 350 },
      { label: 'Card, per order', amountMinor: 100 },
    ]);
  });

  it('gives shipping by region with the cheapest variant landed in the workspace’s currency', () => {
    // (7.40 GBP at 1.25) + (4.00 GBP at 1.25), and + (5.00 GBP at 1.25)
    expect(shippingRows(demoBlank, demoList, 'USD', 'FR', demoRates)).toEqual([
      { to: 'United Kingdom', first: '4.00 GBP', further: '1.00 GBP', days: '2–4', landed: '14.25 USD', isHome: false },
      {
        to: 'Everywhere else',
        first: '5.00 GBP',
        further: '2.00 GBP',
        days: '6–14',
        landed: '15.50 USD',
        isHome: true,
      },
    ]);
  });

  it('colors the whole good or only the piece that the color is of', () => {
    expect(picturedBlank(demoBlank, null).colorOf).toEqual({ optionCode: 'color', pieceCode: null });
    expect(picturedBlank(set, null).colorOf).toEqual({ optionCode: 'rim', pieceCode: 'main' });
  });

  it('is sent to any country, those asked about first on top, none twice', () => {
    const choices = allDestinations('NZ');
    expect(choices.slice(0, 3).map((choice) => choice.value)).toEqual(['NZ', 'GB', 'US']);
    expect(new Set(choices.map((choice) => choice.value)).size).toBe(choices.length);
    // A name that stands twice would be a withdrawn code.
    expect(new Set(choices.map((choice) => choice.name)).size).toBe(choices.length);
    // ISO 3166 has 249 codes in force (from memory); Kosovo is a destination too.
    expect(choices.length).toBeGreaterThan(245);
    expect(choices.length).toBeLessThan(253);
  });
});

describe('what is sold already', () => {
  const match = (line: number, certainty: SkuMatch['certainty'], variantKey: string | null): SkuMatch => ({
    line,
    sku: `S${line}`,
    text: '',
    priceMinor: line === 2 ? 2150 : null,
    variantKey,
    certainty,
    says: '',
    candidates: [],
  });
  const matches = [match(2, 'sure', 'a'), match(3, 'doubtful', 'b'), match(4, 'sure', 'c'), match(5, 'doubtful', null)];

  it('shows what is in doubt first, and takes it for nothing until a person says so', () => {
    expect(soldRows(matches, {}).map((row) => [row.match.line, row.chosen, row.needsPerson])).toEqual([
      [3, null, true],
      [5, null, true],
      [2, 'a', false],
      [4, 'c', false],
    ]);
    expect(chosenVariants(matches, {})).toEqual({
      variants: [
        { key: 'a', sku: 'S2', retailMinor: 2150 },
        { key: 'c', sku: 'S4' },
      ],
      twice: [],
    });
  });

  it('takes a person’s word, also to leave a line out, and finds what was said twice', () => {
    const answers = { 3: 'b', 4: '', 5: 'a' };
    expect(soldRows(matches, answers).some((row) => row.needsPerson)).toBe(false);
    expect(chosenVariants(matches, answers)).toMatchObject({
      variants: [{ key: 'a' }, { key: 'b' }, { key: 'a' }],
      twice: ['a'],
    });
  });
});
