import { describe, expect, it } from 'vitest';
import { EMPTY_QUERY, type ShelfItem } from '@/core/shelf/shelf';
import { columns, facetChoices, filterCount, rowTexts, sortedBy } from './view';

const item: ShelfItem = {
  id: 'b1',
  favorite: false,
  code: 'towpath-tee',
  name: 'Towpath Tee',
  kind: 'apparel',
  material: 'cotton',
  description: '',
  partner: { id: 'p1', name: 'Millrace Works' },
  shipsFrom: 'GB',
  parcelClass: 'shirt',
  makingDays: { min: 1, max: 3 },
  techniques: ['direct-to-garment', 'giclee'],
  areas: ['Front', 'Back', 'Neck label'].map((name) => ({
    key: name,
    name,
    pieceCode: 'main',
    widthMm: 280,
    heightMm: 380,
    outline: null,
    dpi: 300,
    widthPx: 3307,
    heightPx: 4488,
  })),
  colors: [],
  colorOf: null,
  sizes: ['XS', 'S', 'M', 'L'],
  choices: [],
  pieces: [{ code: 'main', name: 'Towpath Tee' }],
  shotHash: 'abcdef0123456789',
  costMinor: 592,
  listCostMinor: 740,
  listCurrency: 'GBP',
  landedEachMinor: 1140,
  landedTotalMinor: 1140,
  daysMin: 2,
  daysMax: 4,
  fitting: 4,
  inStock: 4,
};

describe('a row of Blanks', () => {
  it('says costs in the workspace’s currency and, where it differs, the partner’s own', () => {
    expect(rowTexts(item, 'USD')).toMatchObject({ cost: '5.92 USD', listCost: '7.40 GBP', landed: '11.40 USD' });
    expect(rowTexts(item, 'GBP').listCost).toBeNull();
    // ISO 4217: the yen has no minor unit
    expect(rowTexts({ ...item, landedEachMinor: 1140 }, 'JPY').landed).toBe('1140 JPY');
  });

  it('says what is not there', () => {
    expect(rowTexts({ ...item, landedEachMinor: null, daysMin: null, daysMax: null }, 'GBP')).toMatchObject({
      landed: null,
      delivery: 'not sent there',
    });
    expect(rowTexts({ ...item, inStock: 3 }, 'GBP').stock).toBe('3 of 4 in stock');
    expect(rowTexts(item, 'GBP').stock).toBeNull();
  });

  it('is short: a run of sizes, the first of many areas with its pixels, days', () => {
    expect(rowTexts(item, 'GBP')).toMatchObject({
      sizes: 'XS – L',
      areas: 'Front and 2 more',
      areaSize: '3307 × 4488 px',
      making: '1–3 days',
      technique: 'direct-to-garment, giclée',
      delivery: '2–4 days',
    });
    expect(
      rowTexts({ ...item, sizes: [], areas: item.areas.slice(0, 2), makingDays: { min: 1, max: 1 } }, 'GBP'),
    ).toMatchObject({
      sizes: 'one size',
      areas: 'Front, Back',
      making: '1 day',
    });
  });

  it('of a gift set says its pieces, of others what else is chosen', () => {
    const pieces = ['cup', 'towel'].map((code) => ({ code, name: code }));
    expect(rowTexts({ ...item, pieces }, 'GBP').choices).toBe('2 pieces');
    expect(rowTexts({ ...item, choices: [{ name: 'Pages', values: ['lined'] }] }, 'GBP').choices).toBe('Pages');
  });
});

describe('filters', () => {
  it('keep a choice in sight that the others have counted out', () => {
    const choices = facetChoices([{ value: 'XL', count: 2 }], ['S'], (value) => value.toLowerCase());
    expect(choices).toEqual([
      { value: 'XL', name: 'xl', count: 2, on: false },
      { value: 'S', name: 's', count: 0, on: true },
    ]);
  });

  it('are counted without category, destination and sorting', () => {
    expect(filterCount({ ...EMPTY_QUERY, kind: 'apparel', country: 'US', sort: 'name' })).toBe(0);
    expect(
      filterCount({ ...EMPTY_QUERY, sizes: ['S', 'M'], inStock: true, areasMin: 2, landedMaxMinor: 0, text: 'x' }),
    ).toBe(6);
  });
});

describe('sorting', () => {
  it('goes up first, then down, then up again', () => {
    const up = sortedBy(EMPTY_QUERY, 'making');
    expect(up).toEqual({ sort: 'making', descending: false });
    const down = sortedBy({ ...EMPTY_QUERY, ...up }, 'making');
    expect(down.descending).toBe(true);
    expect(sortedBy({ ...EMPTY_QUERY, ...down }, 'making').descending).toBe(false);
  });

  it('is by landed cost to where the column says', () => {
    expect(columns({ country: 'DE', items: 3 }).at(-1)!.name).toBe('Landed, each of 3');
    expect(columns({ country: 'DE', items: 1 }).at(-1)!.name).toBe('Landed, Germany');
  });
});
