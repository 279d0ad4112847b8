import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { newDocument, type ProductDocument } from '../document/document';
import { asListed, splitInto } from '../document/split';
import { listingForm, type ListingForm } from '../listing/form';
import type { Choice } from './merge';
import { formJson } from '../listing/form-text';
import { takeInto, withFollowers, type TakeWorld } from './take';

const STORE = 's1';
const outlet = {
  id: STORE,
  name: 'A shop',
  currency: 'USD',
  fees: [],
  expectedSales: 10,
  sellsTo: ['US'],
  aimsAt: 'first' as const,
};
const KEYS = demoBlank.variants.map(({ key }) => key);
const [FIRST, SECOND] = KEYS as [string, string];
const tag = (text: string, order: string) => ({ text, order });
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Crossed Blades tee'),
  variants: Object.fromEntries(KEYS.map((key) => [key, {}])),
  words: {
    base: {
      title: 'Crossed Blades tee',
      description: 'For early mornings.',
      tags: { a: tag('river', 'a0'), b: tag('tide', 'a1') },
    },
    stores: {},
  },
  pictures: {
    base: {
      p1: { order: 'a0', shotId: 'front', color: 'estuary' },
      p2: { order: 'a1', shotId: 'back', color: 'estuary', alt: 'Its back' },
      p3: { order: 'a2', shotId: null, imageId: 'i1', color: null },
    },
    stores: {},
  },
};
/** The chosen pictures as the form shows them, each under a key of its own. */
const picturesOf = (of: ProductDocument) => {
  const own = of.pictures.stores[STORE];
  const set = Object.entries(own && Object.keys(own).length > 0 ? own : of.pictures.base);
  return set
    .sort(([, a], [, b]) => (a.order < b.order ? -1 : 1))
    .map(([id, { shotId, color, imageId = null, alt, main = false }]) => ({
      id,
      key: `k-${shotId ?? imageId}`,
      shotId,
      color,
      imageId,
      alt: alt ?? 'from facts',
      main,
    }));
};
const formIn = (of: ProductDocument, number = 1): ListingForm =>
  listingForm({
    productId: 'p000001',
    doc: asListed(of, STORE, number),
    blank: demoBlank,
    list: demoList,
    rates: demoRates,
    outlet,
    pictures: picturesOf(of),
    carries: {
      tags: true,
      highlights: true,
      pageAddress: true,
      seo: true,
      collections: false,
      category: false,
      codes: true,
      weight: false,
      shades: false,
      partnerName: false,
    } as never,
  });
const worldOf = (of: ProductDocument, number = 1): TakeWorld => ({
  blank: demoBlank,
  storeId: STORE,
  number,
  pictures: picturesOf(of),
});
const withVariant = (form: ListingForm, key: string, over: object): ListingForm => ({
  ...form,
  variants: { ...form.variants, [key]: { ...form.variants[key]!, ...over } },
});
const withoutVariant = (form: ListingForm, key: string): ListingForm => {
  const { [key]: _gone, ...variants } = form.variants;
  return { ...form, variants };
};

/** What somebody does in the shop that a product can take for one store. */
const EDITS: { readonly [name: string]: (form: ListingForm) => ListingForm } = {
  'a title': (form) => ({ ...form, title: 'Blades, crossed' }),
  'a description': (form) => ({ ...form, description: 'For late evenings.\n\nAnd for nights.' }),
  'a tag more, in front': (form) => ({ ...form, tags: ['oar', ...form.tags] }),
  'no tags': (form) => ({ ...form, tags: [] }),
  'tags in another order': (form) => ({ ...form, tags: form.tags.toReversed() }),
  highlights: (form) => ({ ...form, highlights: ['Soft', 'Printed near you'] }),
  'a page address': (form) => ({ ...form, pageAddress: 'blades' }),
  'words for search engines': (form) => ({ ...form, seo: { title: 'Blades', description: 'A tee with blades.' } }),
  'a price': (form) => withVariant(form, FIRST, { priceMinor: 3333 }),
  'a variant less': (form) => withoutVariant(form, SECOND),
  'pictures in another order': (form) => ({ ...form, pictures: form.pictures.toReversed() }),
  'a picture less': (form) => ({ ...form, pictures: form.pictures.filter(({ key }) => key !== 'k-back') }),
  'another alternative text': (form) => ({
    ...form,
    pictures: form.pictures.map((one, i) => (i === 0 ? { ...one, alt: 'A tee' } : one)),
  }),
};

