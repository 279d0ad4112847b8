import { describe, expect, it } from 'vitest';
import type { Blank } from '../catalog/blank';
import { demoBlank } from '../catalog/sample';
import { matchSkus } from './match';
import { SoldReader } from './sold-csv';
import { variantTroubles } from './trouble';

const item = (text: string, sku = 'X-1', line = 2) => ({ line, sku, text, priceMinor: null });
const one = (text: string, sku?: string, blank = demoBlank) => matchSkus(blank, [item(text, sku)])[0]!;
const withColors = (...names: string[]): Blank => ({
  ...demoBlank,
  options: [
    {
      ...demoBlank.options[0]!,
      values: names.map((name) => ({ code: name.toLowerCase().replace(/ /g, '-'), name, hex: '#888888' })),
    },
    demoBlank.options[1]!,
  ],
  variants: names.flatMap((name) =>
    ['s', 'm', 'xxl'].map((size) => {
      const color = name.toLowerCase().replace(/ /g, '-');
      return { ...demoBlank.variants[0]!, key: `color=${color};size=${size}`, values: { color, size } };
    }),
  ),
});

describe('what is sold already', () => {
  it.each([
    ['Crest tee, Estuary, M', 'color=estuary;size=m'],
    ['Crest tee / ESTUARY / Medium', 'color=estuary;size=m'],
    ['sandbar small', 'color=sandbar;size=s'],
    ['Estuary 2XL', 'color=estuary;size=xxl'],
    ['Estuary XX-Large crest shirt', 'color=estuary;size=xxl'],
    ['Estuáry, m', 'color=estuary;size=m'],
  ])('“%s” is surely %s', (text, variantKey) => {
    expect(one(text)).toMatchObject({ certainty: 'sure', variantKey, says: '' });
  });

  it('is read from the SKU where the words say nothing', () => {
    expect(one('Crest tee', 'CREST-ESTUARY-M')).toMatchObject({
      certainty: 'sure',
      variantKey: 'color=estuary;size=m',
    });
  });

  it.each([
    ['Crest tee, M', 'It names no color of this blank.'],
    ['Crest tee', 'It names no color and no size of this blank.'],
    ['Estuary or Sandbar, M', 'It names more than one color.'],
    ['Estuery, M', 'Its color is written a letter off; is it Estuary, M?'],
  ])('“%s” is left to a person: %s', (text, says) => {
    expect(one(text)).toMatchObject({ certainty: 'doubtful', says });
  });

  it('takes the longer name: there is no Mist in Heather Mist', () => {
    const blank = withColors('Mist', 'Heather Mist');
    expect(one('heather mist, S', undefined, blank).variantKey).toBe('color=heather-mist;size=s');
    expect(one('mist, S', undefined, blank).variantKey).toBe('color=mist;size=s');
  });

  it('is not matched with a variant that ended', () => {
    const blank = { ...demoBlank, variants: demoBlank.variants.map((v) => ({ ...v, ended: v.values.size === 'm' })) };
    expect(one('Estuary, M', undefined, blank)).toMatchObject({
      certainty: 'doubtful',
      variantKey: null,
      says: 'The partner does not make this variant any more.',
    });
  });

  it('two lines of one variant are both in doubt', () => {
    const matches = matchSkus(demoBlank, [
      item('Estuary M', 'A', 2),
      item('estuary, medium', 'B', 3),
      item('Estuary S', 'C', 4),
    ]);
    expect(matches.map((match) => match.certainty)).toEqual(['doubtful', 'doubtful', 'sure']);
    expect(matches[0]!.says).toContain('Line 3');
  });
});

describe('a list of what is sold', () => {
  const read = (...rows: string[][]) => {
    const reader = new SoldReader('GBP');
    rows.forEach((fields, i) => reader.row(fields, i + 1));
    return reader;
  };

  it('takes its words from the columns that say something, and passes others over', () => {
    const { items, faults } = read(['SKU', 'Color', 'weight', 'Size', 'Price'], ['A1', 'Estuary', '180', 'M', '21.50']);
    expect(faults).toEqual([]);
    expect(items).toEqual([{ line: 2, sku: 'A1', text: 'Estuary M', priceMinor: 2150 }]);
  });

  it.each([
    [[['sku;title']], 'csv-separator'],
    [[['title', 'price']], 'csv-column-missing'],
    [[['sku', 'price']], 'csv-column-missing'],
    [
      [
        ['sku', 'title'],
        ['', 'x'],
      ],
      'csv-sku-empty',
    ],
    [
      [
        ['sku', 'title'],
        ['A', 'x'],
        ['A', 'y'],
      ],
      'csv-sku-twice',
    ],
    [
      [
        ['sku', 'title'],
        ['A'.repeat(65), 'x'],
      ],
      'csv-sku-long',
    ],
    [
      [
        ['sku', 'title', 'price'],
        ['A', 'x', '-3'],
      ],
      'csv-price',
    ],
    [
      [
        ['sku', 'title', 'price'],
        ['A', 'x', 'dear'],
      ],
      'csv-price',
    ],
  ])('%j is told: %s', (rows, code) => {
    expect(read(...rows).faults).toMatchObject([{ code, line: rows.length }]);
  });

  it('of too many rows is told once', () => {
    const rows = Array.from({ length: 2100 }, (_, i) => [`S${i}`, 'x']);
    expect(read(['sku', 'title'], ...rows).faults.map((fault) => fault.code)).toEqual(['csv-too-long']);
  });
});

describe('variants that cannot be made', () => {
  const blank = {
    ...demoBlank,
    variants: demoBlank.variants.map((v) => ({
      ...v,
      ended: v.values.size === 'xxl',
      inStock: v.values.size !== 's' && v.values.size !== 'xxl',
    })),
  };
  const all = Object.fromEntries(blank.variants.map((v) => [v.key, {}]));

  it('are named, ended before out of stock, each in one of them', () => {
    expect(variantTroubles(blank, all)).toMatchObject([
      { kind: 'ended', says: '2 variants ended: Estuary, XXL; Sandbar, XXL.' },
      { kind: 'out-of-stock', says: '2 variants out of stock: Estuary, S; Sandbar, S.' },
    ]);
  });

  it('do not trouble a product that does not have them', () => {
    expect(variantTroubles(blank, { 'color=estuary;size=m': {} })).toEqual([]);
  });
});
