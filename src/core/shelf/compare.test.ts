import { describe, expect, it } from 'vitest';
import { compareBlanks } from './compare';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import type { Blank, PriceList } from '../catalog/blank';

const GB = { country: 'GB', name: 'United Kingdom' };
const US = { country: 'US', name: 'United States' };
/** The same shirt at another partner: cheaper, in another color, not sent to Britain. */
const other: Blank = {
  ...demoBlank,
  id: 'b2',
  partner: { ...demoBlank.partner, id: 'p2', name: 'Cinder Lane', currency: 'USD' },
  options: [
    {
      ...demoBlank.options[0]!,
      values: [
        // A shade off Estuary, and a color of its own.
        { code: 'estuary', name: 'River Teal', hex: '#2e4b54' },
        { code: 'sandbar', name: 'Buoy Orange', hex: '#d9542b' },
      ],
    },
    demoBlank.options[1]!,
  ],
};
const otherList: PriceList = {
  ...demoList,
  currency: 'USD',
  baseCostMinor: Object.fromEntries(demoBlank.variants.map((v) => [v.key, v.values.color === 'estuary' ? 835 : 769])),
  shipping: [{ region: 'us', countries: ['US'], firstMinor: 466, furtherMinor: 184, daysMin: 3, daysMax: 5 }],
};
const mug: Blank = {
  ...demoBlank,
  id: 'b3',
  name: 'Tote',
  options: [demoBlank.options[0]!],
  variants: [{ ...demoBlank.variants[0]!, key: 'color=estuary', values: { color: 'estuary' } }],
};
const mugList: PriceList = { ...demoList, baseCostMinor: { 'color=estuary': 610 } };

const rowOf = (comparison: ReturnType<typeof compareBlanks>, title: string, label: string) =>
  comparison.sections.find((section) => section.title.startsWith(title))?.rows.find((row) => row.label === label);

describe('comparing', () => {
  const compared = compareBlanks(
    [
      { blank: demoBlank, list: demoList },
      { blank: other, list: otherList },
    ],
    'USD',
    demoRates,
    [GB, US],
    1,
  );

  it('gives base costs by size in one currency, the least marked, with the partner’s own', () => {
    // 7.40 GBP at 1.25 is 9.25
    expect(rowOf(compared, 'Base cost', 'M')).toMatchObject({
      differs: true,
      cells: [
        { text: '9.25 USD', note: '7.40 GBP', least: false },
        { text: '7.69 USD', note: 'to 8.35 USD by color', least: true },
      ],
    });
  });

  it('gives landed cost to each destination in the middle size, and where one does not send', () => {
    expect(compared.size).toBe('M');
    // (7.40 + 4.00) GBP at 1.25; (7.69 + 4.66) USD
    expect(rowOf(compared, 'Landed', 'United Kingdom')!.cells.map((cell) => cell!.text)).toEqual([
      '14.25 USD',
      'not sent there',
    ]);
    expect(rowOf(compared, 'Landed', 'United States')!.cells[1]).toMatchObject({ text: '12.35 USD', least: true });
  });

  it('gives areas in mm and pixels, and says what is the same', () => {
    // 280 × 380 mm at 300 DPI
    expect(rowOf(compared, 'Print areas', 'Front')).toMatchObject({
      differs: false,
      cells: [{ text: '280 × 380 mm', note: '3307 × 4488 px at 300 DPI' }, { text: '280 × 380 mm' }],
    });
    expect(rowOf(compared, 'Facts', 'Making')!.differs).toBe(false);
  });

  it('takes colors that the eye does not tell apart for one, whatever they are called', () => {
    expect(compared.colors.common.map((color) => color.name)).toEqual(['Estuary']);
    expect(compared.colors.apart.map((list) => list.map((color) => color.name))).toEqual([
      ['Sandbar'],
      ['Buoy Orange'],
    ]);
  });

  it('charges a second side: 5.15 (common practice, no source)', () => {
    expect(rowOf(compared, 'Charge', 'Back')!.cells[1]!.text).toBe('5.15 USD');
  });

  it('keeps a blank of one size beside blanks with sizes', () => {
    const mixed = compareBlanks(
      [
        { blank: demoBlank, list: demoList },
        { blank: mug, list: mugList },
      ],
      'GBP',
      demoRates,
      [GB],
      1,
    );
    expect(rowOf(mixed, 'Base cost', 'M')!.cells).toMatchObject([{ text: '7.40 GBP' }, null]);
    expect(rowOf(mixed, 'Base cost', 'One size')!.cells).toMatchObject([null, { text: '6.10 GBP' }]);
    expect(rowOf(mixed, 'Landed', 'United Kingdom')!.cells[1]!.text).toBe('10.10 GBP');
  });

  it('tells what its one size costs at the partner, and by which choice that differs', () => {
    const weaves: Blank = {
      ...mug,
      options: [
        mug.options[0]!,
        {
          code: 'weave',
          name: 'Weave',
          pieceCode: null,
          values: [
            { code: 'plain', name: 'Plain', hex: null },
            { code: 'waffle', name: 'Waffle', hex: null },
          ],
        },
      ],
      variants: ['plain', 'waffle'].map((weave) => ({
        ...mug.variants[0]!,
        key: `color=estuary;weave=${weave}`,
        values: { color: 'estuary', weave },
      })),
    };
    const list: PriceList = {
      ...mugList,
      baseCostMinor: { 'color=estuary;weave=plain': 760, 'color=estuary;weave=waffle': 920 },
    };
    const entries = [
      { blank: demoBlank, list: demoList },
      { blank: weaves, list },
    ];
    // 7.60 GBP at 1.25
    expect(rowOf(compareBlanks(entries, 'USD', demoRates, [US], 1), 'Base cost', 'One size')!.cells).toEqual([
      null,
      { text: '9.50 USD', note: '7.60–9.20 GBP by weave', least: false },
    ]);
    expect(rowOf(compareBlanks([entries[1]!], 'GBP', demoRates, [US], 1), 'Base cost', 'Base cost')!.cells).toEqual([
      { text: '7.60 GBP', note: 'to 9.20 GBP by weave', least: false },
    ]);
  });
});
