import { describe, expect, it } from 'vitest';
import { about as broadmere } from '@/adapters/broadmere/about';
import { about as loopstall } from '@/adapters/loopstall/about';
import { about as plainfront } from '@/adapters/plainfront/about';
import { sampleFormFor } from '@/ports/conformance/channel-sample';
import type { ChannelAbout } from '@/ports/channel';
import type { ListingForm } from '../listing/form';
import { brokenRules, evaluateRules } from './evaluate';
import type { RuleFacts } from './rule';

const PLACE = {
  path: ['To wear', 'Tops', 'T-shirts'],
  attributes: [
    { key: 'cloth', label: 'Cloth', choices: ['Cotton', 'Linen'], needed: true },
    { key: 'keeps', label: 'Keeps warm', choices: ['Yes', 'No'], needed: false },
  ],
};

const factsFor = (about: ChannelAbout, over: Partial<RuleFacts> = {}): RuleFacts => ({
  channelName: about.name,
  shopName: 'Brackwater Boathouse',
  pictureLongSidePx: 2000,
  partnerDeclared: true,
  place: PLACE,
  exemption: 'granted',
  goodName: 'Towpath Tee',
  soldTo: about.sellsTo.slice(0, 2),
  losing: [],
  usedAreaCount: 1,
  ...over,
});

const GOOD: ReadonlyMap<ChannelAbout, Partial<ListingForm>> = new Map<ChannelAbout, Partial<ListingForm>>([
  [broadmere, { title: 'Crossed Blades tee by Brackwater Boathouse', terms: { processingDays: '4' } }],
  [plainfront, {}],
  [loopstall, { category: 'tee', attributes: { cloth: 'Cotton' }, terms: { warehouse: 'wh' } }],
]);

const good = (about: ChannelAbout): ListingForm => sampleFormFor(about, GOOD.get(about));

/** Ids of what is broken, with the first one's sentence. */
function broken(about: ChannelAbout, over: Partial<ListingForm>, facts: Partial<RuleFacts> = {}) {
  const found = brokenRules(evaluateRules({ ...good(about), ...over }, about.demands, factsFor(about, facts)));
  return { ids: found.map(({ id }) => id), says: found[0]?.says ?? '', mend: found[0]?.mend ?? '' };
}

const priced = (about: ChannelAbout, ...minors: number[]): Partial<ListingForm> => ({
  variants: Object.fromEntries(
    Object.entries(good(about).variants).map(([key, variant], i) => [
      key,
      { ...variant, priceMinor: minors[i] ?? minors[0]!, compareAtMinor: null },
    ]),
  ),
});

describe.each([broadmere, plainfront, loopstall])('the rules of $name', (about) => {
  it('keep a form that the shop takes', () => {
    expect(broken(about, {}).ids).toEqual([]);
  });
});

/** A text of so many letters, the seller's name last. */
const long = (n: number) => `${'a'.repeat(n - ' Brackwater Boathouse'.length)} Brackwater Boathouse`;

describe('Broadmere’s words', () => {
  it('hold the title to 160 graphemes, just below and just above', () => {
    expect(broken(broadmere, { title: long(160) }).ids).toEqual([]);
    expect(broken(broadmere, { title: long(161) })).toMatchObject({ ids: ['title'], mend: 'Remove 1 character.' });
  });

  it('want the shop’s name last', () => {
    const { ids, says } = broken(broadmere, { title: 'Brackwater Boathouse tee' });
    expect(ids).toEqual(['title-ending']);
    expect(says).toContain('“Brackwater Boathouse”');
  });

  it.each([
    ['FIVES tee Brackwater Boathouse', 'shouting', '“FIVES”'],
    ['Best seller tee Brackwater Boathouse', 'phrases', '“best seller”'],
    ['Tee! Brackwater Boathouse', 'title-characters', '“!”'],
  ])('take no “%s”', (title, id, says) => {
    expect(broken(broadmere, { title })).toMatchObject({ ids: [id], says: expect.stringContaining(says) });
  });

  it('take four capitals, and a phrase as a part of other words', () => {
    expect(broken(broadmere, { title: 'FOUR tee Brackwater Boathouse' }).ids).toEqual([]);
    expect(broken(broadmere, { description: 'For the bestsellers’ shelf.' }).ids).toEqual([]);
  });

  it('hold highlights to three of 150', () => {
    expect(broken(broadmere, { highlights: ['a', 'b', 'c'] }).ids).toEqual([]);
    expect(broken(broadmere, { highlights: ['a', 'b', 'c', 'd'] }).ids).toEqual(['highlights']);
    expect(broken(broadmere, { highlights: ['x'.repeat(150)] }).ids).toEqual([]);
    expect(broken(broadmere, { highlights: ['x'.repeat(151)] }).ids).toEqual(['highlights']);
  });
});

