import { describe, expect, it } from 'vitest';
import { isTypicaError } from '../errors';
import { demoRates } from '../catalog/sample';
import { browse } from './browse';
import { familyOf } from '../catalog/families';
import { parseQuery, queryParams } from './query';
import { buildSearch } from './search';
import { EMPTY_QUERY, itemOf, rankBlanks, type ShelfBlank, type ShelfPrices, type ShelfQuery } from './shelf';

interface Given {
  id: string;
  name: string;
  partner?: string;
  kind?: string;
  colors?: readonly string[];
  sizes?: readonly string[];
  /** By color then size; null has ended, 0 is out of stock. */
  stock?: readonly (number | null)[];
  cost?: readonly number[];
  print?: number;
  areas?: number;
  making?: number;
  technique?: ShelfBlank['techniques'][number];
}

const NAMES: Record<string, string> = { '#1b2a41': 'Deep Channel', '#7a2a33': 'Oxblood', '#ffffff': 'White' };
const partners = { p1: { currency: 'GBP' }, p2: { currency: 'USD' } } as Record<string, { currency: string }>;

function shelf(given: readonly Given[]) {
  const ranks = rankBlanks(given.map(({ id, name, partner = 'p1' }) => ({ id, name, partnerName: partner })));
  const blanks = given.map((g): ShelfBlank => {
    const { colors = [], sizes = [], partner = 'p1' } = g;
    const cells = (colors.length > 0 ? colors : [null]).flatMap((_, c) =>
      (sizes.length > 0 ? sizes : [null]).map((_s, s) => ({
        c: colors.length > 0 ? c : -1,
        s: sizes.length > 0 ? s : -1,
      })),
    );
    const stock = g.stock ?? cells.map(() => 9);
    return {
      id: g.id,
      rank: ranks.get(g.id)!,
      code: g.id,
      name: g.name,
      kind: g.kind ?? 'apparel',
      material: 'cotton',
      description: '',
      factsText: '',
      partner: { id: partner, name: partner === 'p1' ? 'Millrace Works' : 'Cinder Lane' },
      shipsFrom: partner === 'p1' ? 'GB' : 'US',
      parcelClass: 'parcel',
      makingDays: { min: 1, max: g.making ?? 3 },
      techniques: [g.technique ?? 'direct-to-garment'],
      areas: Array.from({ length: g.areas ?? 1 }, (_, i) => ({
        key: `main.a${i}`,
        name: `Area ${i}`,
        pieceCode: 'main',
        widthMm: 100,
        heightMm: 100,
        outline: null,
        dpi: 300,
        widthPx: 1181,
        heightPx: 1181,
      })),
      colors: colors.map((hex) => ({ code: hex, name: NAMES[hex]!, hex, family: familyOf(hex) })),
      colorOf: colors.length > 0 ? { optionCode: 'color', pieceCode: null } : null,
      sizes,
      choices: [],
      pieces: [{ code: 'main', name: g.name }],
      shotHash: null,
      variants: {
        keys: cells.map((_, i) => `v${i}`),
        color: Int16Array.from(cells, (cell) => cell.c),
        size: Int16Array.from(cells, (cell) => cell.s),
        stock: Int32Array.from(stock, (n) => n ?? 9),
        ended: Uint8Array.from(stock, (n) => (n === null ? 1 : 0)),
      },
    };
  });
  const prices = (partner: string): ShelfPrices => ({
    currency: partners[partner]!.currency,
    validFrom: '2026-01-01',
    blanks: new Map(
      given.flatMap((g, i) => {
        const n = blanks[i]!.variants.keys.length;
        return blanks[i]!.partner.id === partner && g.cost?.length !== 0
          ? [
              [
                g.id,
                {
                  printMinor: g.print ?? 0,
                  costMinor: Int32Array.from({ length: n }, (_, v) => g.cost?.[v] ?? g.cost?.[0] ?? 500),
                  stock: new Int32Array(n).fill(-1),
                  ended: new Uint8Array(n),
                },
              ] as const,
            ]
          : [];
      }),
    ),
    shipping: new Map([
      [
        'parcel',
        [
          { region: 'gb', countries: ['GB'], firstMinor: 466, furtherMinor: 184, daysMin: 2, daysMax: 4 },
          ...(partner === 'p1'
            ? [{ region: 'us', countries: ['US'], firstMinor: 900, furtherMinor: 300, daysMin: 6, daysMax: 9 }]
            : []),
        ],
      ],
    ]),
  });
  const lists = new Map(Object.keys(partners).map((id) => [id, prices(id)]));
  const search = buildSearch(blanks);
  return (query: Partial<ShelfQuery> = {}) => {
    const asked = { ...EMPTY_QUERY, ...query };
    return browse(blanks, (id) => lists.get(id), asked.text ? search.find(asked.text) : null, asked, 'USD', demoRates);
  };
}
const ids = (answer: ReturnType<ReturnType<typeof shelf>>) => answer.rows.map((row) => row.blank.id);
const facet = (values: readonly { value: string; count: number }[]) =>
  Object.fromEntries(values.map(({ value, count }) => [value, count]));

