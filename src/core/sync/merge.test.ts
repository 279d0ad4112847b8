import { isDeepStrictEqual } from 'node:util';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ListingForm } from '../listing/form';
import { compare, merge, type Choice, type Sides } from './merge';
import { sampleForm, sampleVariant } from './sample';
import { formOf, treeOf } from './tree';

const variant = sampleVariant;
const FORM = sampleForm();
const sidesOf = (here: Partial<ListingForm>, there: Partial<ListingForm>, agreed: Partial<ListingForm> = {}) => ({
  agreed: treeOf({ ...FORM, ...agreed }),
  here: treeOf({ ...FORM, ...agreed, ...here }),
  there: treeOf({ ...FORM, ...agreed, ...there }),
});
const forms = ({ agreed, here, there }: ReturnType<typeof merge>): Sides<ListingForm> => ({
  agreed: formOf(agreed),
  here: formOf(here),
  there: formOf(there),
});
const settle = (here: Partial<ListingForm>, there: Partial<ListingForm>, choice: Choice = 'ask') =>
  forms(merge(sidesOf(here, there), () => choice));
const told = (here: Partial<ListingForm>, there: Partial<ListingForm>) =>
  compare(sidesOf(here, there)).map(({ field, change }) => `${field} ${change}`);

describe('what differs of a listing', () => {
  it.each<[string, Partial<ListingForm>, Partial<ListingForm>, string[]]>([
    ['nothing', {}, {}, []],
    ['a title here', { title: 'New' }, {}, ['/title here']],
    ['a title on both sides, alike', { title: 'New' }, { title: 'New' }, ['/title both-alike']],
    ['a title on both sides', { title: 'New' }, { title: 'Other' }, ['/title both']],
    [
      'tags one by one: one added on each side, one taken away',
      { tags: ['river', 'tide', 'oar', 'new'] },
      { tags: ['river', 'oar', 'other'] },
      ['/tags/tide there', '/tags/new here', '/tags/other there'],
    ],
    ['the order of tags', {}, { tags: ['oar', 'river', 'tide'] }, ['/tags there']],
    [
      'a price, and a SKU of another',
      { variants: { ...FORM.variants, 'size=m': variant('A', { priceMinor: 2099 }) } },
      { variants: { ...FORM.variants, 'size=l': variant('B2') } },
      ['/variants/size=m/priceMinor here', '/variants/size=l/sku there'],
    ],
    ['a variant taken away', {}, { variants: { 'size=m': variant('A') } }, ['/variants/size=l there']],
    [
      'a variant taken away here, whose price was changed there',
      { variants: { 'size=m': variant('A') } },
      { variants: { ...FORM.variants, 'size=l': variant('B', { priceMinor: 1 }) } },
      ['/variants/size=l both'],
    ],
    [
      'a picture replaced',
      {},
      {
        pictures: [
          { key: 'front', alt: 'Front' },
          { key: 'other', alt: '' },
          { key: 'flat', alt: '' },
        ],
      },
      ['/pictures/back there', '/pictures/other there'],
    ],
    [
      'a value of an option renamed',
      {},
      { options: [{ ...FORM.options[0]!, values: [{ code: 'm', name: 'Medium' }, FORM.options[0]!.values[1]!] }] },
      ['/options/size/values/m/name there'],
    ],
    ['what the shop asks', { attributes: { fit: 'Wide' } }, { attributes: {} }, ['/attributes/fit both']],
    ['one answer more', {}, { attributes: { fit: 'Straight', 'a/b': 'c' } }, ['/attributes/a~1b there']],
  ])('%s', (_, here, there, fields) => {
    expect(told(here, there).toSorted()).toEqual(fields.toSorted());
  });
});