describe('Broadmere’s prices, codes and settings', () => {
  it('go from 1.00 to 2000.00, the dearest at most five times the cheapest', () => {
    expect(broken(broadmere, priced(broadmere, 100)).ids).toEqual([]);
    expect(broken(broadmere, priced(broadmere, 99)).ids).toEqual(['price-min']);
    expect(broken(broadmere, priced(broadmere, 200_000)).ids).toEqual([]);
    expect(broken(broadmere, priced(broadmere, 200_001)).ids).toEqual(['price-max']);
    expect(broken(broadmere, priced(broadmere, 1000, 5000)).ids).toEqual([]);
    expect(broken(broadmere, priced(broadmere, 1000, 5001)).ids).toEqual(['price-spread']);
  });

  it('are compared in the store’s currency', () => {
    // One dollar is 92 cents of another currency here.
    const sumHere = ({ minor }: { minor: number }) => Math.round(minor * 0.92);
    expect(broken(broadmere, priced(broadmere, 92), { sumHere }).ids).toEqual([]);
    expect(broken(broadmere, priced(broadmere, 91), { sumHere }).ids).toEqual(['price-min']);
  });

  it.each(['none', 'asked', 'refused'] as const)('want codes where the exemption is %s', (exemption) => {
    const bare = Object.fromEntries(
      Object.entries(good(broadmere).variants).map(([key, variant]) => [key, { ...variant, gtin: null }]),
    );
    expect(broken(broadmere, { variants: bare }, { exemption }).ids).toEqual(['codes']);
    expect(broken(broadmere, { variants: bare }, { exemption: 'granted' }).ids).toEqual([]);
    expect(broken(broadmere, {}, { exemption }).ids).toEqual([]);
  });

  it('want each color by a name of the shop, and goods within ten days', () => {
    const [[key, variant]] = Object.entries(good(broadmere).variants) as [[string, ListingForm['variants'][string]]];
    const variants = { ...good(broadmere).variants, [key]: { ...variant, shade: null } };
    expect(broken(broadmere, { variants }).ids).toEqual(['shades']);
    expect(broken(broadmere, { terms: { processingDays: '10' } }).ids).toEqual([]);
    expect(broken(broadmere, { terms: { processingDays: '11' } }).ids).toEqual(['processing-days']);
    expect(broken(broadmere, { terms: {} }).ids).toEqual(['processing-days']);
  });

  it('want a first picture that can stand on white', () => {
    expect(broken(broadmere, {}, { firstCanBeOnWhite: false }).ids).toEqual(['first-on-white']);
  });
});

describe('Loopstall’s demands', () => {
  it('hold a title to 25 to 200 letters that begins with one, without pictures and shouting', () => {
    expect(broken(loopstall, { title: 'a'.repeat(25) }).ids).toEqual([]);
    expect(broken(loopstall, { title: 'a'.repeat(24) })).toMatchObject({ ids: ['title'], mend: 'Add 1 character.' });
    expect(broken(loopstall, { title: `4 ${'a'.repeat(30)}` }).ids).toEqual(['title-beginning']);
    expect(broken(loopstall, { title: `${'a'.repeat(30)} 🚣` }).ids).toEqual(['title-characters']);
    expect(broken(loopstall, { title: 'A'.repeat(30) }).ids).toEqual(['shouting']);
    expect(broken(loopstall, { title: 'The summer sale of all the tees' }).ids).toEqual(['title-phrases']);
  });

  it('want a category and what it asks', () => {
    expect(broken(loopstall, { category: null, attributes: {} }, { place: null })).toMatchObject({
      ids: ['category'],
      says: expect.stringContaining('Towpath Tee'),
    });
    expect(broken(loopstall, { attributes: {} })).toMatchObject({
      ids: ['attributes'],
      says: expect.stringContaining('Cloth under T-shirts'),
    });
    expect(broken(loopstall, { attributes: { cloth: 'Silk' } }).ids).toEqual(['attributes']);
    expect(broken(loopstall, { attributes: { cloth: 'Linen', keeps: 'Perhaps' } }).ids).toEqual(['attributes']);
    // Names that every object has are no answers.
    expect(broken(loopstall, { attributes: JSON.parse('{"__proto__":"x"}') as Record<string, string> }).ids).toEqual([
      'attributes',
    ]);
  });

  it('want a warehouse, three pictures, and shipping for every country sold to', () => {
    expect(broken(loopstall, { terms: {} }).ids).toEqual(['warehouse']);
    expect(broken(loopstall, { pictures: good(loopstall).pictures.slice(0, 2) }).ids).toEqual(['pictures']);
    expect(broken(loopstall, {}, { soldTo: ['DE', 'FR', 'NL'] })).toMatchObject({
      ids: ['shipping'],
      says: expect.stringContaining('Netherlands'),
    });
    expect(broken(loopstall, {}, { soldTo: [] }).ids).toEqual(['shipping']);
  });

  it('tell a picture that was taken and then refused', () => {
    const form = good(loopstall);
    const refusedPictures = [{ key: form.pictures[1]!.key, words: 'It shows a mark.' }];
    const found = brokenRules(evaluateRules(form, loopstall.demands, factsFor(loopstall, { refusedPictures })));
    expect(found).toMatchObject([{ id: 'picture-refused', says: expect.stringContaining('picture 2') }]);
    const elsewhere = [{ key: 'another', words: 'x' }];
    expect(broken(loopstall, {}, { refusedPictures: elsewhere }).ids).toEqual([]);
  });
});

describe('Plainfront’s demands', () => {
  it('hold texts for search engines to 70 and 160, and the address to what one can be', () => {
    const seo = (title: number, description: number) => ({
      seo: { title: 'a'.repeat(title), description: 'a'.repeat(description) },
    });
    expect(broken(plainfront, seo(70, 160)).ids).toEqual([]);
    expect(broken(plainfront, seo(71, 160)).ids).toEqual(['search-texts']);
    expect(broken(plainfront, seo(70, 161)).ids).toEqual(['search-texts']);
    expect(broken(plainfront, { pageAddress: 'a'.repeat(80) }).ids).toEqual([]);
    for (const pageAddress of ['a'.repeat(81), 'Tee', 'a--b', '-a', ''])
      expect(broken(plainfront, { pageAddress }).ids).toEqual(['page-address']);
  });

  it('tell two values of one name apart from none', () => {
    const options = good(plainfront).options.map((option) => ({
      ...option,
      values: [...option.values, { code: 'again', name: option.values[0]!.name.toUpperCase() }],
    }));
    expect(broken(plainfront, { options }).ids).toEqual(['option-twice']);
  });
});
