import { describe, expect, it } from 'vitest';
import { guardsOf, wholeGuards, type WholeFacts } from './guards';
import { compare } from './merge';
import { sampleForm, sampleVariant } from './sample';
import { treeOf } from './tree';
import type { ListingForm } from '../listing/form';

const agreed = sampleForm();
const guarded = (there: ListingForm, here = agreed) =>
  guardsOf(compare({ agreed: treeOf(agreed), here: treeOf(here), there: treeOf(there) })).map(({ id, fields }) => [
    id,
    fields,
  ]);
const { 'size=m': medium, 'size=l': large } = agreed.variants as { 'size=m': never; 'size=l': never };

describe('what reaches further than its field', () => {
  it.each<[string, ListingForm, unknown]>([
    [
      'words and prices do not',
      sampleForm({ title: 'B', variants: { 'size=m': sampleVariant('A', { priceMinor: 1 }), 'size=l': large } }),
      [],
    ],
    [
      'a SKU',
      sampleForm({ variants: { 'size=m': sampleVariant('X'), 'size=l': large } }),
      [['sku-renamed', ['/variants/size=m/sku']]],
    ],
    [
      'a variant more',
      sampleForm({ variants: { ...agreed.variants, 'size=s': sampleVariant('S') } }),
      [['variant-added', ['/variants/size=s']]],
    ],
    ['a variant less', sampleForm({ variants: { 'size=m': medium } }), [['variant-removed', ['/variants/size=l']]]],
    [
      'the name of a value',
      sampleForm({
        options: [
          {
            ...agreed.options[0]!,
            values: [
              { code: 'm', name: 'Mid' },
              { code: 'l', name: 'L' },
            ],
          },
        ],
      }),
      [['option-renamed', ['/options/size/values/m/name']]],
    ],
    [
      'the name of an option',
      sampleForm({ options: [{ ...agreed.options[0]!, name: 'Fit' }] }),
      [['option-renamed', ['/options/size/name']]],
    ],
    [
      'a picture of theirs',
      sampleForm({ pictures: [{ key: 'theirs', alt: '' }, ...agreed.pictures.slice(1)] }),
      [['picture-replaced', ['/pictures/theirs']]],
    ],
    ['a picture in another place does not', sampleForm({ pictures: agreed.pictures.toReversed() }), []],
  ])('%s', (_, there, told) => expect(guarded(there)).toEqual(told));

  it('is nothing that we did', () => {
    expect(guarded(agreed, sampleForm({ variants: { 'size=m': sampleVariant('X') } }))).toEqual([]);
  });

  it('says how many, worst first', () => {
    const there = sampleForm({
      variants: { 'size=m': sampleVariant('X'), 'size=l': sampleVariant('Y') },
      pictures: [{ key: 'theirs', alt: '' }],
    });
    const told = guardsOf(compare({ agreed: treeOf(agreed), here: treeOf(agreed), there: treeOf(there) }));
    expect(told.map(({ says }) => says.split('.')[0])).toEqual([
      '2 SKUs were changed in the shop',
      'A picture in the shop was put there by somebody else: what it shows is not known here',
    ]);
  });
});

describe('what was done to a listing as a whole', () => {
  const plain: WholeFacts = {
    missing: false,
    gone: false,
    visibility: 'live',
    wanted: 'live',
    losing: [],
    currency: 'USD',
  };
  const losing = [
    { key: 'a/b', name: 'Coal, M', priceMinor: 100, losses: [{ country: 'GB', profitMinor: -250 }], floorMinor: 420 },
  ];
  it.each<[Partial<WholeFacts>, string[]]>([
    [{}, []],
    [{ wanted: null, visibility: 'draft' }, []],
    [{ visibility: 'draft' }, ['off-sale-there']],
    [{ wanted: 'draft' }, ['on-sale-there']],
    [{ missing: true }, ['not-found']],
    [{ gone: true, missing: true, visibility: 'draft' }, ['deleted-there']],
    [{ visibility: 'draft', losing }, ['off-sale-there', 'under-floor-there']],
  ])('%j: %j', (over, ids) => expect(wholeGuards({ ...plain, ...over }).map(({ id }) => id)).toEqual(ids));

  it('names the price that loses money, its floor and its field', () => {
    const [told] = wholeGuards({ ...plain, losing });
    expect(told!.says).toContain('Coal, M at 1.00 USD loses money to United Kingdom (−2.50): its floor is 4.20 USD');
    expect(told!.fields).toEqual(['/variants/a~1b/priceMinor']);
  });
});