describe('settling', () => {
  it('keeps a tag that was added here and another that was added there', () => {
    const { here, there } = settle(
      { tags: ['river', 'tide', 'oar', 'new'] },
      { tags: ['river', 'oar', 'other', 'tide'] },
      'theirs',
    );
    // All of theirs was taken; ours, which nobody changed there, was given up with it.
    expect([here.tags, there.tags]).toEqual([
      ['river', 'oar', 'other', 'tide'],
      ['river', 'oar', 'other', 'tide'],
    ]);
    const both = merge(
      sidesOf({ tags: ['river', 'tide', 'oar', 'new'] }, { tags: ['river', 'oar', 'other', 'tide'] }),
      ({ change }) => (change === 'here' ? 'ours' : 'theirs'),
    );
    expect(formOf(both.here).tags).toEqual(['river', 'oar', 'new', 'other', 'tide']);
    expect(forms(both).there).toEqual(forms(both).here);
  });

  it('leaves what both changed differently as it is on each side, and sends only what we changed', () => {
    const { agreed, here, there } = settle({ title: 'Ours', category: 'shirts' }, { title: 'Theirs' });
    expect([agreed.title, here.title, there.title]).toEqual([FORM.title, 'Ours', 'Theirs']);
    expect([agreed.category, here.category, there.category]).toEqual(['tops', 'shirts', 'shirts']);
  });

  it('in our favor knows what is there: it is ours that is ahead then', () => {
    const after = settle({ title: 'Ours' }, { title: 'Theirs' }, 'ours');
    expect([after.agreed.title, after.here.title, after.there.title]).toEqual(['Theirs', 'Ours', 'Ours']);
    const again = compare({
      agreed: treeOf(after.agreed),
      here: treeOf(after.here),
      there: treeOf({ ...FORM, title: 'Theirs' }),
    });
    expect(again.map(({ field, change }) => [field, change])).toEqual([['/title', 'here']]);
  });

  it('takes a third', () => {
    const after = settle({ title: 'Ours' }, { title: 'Theirs' }, { value: 'A third' });
    expect([after.agreed.title, after.here.title, after.there.title]).toEqual(['Theirs', 'A third', 'A third']);
  });

  it('takes no third for a variant, which is there or not', () => {
    const one = { 'size=m': FORM.variants['size=m']! };
    const after = settle({}, { variants: one }, { value: 'A third' });
    expect([Object.keys(after.here.variants).toSorted(), after.there.variants]).toEqual([['size=l', 'size=m'], one]);
  });

  it('has an order with both sides’ changes where they are in different places', () => {
    const tags = ['a', 'b', 'c', 'd', 'e', 'f'];
    const sides = sidesOf({ tags: ['b', 'a', 'c', 'd', 'e', 'f'] }, { tags: ['a', 'b', 'c', 'd', 'f', 'e'] }, { tags });
    expect(compare(sides)[0]).toMatchObject({
      field: '/tags',
      change: 'both',
      together: ['b', 'a', 'c', 'd', 'f', 'e'],
    });
    const after = forms(merge(sides, () => 'theirs'));
    expect([after.here.tags, after.there.tags]).toEqual([
      ['b', 'a', 'c', 'd', 'f', 'e'],
      ['b', 'a', 'c', 'd', 'f', 'e'],
    ]);
  });
});

const names = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), { maxLength: 5 });
const anyForm = fc
  .record({
    title: fc.constantFrom('one', 'two', 'three'),
    seo: fc.constantFrom(null, { title: 's', description: '' }),
    tags: names,
    pictures: fc.tuple(names, fc.constantFrom('', 'alt')).map(([keys, alt]) => keys.map((key) => ({ key, alt }))),
    options: fc
      .tuple(fc.uniqueArray(fc.constantFrom('color', 'size'), { maxLength: 2 }), names)
      .map(([codes, own]) =>
        codes.map((code) => ({ code, name: code, values: own.map((value) => ({ code: value, name: value })) })),
      ),
    variants: fc.dictionary(
      fc.constantFrom('k=1', 'k=2', 'k=3'),
      fc.constantFrom('A', 'B').map((sku) => variant(sku)),
    ),
    attributes: fc.dictionary(fc.constantFrom('x', 'y'), fc.constantFrom('1', '2')),
  })
  .map((over): ListingForm => ({ ...FORM, ...over }));
/** Forms that are often the same in some of their fields. */
const three = fc
  .tuple(anyForm, anyForm, anyForm, fc.array(fc.nat(3), { minLength: 7, maxLength: 7 }))
  .map(([agreed, ours, theirs, picks]): Sides<ListingForm> => {
    const fields = ['title', 'seo', 'tags', 'pictures', 'options', 'variants', 'attributes'] as const;
    const mixed = (other: ListingForm, bit: 1 | 2) =>
      ({
        ...agreed,
        ...Object.fromEntries(fields.flatMap((field, i) => (picks[i]! & bit ? [[field, other[field]]] : []))),
      }) as ListingForm;
    return { agreed, here: mixed(ours, 1), there: mixed(theirs, 2) };
  });
