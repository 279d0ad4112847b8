import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { colorListings, colorNames, listingName } from '../variants/listing-colors';
import { checkDocument } from './check';
import { keysWith, setChosen } from './choosing';
import { newDocument, wordsFor } from './document';
import { asSoldIn, leaveOut } from './offered';
import { followProduct, ownParts } from './own-parts';
import { asListed, hasOwnTitle, joinListings, moveToListing, soldListings, splitInto, titleListing } from './split';

const all = keysWith(demoBlank, {});
const dark = keysWith(demoBlank, { color: 'estuary' });
const light = keysWith(demoBlank, { color: 'sandbar' });
const doc = setChosen(newDocument('b1', 'GBP', 'A tee'), all, true);
const split = splitInto(doc, 's1', 'color', [{ values: ['estuary'], title: 'A dark tee' }, { values: ['sandbar'] }]);
const keysIn = (now: typeof doc, number: number, storeId = 's1') =>
  Object.keys(asListed(now, storeId, number).variants);

describe('several listings of a product in a store', () => {
  it('each sell their colors, in that store alone', () => {
    expect(checkDocument(split)).toEqual([]);
    expect([soldListings(doc, 's1'), soldListings(split, 's1'), soldListings(split, 's2')]).toEqual([[1], [1, 2], [1]]);
    expect([keysIn(split, 1), keysIn(split, 2), keysIn(split, 3)]).toEqual([dark, light, []]);
    expect(asListed(split, 's2', 1)).toBe(split);
    expect(asListed(split, null, 1)).toBe(split);
  });

  it('have titles of their own, or the product’s', () => {
    const titleOf = (number: number) => wordsFor(asListed(split, 's1', number), 's1').title;
    expect([titleOf(1), titleOf(2)]).toEqual(['A dark tee', 'A tee']);
    const titled = titleListing(split, 's1', 2, ' A light tee ');
    expect(wordsFor(asListed(titled, 's1', 2), 's1').title).toBe('A light tee');
    expect([hasOwnTitle(titled, 's1', 2), hasOwnTitle(split, 's1', 2)]).toEqual([true, false]);
    expect(titleListing(titled, 's1', 2, '')).toEqual(split);
    expect(titleListing(doc, 's1', 2, 'Nowhere')).toBe(doc);
  });

  it('take colors from one another; one that sells nothing is none', () => {
    const together = moveToListing(split, 's1', 'sandbar', 1);
    expect([soldListings(together, 's1'), keysIn(together, 1)]).toEqual([[1], all]);
    const third = moveToListing(split, 's1', 'estuary', 3);
    expect([soldListings(third, 's1'), keysIn(third, 3)]).toEqual([[2, 3], dark]);
    expect(checkDocument(third)).toEqual([]);
    const without = leaveOut(split, 's1', light);
    expect(soldListings(without, 's1')).toEqual([1]);
    expect(Object.keys(asSoldIn(asListed(without, 's1', 2), 's1').variants)).toEqual([]);
    expect(soldListings(setChosen(split, all, false), 's1')).toEqual([1]);
  });

  it('are one again when the store follows the product', () => {
    expect(ownParts(split, 's1').map(({ says }) => says)).toEqual(['2 listings']);
    expect(followProduct(split, 's1', 'listings')).toEqual(doc);
    expect(joinListings(split, 's1').split).toBeUndefined();
    expect(splitInto(split, 's1', 'color', [{ values: ['estuary', 'sandbar'] }])).toEqual(doc);
  });

  it('sell every variant exactly once, however colors are moved', () => {
    const move = fc.tuple(fc.constantFrom('estuary', 'sandbar', 'none'), fc.integer({ min: 1, max: 5 }));
    fc.assert(
      fc.property(fc.array(move, { maxLength: 12 }), (moves) => {
        const moved = moves.reduce((now, [color, number]) => moveToListing(now, 's1', color, number), split);
        const sold = soldListings(moved, 's1').flatMap((number) => keysIn(moved, number));
        expect(sold.toSorted()).toEqual(all.toSorted());
      }),
    );
  });

  it('are told by their colors', () => {
    expect(colorListings(split, demoBlank, 's1').map(({ number, variants }) => [number, variants])).toEqual([
      [1, 3],
      [2, 3],
    ]);
    expect([1, 2, 7].map((number) => listingName(split, demoBlank, 's1', number))).toEqual([
      'listing 1: Estuary',
      'listing 2: Sandbar',
      'listing 7, sells nothing any more',
    ]);
    expect(listingName(doc, demoBlank, 's1', 1)).toBeNull();
    expect(colorNames(['Coal', 'Kelp', 'Reed', 'Foam'].map((name) => ({ name })))).toBe('Coal to Foam');
  });

  it.each([
    [{ s1: { option: 'color', listings: { '0': {} } } }],
    [{ s1: { option: 'color', listings: { '2': { values: { 'A B': true } } } } }],
    [{ s1: { option: 'color', listings: { '2': { values: { coal: false } } } } }],
    [{ s1: { option: 7, listings: {} } }],
    [{ s1: { option: 'color', listings: { '2': { title: ' ' } } } }],
    [{ s1: { option: 'color', listings: Object.fromEntries(Array.from({ length: 21 }, (_, i) => [`${i + 1}`, {}])) } }],
  ])('are refused where they cannot be read: %j', (wrong) => {
    expect(checkDocument({ ...doc, split: wrong })).not.toEqual([]);
  });
});