describe('taking theirs', () => {
  it.each(Object.entries(EDITS))('makes the listing say it for the store alone: %s', (_, edit) => {
    const here = formIn(doc);
    const wanted = edit(here);
    const { doc: taken, notTaken } = takeInto(doc, worldOf(doc), here, wanted, 'store');
    expect(notTaken).toEqual([]);
    expect(formIn(taken)).toEqual(wanted);
    // Other stores, and all that follows the product, stay as they were.
    expect({
      ...taken.words.base,
      price: taken.price.base,
      pictures: taken.pictures.base,
      variants: taken.variants,
    }).toEqual({
      ...doc.words.base,
      price: doc.price.base,
      pictures: doc.pictures.base,
      variants: doc.variants,
    });
  });

  it('takes several at once as it takes each', () => {
    const names = Object.keys(EDITS);
    fc.assert(
      fc.property(fc.subarray(names), fc.constantFrom('store' as const, 'everywhere' as const), (all, where) => {
        const some = where === 'store' ? all : all.filter((name) => name !== 'a price');
        const here = formIn(doc);
        const wanted = some.reduce((form, name) => EDITS[name]!(form), here);
        const { doc: taken, notTaken } = takeInto(doc, worldOf(doc), here, wanted, where);
        expect(notTaken).toEqual([]);
        const shown = formIn(taken);
        expect(where === 'store' ? formJson(shown) : shown.title).toBe(
          where === 'store' ? formJson(wanted) : wanted.title,
        );
      }),
      { numRuns: 60 },
    );
  });

  it('holds for all that follows the product where that is asked, also where the store had words of its own', () => {
    const own: ProductDocument = {
      ...doc,
      words: { ...doc.words, stores: { [STORE]: { title: 'Its own', tags: {} } } },
    };
    const here = formIn(own);
    const { doc: taken } = takeInto(own, worldOf(own), here, { ...here, title: 'Blades, crossed' }, 'everywhere');
    expect(taken.words).toEqual({
      base: { ...doc.words.base, title: 'Blades, crossed' },
      stores: { [STORE]: { tags: {} } },
    });
  });

  it('takes a price for all stores in the base’s currency alone', () => {
    const here = formIn(doc);
    const wanted = withVariant(here, FIRST, { priceMinor: 3333 });
    const { doc: left, notTaken } = takeInto(doc, worldOf(doc), here, wanted, 'everywhere');
    expect([left, notTaken.length]).toEqual([doc, 1]);
    const inDollars = { ...doc, price: { ...doc.price, currency: 'USD' } };
    const taken = takeInto(
      inDollars,
      worldOf(inDollars),
      formIn(inDollars),
      withVariant(formIn(inDollars), FIRST, { priceMinor: 3333 }),
      'everywhere',
    );
    expect(taken.doc.price).toMatchObject({
      base: { variants: { [FIRST]: { kind: 'retail', amountMinor: 3333 } } },
      stores: {},
    });
    expect(formIn(taken.doc).variants[FIRST]!.priceMinor).toBe(3333);
  });

  it('keeps the ids of tags that stay', () => {
    const here = formIn(doc);
    const { doc: taken } = takeInto(doc, worldOf(doc), here, { ...here, tags: ['oar', 'tide'] }, 'store');
    const ids = Object.entries(taken.words.stores[STORE]!.tags!).map(([id, { text }]) => [text, id]);
    expect(ids).toContainEqual(['tide', 'b']);
    expect(ids).toHaveLength(2);
  });

  it('gives one of several listings there the title that it has in the shop', () => {
    const split = splitInto(doc, STORE, 'color', [
      { values: ['estuary'], title: 'One' },
      { values: ['sandbar'], title: 'Two' },
    ]);
    const here = formIn(split, 2);
    const { doc: taken } = takeInto(split, worldOf(split, 2), here, { ...here, title: 'The second' }, 'store');
    expect([formIn(taken, 1).title, formIn(taken, 2).title]).toEqual(['One', 'The second']);
  });

  it('offers again what was left out of the store and is sold there', () => {
    const here = formIn(doc);
    const { doc: without } = takeInto(doc, worldOf(doc), here, withoutVariant(here, SECOND), 'store');
    const now = formIn(without);
    expect(takeInto(without, worldOf(without), now, here, 'store').notTaken).toEqual([]);
    expect(formIn(takeInto(without, worldOf(without), now, here, 'store').doc)).toEqual(here);
  });
});