const tee: Given = {
  id: 'tee',
  name: 'Towpath Tee',
  colors: ['#1b2a41', '#7a2a33'],
  sizes: ['S', 'XL'],
  cost: [740, 890, 740, 890],
  areas: 4,
};
const hoodie: Given = { ...tee, id: 'hoodie', name: 'Slipway Hoodie', cost: [1840], areas: 2, technique: 'embroidery' };
const mug: Given = {
  id: 'mug',
  name: 'Galley Mug',
  partner: 'p2',
  kind: 'drinkware',
  sizes: ['11 oz'],
  cost: [500],
  making: 2,
  technique: 'sublimation',
};

describe('browsing', () => {
  it('gives the landed cost by first and further item, in the asking currency', () => {
    const ask = shelf([{ ...mug, cost: [769] }]);
    // Common practice, no source: first item 4.66, each further 1.84
    expect(ask({ items: 1 }).rows[0]).toMatchObject({ costMinor: 769, landedEachMinor: 769 + 466 });
    expect(ask({ items: 3 }).rows[0]).toMatchObject({
      landedTotalMinor: 3 * 769 + 466 + 2 * 184,
      // 31.41 shared by three is 10.47
      landedEachMinor: 1047,
    });
  });

  it('converts at the dated rate, and says where a partner does not send', () => {
    const ask = shelf([tee, mug]);
    // 7.40 GBP at 1.25 is 9.25, and 9.00 GBP of shipping is 11.25
    expect(ask({ country: 'US' }).rows[0]).toMatchObject({
      costMinor: 925,
      listCostMinor: 740,
      listCurrency: 'GBP',
      landedEachMinor: 2050,
      daysMin: 6,
    });
    expect(ask({ country: 'US' }).rows[1]).toMatchObject({ costMinor: 500, landedEachMinor: null, daysMin: null });
  });

  it('counts what each further choice would leave, with the choices of other kinds kept', () => {
    const ask = shelf([tee, hoodie, mug]);
    const { facets, total } = ask({ techniques: ['embroidery'] });
    expect(total).toBe(1);
    expect(facet(facets.technique)).toEqual({ 'direct-to-garment': 1, embroidery: 1, sublimation: 1 });
    expect(facet(facets.kind)).toEqual({ apparel: 1 });
    expect(facet(facets.size)).toEqual({ S: 1, XL: 1 });
    expect(facet(ask().facets.size)).toEqual({ S: 2, XL: 2, '11 oz': 1 });
    expect(facet(ask().facets.areas)).toEqual({ 2: 2, 3: 1, 4: 1 });
    expect(facet(ask().facets.making)).toEqual({ 2: 1, 3: 3, 5: 3, 7: 3 });
    expect(facet(ask({ sizes: ['11 oz'] }).facets.size)).toEqual({ S: 2, XL: 2, '11 oz': 1 });
  });

  it('finds a blank only by one variant that fits everything at once', () => {
    // The blue XL is out of stock and the red S has ended.
    const ask = shelf([{ ...tee, stock: [5, 0, null, 7] }]);
    expect(ids(ask({ families: ['blue'], sizes: ['XL'] }))).toEqual(['tee']);
    const asked = { families: ['blue'], sizes: ['XL'], inStock: true };
    expect(ids(ask(asked))).toEqual([]);
    expect(facet(ask(asked).facets.size)).toEqual({ S: 1 });
    expect(facet(ask(asked).facets.family)).toEqual({ red: 1 });
    expect(ask(asked).facets.inStock).toBe(0);
    expect(ids(ask({ families: ['red'], sizes: ['S'] }))).toEqual([]);
    expect(ask().rows[0]).toMatchObject({ fitting: 3, inStock: 2 });
  });

  it('counts the cheapest variant that fits', () => {
    const ask = shelf([tee]);
    // 8.90 GBP at 1.25 is 11.125, half up 11.13
    expect(ask({ sizes: ['XL'] }).rows[0]!.costMinor).toBe(1113);
    expect(ask({ sizes: ['S', 'XL'] }).rows[0]!.costMinor).toBe(925);
  });

  it('narrows by the landed cost of each item', () => {
    const ask = shelf([tee, hoodie, mug]);
    const landed = ask().rows.map((row) => [row.blank.id, row.landedEachMinor]);
    // (7.40 + 4.66) and (18.40 + 4.66) GBP at 1.25, each converted by itself: 9.25 + 5.83 and 23.00 + 5.83; the mug 5.00 + 4.66 USD
    expect(landed).toEqual([
      ['mug', 966],
      ['tee', 1508],
      ['hoodie', 2883],
    ]);
    expect(ids(ask({ landedMinMinor: 967, landedMaxMinor: 1508 }))).toEqual(['tee']);
  });

  it('sorts by any column, what has no value last, equals by name', () => {
    const ask = shelf([mug, { ...tee, id: 't2', name: 'Alder Tee' }, tee]);
    expect(ids(ask({ sort: 'name' }))).toEqual(['t2', 'mug', 'tee']);
    expect(ids(ask({ sort: 'name', descending: true }))).toEqual(['tee', 'mug', 't2']);
    expect(ids(ask({ sort: 'areas', descending: true }))).toEqual(['t2', 'tee', 'mug']);
    expect(ids(ask({ sort: 'landed', country: 'US', descending: true }))).toEqual(['t2', 'tee', 'mug']);
    expect(ids(ask({ sort: 'partner' }))).toEqual(['mug', 't2', 'tee']);
  });

  it('gives one page, and leaves out what has no price', () => {
    const ask = shelf([tee, hoodie, mug, { ...mug, id: 'free', cost: [] }]);
    expect(ask().total).toBe(3);
    expect(ids(ask({ offset: 1, limit: 1 }))).toEqual(['tee']);
    expect(itemOf(ask().rows[0]!)).not.toHaveProperty('variants');
  });
});

