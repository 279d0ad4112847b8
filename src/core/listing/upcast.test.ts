import { describe, expect, it } from 'vitest';
import { contentHash } from '../canonical/canonical';
import { upcast } from './upcast';

/** As the program of format 1 stored it, letter for letter. */
const STORED =
  '{"currency":"USD","description":"The crest.","format":1,"options":[{"code":"size","name":"Size","values":[{"code":"m","name":"M"}]}],"partner":{"country":"GB","name":"Millrace Works"},"pictures":[{"alt":"in Coal","key":"k2"}],"shipping":[{"countries":["US"],"firstMinor":905,"furtherMinor":315}],"tags":["rowing"],"title":"Crossed Blades tee","variants":{"size=m":{"inStock":true,"pictureKey":"k2","priceMinor":2150,"sku":"X-M"}}}';

describe('a stored form', () => {
  it('of an older format reads as the one of today that shows the same', () => {
    const today = {
      ...(JSON.parse(STORED) as object),
      format: 9,
      variants: {
        'size=m': {
          inStock: true,
          pictureKey: 'k2',
          priceMinor: 2150,
          compareAtMinor: null,
          sku: 'X-M',
          gtin: null,
          grams: null,
          shade: null,
        },
      },
      category: null,
      attributes: {},
      terms: {},
      highlights: [],
      pageAddress: null,
      seo: null,
      collections: [],
    };
    expect(upcast(JSON.parse(STORED))).toEqual(today);
    expect(contentHash(upcast(JSON.parse(STORED)))).toBe(contentHash(today));
    expect(upcast(today)).toBe(today);
  });

  it('of a format to come is not guessed at', () => {
    expect(() => upcast({ format: 10 })).toThrow(/format 10/);
    expect(() => upcast({})).toThrow(/not known/);
  });
});