describe('what follows from a title', () => {
  const here = formIn(doc);
  const there = { ...here, title: 'Theirs', pageAddress: 'theirs-of-old' };
  const followed = (of: ProductDocument, choice: Choice) =>
    withFollowers(of, worldOf(of), { ...here, title: 'Theirs' }, there, new Map([['/title', choice]])).pageAddress;

  it('is the shop’s where the title is, follows what is written, and stays where the seller wrote it', () => {
    expect(followed(doc, 'theirs')).toBe('theirs-of-old');
    expect(followed(doc, { value: 'Theirs' })).toBe('theirs');
    expect(followed(doc, 'ours')).toBe(here.pageAddress);
    const written = { ...doc, words: { ...doc.words, stores: { [STORE]: { pageAddress: 'own' } } } };
    expect(followed(written, 'theirs')).toBe(here.pageAddress);
  });
});

describe('what a product cannot take', () => {
  it.each<[string, (form: ListingForm) => ListingForm, string, RegExp]>([
    ['a SKU', (form) => withVariant(form, FIRST, { sku: 'X-1' }), `/variants/${FIRST}/sku`, /orders are told apart/],
    ['stock', (form) => withVariant(form, FIRST, { inStock: false }), `/variants/${FIRST}/inStock`, /print partner/],
    [
      'a code for one store',
      (form) => withVariant(form, FIRST, { gtin: '4006381333931' }),
      `/variants/${FIRST}/gtin`,
      /for all of them/,
    ],
    [
      'a price of nothing',
      (form) => withVariant(form, FIRST, { priceMinor: 0 }),
      `/variants/${FIRST}/priceMinor`,
      /above 0/,
    ],
    [
      'a variant of another kind',
      (form) => ({ ...form, variants: { ...form.variants, 'size=huge': form.variants[FIRST]! } }),
      '/variants/size=huge',
      /does not have this variant/,
    ],
    [
      'an unknown picture',
      (form) => ({ ...form, pictures: [...form.pictures, { key: 'k-theirs', alt: '' }] }),
      '/pictures/k-theirs',
      /does not have this picture/,
    ],
    [
      'the name of an option',
      (form) => ({ ...form, options: form.options.map((one) => ({ ...one, name: 'Colour' })) }),
      '/options/color/name',
      /as the blank calls them/,
    ],
    ['a category', (form) => ({ ...form, category: 'hats' }), '/category', /store’s settings/],
  ])('is told with why, and left: %s', (_, edit, field, why) => {
    const here = formIn(doc);
    const { doc: taken, notTaken } = takeInto(doc, worldOf(doc), here, { ...edit(here), title: 'Blades' }, 'store');
    expect(notTaken).toContainEqual({ field, why: expect.stringMatching(why) as string });
    expect({ ...formIn(taken), title: here.title }).toEqual(here);
  });
});