const trees = ({ agreed, here, there }: Sides<ListingForm>) => ({
  agreed: treeOf(agreed),
  here: treeOf(here),
  there: treeOf(there),
});
const plain = (form: ListingForm) => JSON.parse(JSON.stringify(form)) as unknown;
const equal = (a: ListingForm, b: ListingForm) => isDeepStrictEqual(plain(a), plain(b));
const run = (property: fc.IProperty<[Sides<ListingForm>]>, seed: number) => fc.assert(property, { numRuns: 600, seed });

describe('names that are hard', () => {
  it('two tags that are the same, a slash, and what every object has', () => {
    const tags = ['a', 'a', 'a/b', '~', '__proto__', 'constructor'];
    const terms = JSON.parse('{"__proto__": "x", "toString": "y"}') as ListingForm['terms'];
    const back = formOf(treeOf(sampleForm({ tags, terms })));
    expect(back.tags).toEqual(tags);
    expect(Object.entries(back.terms)).toEqual([
      ['__proto__', 'x'],
      ['toString', 'y'],
    ]);
    expect(told({ tags: FORM.tags }, { tags: [...FORM.tags, 'oar', 'a/b', '~'] })).toEqual([
      '/tags/oar (2) there',
      '/tags/a~1b there',
      '/tags/~0 there',
    ]);
  });

  it('a shop that shows thousands of tags is told in bearable time', () => {
    const tags = Array.from({ length: 5_000 }, (_, i) => `tag ${i}`);
    expect(told({}, { tags }).length).toBe(5_003);
  });
});

describe('any three forms', () => {
  it('are what their trees give', () => {
    fc.assert(
      fc.property(anyForm, (form) => {
        expect(plain(formOf(treeOf(form)))).toEqual(plain(form));
      }),
      { numRuns: 500, seed: 40 },
    );
  });

  it('stay as they are on each side while all is asked, but for what only we changed', () => {
    run(
      fc.property(three, (sides) => {
        const after = forms(merge(trees(sides), () => 'ask'));
        expect(plain(after.here)).toEqual(plain(sides.here));
        if (equal(sides.agreed, sides.here)) expect(plain(after.there)).toEqual(plain(sides.there));
        if (equal(sides.agreed, sides.there)) expect(plain(after.there)).toEqual(plain(sides.here));
      }),
      41,
    );
  });

  it('come to ours, or to theirs, when one is chosen for all; and are in step then', () => {
    run(
      fc.property(three, (sides) => {
        const [ours, theirs] = (['ours', 'theirs'] as const).map((choice) => forms(merge(trees(sides), () => choice)));
        expect(plain(ours!.there)).toEqual(plain(ours!.here));
        expect(plain(theirs!.there)).toEqual(plain(theirs!.here));
        const hasOrder = compare(trees(sides)).some(({ together }) => together);
        if (!hasOrder) expect(plain(theirs!.here)).toEqual(plain(sides.there));
        expect(plain(ours!.here)).toEqual(plain(sides.here));
      }),
      42,
    );
  });

  it('lose nothing that one side alone did, and never settle by themselves what both did differently', () => {
    let both = 0;
    run(
      fc.property(three, (sides) => {
        const after = forms(merge(trees(sides), ({ change }) => (change === 'there' ? 'theirs' : 'ask')));
        // By tags, told by sets of Node's own: an independent account.
        const has = (form: ListingForm, tag: string) => form.tags.includes(tag);
        for (const tag of ['a', 'b', 'c', 'd', 'e', 'f']) {
          const [a, h, t] = [has(sides.agreed, tag), has(sides.here, tag), has(sides.there, tag)];
          const wanted = h === a ? t : h;
          expect([has(after.here, tag), has(after.there, tag)]).toEqual([wanted, wanted]);
        }
        const [a, h, t] = [sides.agreed.title, sides.here.title, sides.there.title];
        if (h !== a && t !== a && h !== t) {
          both += 1;
          expect([after.agreed.title, after.here.title, after.there.title]).toEqual([a, h, t]);
        } else {
          const wanted = h === a ? t : h;
          expect([after.here.title, after.there.title]).toEqual([wanted, wanted]);
        }
      }),
      43,
    );
    expect(both).toBeGreaterThan(15);
  });
});
