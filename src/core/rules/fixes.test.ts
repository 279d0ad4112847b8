import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { keysWith, setChosen } from '../document/choosing';
import { leftOutOf } from '../document/offered';
import { followProduct, ownParts } from '../document/own-parts';
import { asListed, soldListings, titleListing } from '../document/split';
import { newDocument, wordsFor, type ProductDocument } from '../document/document';
import { describedFor } from '../listing/sold-sizes';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands } from './demands';
import type { FixWorld } from './fix';
import { splitInHalves } from './fix-variants';
import { firstOfEach, fixesFor } from './fixes';
import { fittedTitle } from './fitted-title';
import { wordsResults } from './words-rules';

const demands: ChannelDemands = {
  titleMin: 1,
  titleMax: 40,
  descriptionMax: 60,
  tagsMax: 3,
  tagMax: 10,
  optionsMax: 3,
  variantsMax: 100,
  picturesMin: 1,
  picturesMax: 9,
  pictureLongSideMinPx: 500,
  pictureFormat: { type: 'jpeg' } as never,
  firstOnWhite: false,
  priceMin: { minor: 500, currency: 'USD' },
  priceMax: { minor: 90_000, currency: null },
  partnerDeclared: false,
};
const strict: ChannelDemands = {
  ...demands,
  titleEndsWithShop: true,
  titleBeginsWithLetter: true,
  titleWithout: '|!',
  shouting: 'words',
  emojiBanned: true,
};
const SHOP = 'Ebb Shop';

const tag = (text: string, order: string) => ({ text, order });
const doc: ProductDocument = {
  ...newDocument('b1', 'USD', 'A tee'),
  words: {
    base: {
      title: 'CRESTED tee | for the whole crew of the boathouse 🎉',
      description: 'word '.repeat(30).trim(),
      tags: {
        a: tag('tide', 'a0'),
        b: tag('Tide', 'a1'),
        c: tag('a rather long tag', 'a2'),
        d: tag('river', 'a3'),
        e: tag('boat', 'a4'),
      },
    },
    stores: {},
  },
};
const world: FixWorld = {
  doc,
  blank: demoBlank,
  storeId: 's1',
  number: 1,
  demands: strict,
  shopName: SHOP,
  currency: 'EUR',
  sumHere: ({ minor, currency }) => (currency === 'USD' ? Math.round(minor * 0.9) : minor),
};
const brokenIn = (of: ProductDocument) =>
  wordsResults(
    { ...wordsFor(of, 's1'), tags: Object.values(wordsFor(of, 's1').tags).map(({ text }) => text), highlights: [] },
    strict,
    'Ebb',
    SHOP,
  ).flatMap(({ id, kept }) => (kept ? [] : [id]));

describe('a title that fits', () => {
  it.each([
    ['Crest tee', demands, 'Crest tee'],
    ['Crest tee for the whole crew of the boathouse', demands, 'Crest tee for the whole crew of the'],
    ['Crest tee', strict, 'Crest tee by Ebb Shop'],
    ['Crest tee by Ebb Shop', strict, 'Crest tee by Ebb Shop'],
    ['Crest tee Ebb Shop', strict, 'Crest tee by Ebb Shop'],
    ['12 | CRESTED tees!', strict, 'Crested tees by Ebb Shop'],
    ['🎉 tee', strict, 'tee by Ebb Shop'],
    ['Crest tee for the whole crew of the boathouse', strict, 'Crest tee for the whole crew by Ebb Shop'],
    ['Crest tee', { ...demands, titleMin: 15 }, 'Crest tee by Ebb Shop'],
    ['ALL OF IT', { ...demands, shouting: 'all' }, 'All Of It'],
    ['🎉', strict, ''],
  ] as const)('of “%s”', (title, wants, fitted) => {
    expect(fittedTitle(title, wants, SHOP)).toBe(fitted);
  });

  it('fits whatever the title is, and is not changed by fitting it again', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 90 }), (title) => {
        const once = fittedTitle(title, strict, SHOP);
        expect(graphemeCount(once)).toBeLessThanOrEqual(strict.titleMax);
        expect(fittedTitle(once, strict, SHOP)).toBe(once);
      }),
    );
  });
});

