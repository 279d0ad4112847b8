import { describe, expect, it } from 'vitest';
import { sampleForm } from '@/core/sync/sample';
import { formOf, type SeenVariant } from './seen';

const known = sampleForm();
const seen = (sku: string, pick: string): SeenVariant => ({
  ...{ sku, picks: [pick], priceMinor: 1999, inStock: true, pictureId: null },
});
const keysOf = (variants: readonly SeenVariant[]) =>
  Object.entries(
    formOf(
      { title: '', description: '', options: [{ name: 'Size', values: ['M', 'L'] }], variants, pictures: [] },
      known,
      {},
    ).variants,
  ).map(([key, { sku }]) => [key, sku]);

describe('variants of a shop', () => {
  it.each<[string, readonly SeenVariant[], readonly (readonly string[])[]]>([
    [
      'by SKU, whatever their values are called',
      [seen('A', 'Mid'), seen('B', 'L')],
      [
        ['size=m', 'A'],
        ['size=l', 'B'],
      ],
    ],
    [
      'by values, where the SKU was changed',
      [seen('A-NEW', 'M'), seen('B', 'L')],
      [
        ['size=m', 'A-NEW'],
        ['size=l', 'B'],
      ],
    ],
    [
      'each once',
      [seen('X', 'M'), seen('Y', 'M'), seen('B', 'L')],
      [
        ['size=m', 'X'],
        ['sku=Y', 'Y'],
        ['size=l', 'B'],
      ],
    ],
    [
      'never by the values of one that is there',
      [seen('A', 'M'), seen('X', 'M')],
      [
        ['size=m', 'A'],
        ['sku=X', 'X'],
      ],
    ],
    ['not at all, where both are others', [seen('X', 'Huge')], [['sku=X', 'X']]],
  ])('are known %s', (_, variants, keys) => expect(keysOf(variants)).toEqual(keys));

  it('are known with SKUs that were swapped as what their SKUs say', () => {
    expect(keysOf([seen('B', 'M'), seen('A', 'L')])).toEqual([
      ['size=l', 'B'],
      ['size=m', 'A'],
    ]);
  });
});