describe('searching', () => {
  const ask = shelf([tee, hoodie, mug]);
  it.each([
    ['towpath', ['tee']],
    ['towpsth', ['tee']],
    ['tow', ['tee']],
    ['hodie', ['hoodie']],
    ['sublimatoin', ['mug']],
    // Two neighbors exchanged, in words too short for two wrong letters.
    ['hodoie', ['hoodie']],
    ['tee hodoie', []],
    ['toapwth', []],
    ['gallye cidner', ['mug']],
    ['galley cinder', ['mug']],
    ['Oxbl', ['tee', 'hoodie']],
    ['tee mug', []],
  ])('“%s” finds %j', (text, found) => {
    expect(ids(ask({ text, sort: 'match' })).sort()).toEqual([...found].sort());
  });

  it('without a word asks nothing', () => {
    expect(ask({ text: ' – ' }).total).toBe(3);
  });
});

describe('the address of a query', () => {
  it('gives the same query back, whatever it holds', () => {
    const query: ShelfQuery = {
      ...EMPTY_QUERY,
      text: 'tee & mug',
      kind: 'wall art',
      techniques: ['uv', 'giclee'],
      shipsFrom: ['DE'],
      sizes: ['18 × 24 in', 'XL'],
      families: ['blue'],
      materials: ['paper'],
      partners: ['p1'],
      areasMin: 2,
      makingMax: 5,
      landedMinMinor: 500,
      landedMaxMinor: 1999,
      inStock: true,
      country: 'NZ',
      items: 3,
      sort: 'making',
      descending: true,
      offset: 120,
    };
    const params = queryParams(query, 'GBP', 'GB');
    expect(params.get('max')).toBe('19.99');
    expect(parseQuery(new URLSearchParams(params.toString()), 'GBP', 'GB')).toEqual(query);
    // ISO 4217: the yen has no minor unit
    expect(queryParams(query, 'JPY', 'GB').get('max')).toBe('1999');
  });

  it('is empty when nothing is asked', () => {
    expect(queryParams({ ...EMPTY_QUERY, country: 'DE' }, 'EUR', 'DE').toString()).toBe('');
  });

  it.each([
    ['to=Mars', 'query-unreadable'],
    ['items=0', 'query-unreadable'],
    ['items=2.5', 'query-unreadable'],
    ['sort=luck', 'query-unreadable'],
    ['limit=1000000', 'query-unreadable'],
    ['min=cheap', 'amount-unreadable'],
  ])('with ?%s is refused as %s', (text, code) => {
    expect(() => parseQuery(new URLSearchParams(text), 'GBP', 'GB')).toThrow(
      expect.toSatisfy((e) => isTypicaError(e, code)),
    );
  });
});
