import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { differenceRows } from './differences';

const about = { blank: demoBlank, currency: 'USD' };
const keys = demoBlank.variants.map(({ key }) => key);

describe('what differs', () => {
  it('is told with money and names, never with codes', () => {
    expect(
      differenceRows(
        [
          { field: `variants.${keys[1]}.priceMinor`, change: 'there', here: 1799, there: 2699 },
          { field: `variants.${keys[1]}.inStock`, change: 'here', here: false, there: true },
          { field: 'tags', change: 'both', here: ['river', 'tee'], there: [] },
          { field: 'title', change: 'both-alike', here: '', there: undefined },
        ],
        about,
      ),
    ).toEqual([
      {
        name: 'Price of Estuary, M',
        here: { text: '17.99 USD' },
        there: { text: '26.99 USD' },
        changed: 'in the shop',
      },
      { name: 'In stock of Estuary, M', here: { text: 'no' }, there: { text: 'yes' }, changed: 'here' },
      { name: 'Tags', here: { text: 'river, tee' }, there: { text: '(none)' }, changed: 'in both, differently' },
      { name: 'Title', here: { text: '(empty)' }, there: { text: '–' }, changed: 'in both, alike' },
    ]);
  });

  it('names what shops keep beside the plain words', () => {
    const named = ['pageAddress', 'seo.title', 'category', 'attributes.cloth', `variants.${keys[0]}.shade`].map(
      (field) => differenceRows([{ field, change: 'here', here: 'a', there: 'b' }], about)[0]!.name,
    );
    expect(named).toEqual([
      'Page address',
      'Title for search engines',
      'Category',
      'What the shop asks: cloth',
      'Color in the shop of Estuary, S',
    ]);
  });

  it('of many variants in the same way is one row', () => {
    const rows = differenceRows(
      keys.map((key, i) => ({ field: `variants.${key}.priceMinor`, change: 'there', here: 1000 + i, there: 2000 })),
      about,
    );
    expect(rows).toEqual([
      {
        name: 'Price of 6 variants',
        here: { text: '10.00 – 10.05 USD' },
        there: { text: '20.00 USD' },
        changed: 'in the shop',
      },
    ]);
  });

  it('of pictures is pictures', () => {
    const [row] = differenceRows(
      [{ field: 'pictures', change: 'here', here: [{ key: 'k1', alt: 'a' }], there: [{ key: 'k2', alt: 'b' }] }],
      about,
    );
    expect(row).toMatchObject({
      name: 'Pictures and their order',
      here: { pictures: ['k1'] },
      there: { pictures: ['k2'] },
    });
  });

  it('of options and shipping is names and amounts', () => {
    const options = [{ code: 'size', name: 'Size', values: [{ code: 'm', name: 'M' }] }];
    const shipping = [{ countries: ['GB', 'IE'], firstMinor: 450, furtherMinor: 100 }];
    const rows = differenceRows(
      [
        { field: 'options', change: 'here', here: options, there: [] },
        { field: 'shipping', change: 'here', here: shipping, there: [] },
      ],
      about,
    );
    expect(rows.map(({ here }) => here)).toEqual([{ text: 'Size: M' }, { text: 'GB, IE: 4.50' }]);
  });
});