describe('fixes', () => {
  it('keep the rules that they are for, in that store alone', () => {
    const broken = brokenIn(doc);
    expect(broken).toEqual([
      'title',
      'title-ending',
      'title-characters',
      'shouting',
      'description',
      'tags',
      'tag-length',
      'tag-twice',
    ]);
    const fixes = fixesFor(world, broken);
    expect(fixes.map(({ says }) => says)).toEqual([
      'Fit the title',
      'Cut the description after a word',
      'Fit the tags',
    ]);
    expect(fixes[2]).toMatchObject({
      before: 'tide, Tide, a rather long tag, river, boat',
      after: 'tide, a rather, river',
    });
    const fixed = fixes.reduce((now, fix) => fix.apply(now, 'store'), doc);
    expect(brokenIn(fixed)).toEqual([]);
    expect(fixed.words.base).toBe(doc.words.base);
    expect(wordsFor(fixed, 's2')).toEqual(doc.words.base);
  });

  it('hold for all where that is asked', () => {
    const [title] = fixesFor(world, ['title']);
    const fixed = title!.apply(doc, 'everywhere');
    expect([fixed.words.base.title, fixed.words.stores]).toEqual([title!.after, {}]);
  });

  it('keep what the store had of its own beside it', () => {
    const own = { ...doc, words: { ...doc.words, stores: { s1: { description: 'Its own.' } } } };
    const [title] = fixesFor({ ...world, doc: own }, ['title']);
    expect(title!.apply(own, 'store').words.stores.s1).toEqual({ description: 'Its own.', title: title!.after });
  });

  it('raise and lower prices to the shop’s bound in the store’s currency', () => {
    const [least, most] = fixesFor(world, ['price-min', 'price-max']);
    expect([least!.before, least!.after, most!.after]).toEqual(['no bound', '4.50 EUR', '900.00 EUR']);
    const fixed = most!.apply(least!.apply(doc, 'store'), 'store');
    expect(fixed.price.stores).toEqual({ s1: { leastMinor: 450, mostMinor: 90_000 } });
  });

  it('leave out the last values of an option, what leaves most first, in that store or everywhere', () => {
    const full = setChosen(doc, keysWith(demoBlank, {}), true);
    const fixes = fixesFor({ ...world, doc: full, demands: { ...strict, variantsMax: 4 } }, ['variants']);
    expect(fixes.map(({ id, before, after }) => [id, before, after])).toEqual([
      ['fewer-size', '6 variants', '4 variants, without XXL'],
      ['fewer-color', '6 variants', '3 variants, without Sandbar'],
      ['split', '6 variants', 'Estuary | Sandbar'],
    ]);
    expect(firstOfEach(fixes)).toEqual([fixes[0]]);
    const there = fixes[0]!.apply(full, 'store');
    expect([leftOutOf(there, 's1').length, leftOutOf(there, 's2').length]).toEqual([2, 0]);
    expect(Object.keys(fixes[1]!.apply(full, 'everywhere').variants)).toEqual(
      keysWith(demoBlank, { color: 'estuary' }),
    );
    // Nothing is offered that would not be enough.
    expect(fixesFor({ ...world, doc: full, demands: { ...strict, variantsMax: 1 } }, ['variants'])).toEqual([]);
  });

  it('split into listings by color, with titles that tell them apart', () => {
    const full = setChosen(doc, keysWith(demoBlank, {}), true);
    const tooMany = { ...world, doc: full, shopName: SHOP, demands: { ...strict, variantsMax: 3 } };
    const split = fixesFor(tooMany, ['variants']).find(({ id }) => id === 'split')!;
    expect([split.before, split.after, split.everywhere]).toEqual(['6 variants', 'Estuary | Sandbar', false]);
    const there = split.apply(full, 'store');
    expect(soldListings(there, 's1')).toEqual([1, 2]);
    const titleOf = (now: ProductDocument, number: number) => wordsFor(asListed(now, 's1', number), 's1').title;
    expect([titleOf(there, 1), titleOf(there, 2)]).toEqual([
      'Crested tee for the, Estuary by Ebb Shop',
      'Crested tee for the, Sandbar by Ebb Shop',
    ]);
    // A title of its own is fitted by itself, there alone.
    const long = titleListing(there, 's1', 2, `${'Sandbar tee '.repeat(6)}!`);
    const [fit] = fixesFor({ ...tooMany, doc: long, number: 2 }, ['title']);
    const fixed = fit!.apply(long, 'store');
    expect([fit!.everywhere, titleOf(fixed, 1), titleOf(fixed, 2)]).toEqual([
      false,
      'Crested tee for the, Estuary by Ebb Shop',
      'Sandbar tee Sandbar tee by Ebb Shop',
    ]);
    const none = fixesFor({ ...tooMany, demands: { ...strict, variantsMax: 2 } }, ['variants']);
    expect(none.map(({ id }) => id)).not.toContain('split');
  });

  it('begin several listings with two halves of the colors', () => {
    const full = setChosen(doc, keysWith(demoBlank, {}), true);
    const halves = splitInHalves({ ...world, doc: full, shopName: SHOP });
    expect(halves.split?.s1?.listings).toEqual({
      '1': { title: 'Crested tee for the, Estuary by Ebb Shop' },
      '2': { values: { sandbar: true }, title: 'Crested tee for the, Sandbar by Ebb Shop' },
    });
    const one = setChosen(doc, keysWith(demoBlank, { color: 'estuary' }), true);
    expect(splitInHalves({ ...world, doc: one })).toBe(one);
  });

  it('leave room for the sizes under a description, and cut nothing where these alone are too long', () => {
    const measures = [{ code: 'chest', name: 'Chest', mm: { s: 483, m: 508 } }];
    const blank = { ...demoBlank, sizeGuide: { optionCode: 'size', of: 'good' as const, measures } };
    const full = setChosen(doc, keysWith(demoBlank, {}), true);
    const sized = { ...world, doc: full, blank, sizesIn: 'cm' as const };
    const lengthOf = (now: ProductDocument) => describedFor(now, 's1', blank, 'cm').description.length;
    const [cut] = fixesFor({ ...sized, demands: { ...strict, descriptionMax: 100 } }, ['description']);
    expect(lengthOf(cut!.apply(full, 'store'))).toBeLessThanOrEqual(100);
    expect(fixesFor({ ...sized, demands: { ...strict, descriptionMax: 20 } }, ['description'])).toEqual([]);
  });

  it('map colors that none of the shop’s names looks like, as many as are sold there', () => {
    const shades = [
      { name: 'Purple', hex: '#6b3f8f' },
      { name: 'Teal', hex: '#1f7a7a' },
    ];
    const named = { ...world, doc: setChosen(doc, keysWith(demoBlank, {}), true), demands: { ...strict, shades } };
    const [map] = fixesFor(named, ['shades']);
    expect(map).toMatchObject({ id: 'shades', says: 'Map a color', after: 'Estuary: Teal', everywhere: false });
    const mapped = map!.apply(named.doc, 'store');
    expect(mapped.shades).toEqual({ s1: { estuary: 'Teal' } });
    expect(fixesFor({ ...named, doc: mapped }, ['shades'])).toEqual([]);
    expect(fixesFor({ ...named, shades: { estuary: 'Purple' } }, ['shades'])).toEqual([]);
    expect(ownParts(mapped, 's1').map(({ says }) => says)).toEqual(['own names for 1 color']);
    expect(followProduct(mapped, 's1', 'shades')).toEqual(named.doc);
    expect(
      fixesFor({ ...named, doc: setChosen(named.doc, keysWith(demoBlank, { color: 'estuary' }), false) }, ['shades']),
    ).toEqual([]);
  });

  it('are none for what needs a person, and none that change nothing', () => {
    expect(fixesFor(world, ['pictures', 'phrases', 'category', 'price-spread'])).toEqual([]);
    const fits = { ...doc, words: { ...doc.words, base: { ...doc.words.base, title: 'Crest tee by Ebb Shop' } } };
    expect(fixesFor({ ...world, doc: fits }, ['title'])).toEqual([]);
  });
});
