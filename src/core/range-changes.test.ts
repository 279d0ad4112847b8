import { describe, expect, it } from 'vitest';
import { newDocument, type ProductDocument } from './document/document';
import { raised, withEnding, withoutTag, type PricedAt } from './range-changes';

const plain = newDocument('b', 'USD', 'Oar tee');
const doc = (price: Partial<ProductDocument['price']>): ProductDocument => ({
  ...plain,
  price: { ...plain.price, ...price },
});
const at = (storeId: string | null, minor: number, ending = 'none'): PricedAt => ({
  storeId,
  currency: 'USD',
  rounding: { ending, way: 'up' },
  prices: new Map([['v', minor]]),
});
const retail = (amountMinor: number) => ({ kind: 'retail', amountMinor });

describe('raising prices', () => {
  it('raises each from what it is: a store that reaches a margin with its own fees has its own price', () => {
    // 5 % of 20.00 and of 30.00 are 1.00 and 1.50, reckoned by hand.
    const { price } = raised(plain, 50_000, [at(null, 2000), at('s', 3000)]);
    expect(price.base.variants).toEqual({ v: retail(2100) });
    expect(price.stores).toEqual({ s: { variants: { v: retail(3150) } } });
  });

  it('leaves alone what follows: a store by a difference, or one of a price that the base names', () => {
    const byDifference = doc({ stores: { s: { differencePpm: 100_000 } } });
    expect(raised(byDifference, 50_000, [at(null, 2000), at('s', 2200)]).price.stores).toEqual(
      byDifference.price.stores,
    );
    const named = doc({ base: { ...plain.price.base, variants: { v: { kind: 'retail', amountMinor: 2000 } } } });
    expect(raised(named, -500_000, [at(null, 2000), at('s', 2000)]).price).toMatchObject({
      base: { variants: { v: retail(1000) } },
      stores: {},
    });
  });

  it('goes to the ending, and never to nothing', () => {
    expect(raised(plain, 50_000, [at(null, 2000, '.99')]).price.base.variants).toEqual({ v: retail(2199) });
    expect(raised(plain, -900_000, [at(null, 1)]).price.base.variants).toEqual({ v: retail(1) });
  });
});

it('another ending holds at the base and in stores that have their own; up is said by saying nothing', () => {
  const before = doc({
    base: { ...plain.price.base, ending: '.50', way: 'down' },
    stores: { own: { ending: '.00', way: 'down' }, other: { differencePpm: 1 } },
  });
  const { price } = withEnding(before, '.99', 'up');
  expect(price.base).toEqual({ ...plain.price.base, ending: '.99' });
  expect(price.stores).toEqual({ own: { ending: '.99' }, other: { differencePpm: 1 } });
  expect(withEnding(withEnding(before, '.99', 'up'), '.99', 'up')).toEqual(withEnding(before, '.99', 'up'));
});

it('a tag is removed whatever the case of its letters, and no other', () => {
  const tags = { a: { text: 'River', order: 'a0' }, b: { text: 'riverside', order: 'a1' } };
  const tagged = { ...plain, words: { ...plain.words, base: { ...plain.words.base, tags } } };
  expect(withoutTag(tagged, ' river').words.base.tags).toEqual({ b: tags.b });
});
