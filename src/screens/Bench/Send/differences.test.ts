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
          { field: `/variants/${keys[1]}/priceMinor`, change: 'there', here: 1799, there: 2699 },
          { field: `/variants/${keys[1]}/inStock`, change: 'here', here: false, there: true },
          { field: '/tags', change: 'both', here: ['river', 'tee'], there: ['tee', 'river'] },
          { field: '/title', change: 'both-alike', here: '', there: undefined },
        ],
        about,
      ),
    ).toMatchObject([
      {
        name: 'Price of Estuary, M',
        here: { text: '17.99 USD' },
        there: { text: '26.99 USD' },
        changed: 'in the shop',
        fields: [`/variants/${keys[1]}/priceMinor`],
        ...{ toSettle: true, writes: 'amount' },
      },
      {
        name: 'In stock of Estuary, M',
        here: { text: 'no' },
        there: { text: 'yes' },
        changed: 'here',
        toSettle: false,
        writes: null,
      },
      {
        name: 'Order of the tags',
        here: { text: 'river, tee' },
        there: { text: 'tee, river' },
        changed: 'in both, differently',
      },
      { name: 'Title', here: { text: '(empty)' }, there: { text: '–' }, changed: 'in both, alike', begin: '' },
    ]);
  });

  it('names what shops keep beside the plain words', () => {
    const named = ['/pageAddress', '/seo', '/category', '/attributes/cloth/answer', `/variants/${keys[0]}/shade`].map(
      (field) => differenceRows([{ field, change: 'here', here: 'a', there: 'b' }], about)[0]!.name,
    );
    expect(named).toEqual([
      'Page address',
      'Words for search engines',
      'Category',
      'What the shop asks: cloth',
      'Color in the shop of Estuary, S',
    ]);
  });

  it('of many variants in the same way is one row', () => {
    const rows = differenceRows(
      keys.map((key, i) => ({ field: `/variants/${key}/priceMinor`, change: 'there', here: 1000 + i, there: 2000 })),
      about,
    );
    expect(rows).toMatchObject([
      {
        name: 'Price of 6 variants',
        here: { text: '10.00 – 10.05 USD' },
        there: { text: '20.00 USD' },
        changed: 'in the shop',
      },
    ]);
  });

  it('of pictures is pictures, each side’s own, and their order', () => {
    const rows = differenceRows(
      [
        { field: '/pictures/k1', change: 'there', here: { key: 'k1', alt: 'a' } },
        { field: '/pictures/k2', change: 'there', there: { key: 'k2', alt: 'b' } },
        { field: '/pictures', change: 'here', here: ['k3', 'k4'], there: ['k4', 'k3'] },
        { field: '/pictures/k3/alt', change: 'here', here: 'Front', there: '' },
      ],
      about,
    );
    expect(rows).toMatchObject([
      { name: 'Pictures', here: { pictures: ['k1'] }, there: { pictures: ['k2'] }, changed: 'in the shop' },
      {
        name: 'Order of the pictures',
        here: { pictures: ['k3', 'k4'] },
        there: { pictures: ['k4', 'k3'] },
        changed: 'here',
      },
      { name: 'Alternative text of a picture', here: { text: 'Front' }, there: { text: '(empty)' }, changed: 'here' },
    ]);
  });

  it('of things in a list is their names, those of one change together', () => {
    const option = { code: 'size', name: 'Size', values: [{ code: 'm', name: 'M' }] };
    const rows = differenceRows(
      [
        { field: '/tags/river', change: 'there', there: { text: 'river' } },
        { field: '/tags/tide', change: 'there', here: { text: 'tide' } },
        { field: '/tags/oar', change: 'here', here: { text: 'oar' } },
        { field: `/variants/${keys[0]}`, change: 'there', here: { sku: 'A' } },
        { field: '/options/size', change: 'here', here: option },
        { field: '/options/color/values/bone', change: 'there', there: { code: 'bone', name: 'Bone' } },
        { field: '/options/color/values/estuary/name', change: 'there', here: 'Estuary', there: 'Blue' },
        { field: '/attributes/a~1b', change: 'there', there: { answer: 'c' } },
      ],
      about,
    );
    const nothing = { text: '–' };
    expect(rows.map(({ name, here, there }) => [name, here, there])).toEqual([
      ['Tags', { text: 'tide' }, { text: 'river' }],
      ['Tags', { text: 'oar' }, nothing],
      ['Variants', { text: 'Estuary, S' }, nothing],
      ['Options', { text: 'Size: M' }, nothing],
      ['Values of color', nothing, { text: 'Bone' }],
      ['Name of estuary, a value of color', { text: 'Estuary' }, { text: 'Blue' }],
      ['What the shop asks: a/b', nothing, { text: 'c' }],
    ]);
  });

  it('of texts is marked in them, word by word', () => {
    const [row] = differenceRows(
      [{ field: '/title', change: 'both', here: 'Ebb tee for crews', there: 'Flood tee for crews' }],
      about,
    );
    const same = { text: ' tee for crews', differs: false };
    expect(row).toMatchObject({
      here: { text: 'Ebb tee for crews', pieces: [{ text: 'Ebb', differs: true }, same] },
      there: { text: 'Flood tee for crews', pieces: [{ text: 'Flood', differs: true }, same] },
    });
  });

  it('of shipping and the partner is amounts and names', () => {
    const shipping = [{ countries: ['GB', 'IE'], firstMinor: 450, furtherMinor: 100 }];
    const rows = differenceRows(
      [
        { field: '/shipping', change: 'here', here: shipping, there: [] },
        {
          field: '/partner',
          change: 'there',
          here: { name: 'Oststern', country: 'DE' },
          there: { country: 'PL', name: 'Millrace' },
        },
      ],
      about,
    );
    expect(rows.map(({ here }) => here)).toEqual([{ text: 'GB, IE: 4.50' }, { text: 'Oststern, DE' }]);
    expect(rows[1]!.there).toEqual({ text: 'Millrace, PL' });
  });
});
