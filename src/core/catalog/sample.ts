import { RateTable } from '../pricing/rates';
import { variantKey, type Area, type Blank, type PriceList } from './blank';
import type { Geometry } from '../geometry/area';

/** A small blank with a price list and rates, for the tests of core and bench. */
const geometry = (widthMm: number, heightMm: number): Geometry => ({
  widthMm,
  heightMm,
  outline: null,
  anchor: { xMm: widthMm / 2, yMm: 0 },
  bleedMm: 0,
  safeMm: 5,
  dpi: 300,
  technique: 'direct-to-garment',
});

const values = ['estuary', 'sandbar'].flatMap((color) => ['s', 'm', 'xxl'].map((size) => ({ color, size })));
const both: Area['geometries'] = [
  { geometryId: 'g-small', applies: { size: ['s', 'm'] } },
  { geometryId: 'g-large', applies: {} },
];

export const demoBlank: Blank = {
  id: 'b1',
  code: 'towpath-tee',
  name: 'Towpath Tee',
  kind: 'apparel',
  description: '',
  facts: {},
  partner: { id: 'p1', code: 'millrace', name: 'Millrace Works', country: 'GB', currency: 'GBP' },
  material: 'cotton',
  shipsFrom: 'GB',
  sizeGuide: null,
  parcelClass: 'shirt',
  makingDays: { min: 1, max: 3 },
  pieces: [{ code: 'main', name: 'Towpath Tee' }],
  areas: [
    { key: 'main.front', pieceCode: 'main', name: 'Front', technique: 'direct-to-garment', geometries: both },
    { key: 'main.back', pieceCode: 'main', name: 'Back', technique: 'direct-to-garment', geometries: both },
  ],
  geometries: { 'g-small': geometry(280, 380), 'g-large': geometry(340, 440) },
  options: [
    {
      code: 'color',
      name: 'Color',
      pieceCode: null,
      values: [
        { code: 'estuary', name: 'Estuary', hex: '#2d4a53' },
        { code: 'sandbar', name: 'Sandbar', hex: '#e9e1d0' },
      ],
    },
    {
      code: 'size',
      name: 'Size',
      pieceCode: null,
      values: ['S', 'M', 'XXL'].map((name) => ({ code: name.toLowerCase(), name, hex: null })),
    },
  ],
  variants: values.map((v) => ({
    key: variantKey(v),
    values: v,
    partnerSku: `MW-TEE-${v.color}-${v.size}`.toUpperCase(),
    packWeightG: 160,
    stock: 250,
    inStock: true,
    ended: false,
  })),
};

export const demoList: PriceList = {
  id: 'l1',
  currency: 'GBP',
  validFrom: '2026-01-01',
  baseCostMinor: Object.fromEntries(values.map((v) => [variantKey(v), v.size === 'xxl' ? 890 : 740])),
  extraAreaMinor: { 'main.front': 515, 'main.back': 515 },
  techniqueMinor: {},
  inserts: [],
  shipping: [
    { region: 'gb', countries: ['GB'], firstMinor: 400, furtherMinor: 100, daysMin: 2, daysMax: 4 },
    { region: 'world', countries: ['*'], firstMinor: 500, furtherMinor: 200, daysMin: 6, daysMax: 14 },
  ],
};

export const demoRates = new RateTable([{ from: 'GBP', to: 'USD', rate: '1.25', date: '2026-11-01' }]);
