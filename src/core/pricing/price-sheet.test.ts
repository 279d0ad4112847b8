import { describe, expect, it } from 'vitest';
import { readAim, SheetReader, type SheetKnown } from './price-sheet';
import { RateReader } from './rates-csv';

const known: SheetKnown[] = [
  { variantKey: 'size=m', sku: 'TEE-M', storeId: null, aim: { kind: 'margin', ppm: 400_000 }, retailMinor: 1282 },
  { variantKey: 'size=l', sku: 'TEE-L', storeId: null, aim: { kind: 'retail', amountMinor: 1500 }, retailMinor: 1500 },
  { variantKey: 'size=m', sku: 'TEE-M', storeId: 's1', aim: { kind: 'margin', ppm: 400_000 }, retailMinor: 1900 },
];
const outlets = [
  { id: null, name: '', currency: 'GBP' },
  { id: 's1', name: 'Pennyquay', currency: 'USD' },
];
const read = (...lines: string[][]) => {
  const reader = new SheetReader(known, outlets);
  lines.forEach((fields, i) => reader.row(fields, i + 1));
  return reader;
};

describe('prices from a file', () => {
  it('says what would change, and passes over what is so already', () => {
    const { changes, faults, same } = read(
      ['SKU', 'Store', 'Price', 'Profit', 'Margin'],
      ['TEE-M', '', '14.99', '', ''],
      ['TEE-L', '', '15.00', '', ''],
      ['TEE-M', 'pennyquay', '', '', '45'],
    );
    expect(faults).toEqual([]);
    expect(same).toBe(1);
    expect(changes.map(({ line, storeId, now }) => [line, storeId, now])).toEqual([
      [2, null, { kind: 'retail', amountMinor: 1499 }],
      [4, 's1', { kind: 'margin', ppm: 450_000 }],
    ]);
  });

  it('does not fix a price that an aim brings anyway', () => {
    expect(read(['variant', 'price'], ['size=m', '12.82'])).toMatchObject({ changes: [], same: 1 });
  });

  it.each([
    [['NOPE', '', '10', '', ''], 'csv-variant-unknown'],
    [['TEE-M', 'Elsewhere', '10', '', ''], 'csv-store-unknown'],
    [['TEE-M', '', 'ten', '', ''], 'amount-unreadable'],
    [['TEE-M', '', '-3', '', ''], 'aim-impossible'],
    [['TEE-M', '', '10', '2', ''], 'csv-fixed-twice'],
    [['TEE-M', '', '10', '', 'EUR'], 'csv-currency'],
    // A comma that nobody put in quotes, and a row that was cut short.
    [['TEE-M', '', '10', '50', '', ''], 'csv-fields'],
    [['TEE-M', '', '10'], 'csv-fields'],
  ])('names the line and what is wrong: %j', (fields, code) => {
    const { faults, changes } = read(['sku', 'store', 'price', 'profit', 'currency'], fields);
    expect(faults).toMatchObject([{ line: 2, code }]);
    expect(changes).toEqual([]);
  });

  it('wants headings and commas, and each variant once', () => {
    // One fault, and none for each row below it.
    for (const sign of [';', '\t'])
      expect(read([`sku${sign}price`], [`TEE-M${sign}9`], [`TEE-L${sign}9`]).faults).toMatchObject([
        { line: 1, code: 'csv-separator' },
      ]);
    expect(read(['sku', 'price', 'Price'], ['TEE-M', '9', '10'])).toMatchObject({
      changes: [],
      faults: [{ line: 1, column: 'Price', code: 'csv-column-twice' }],
    });
    expect(read(['sku', 'color']).faults[0]!.code).toBe('csv-column-missing');
    expect(read(['sku', 'price'], ['TEE-M', '9'], ['TEE-M', '10']).faults).toMatchObject([
      { line: 3, code: 'csv-variant-twice' },
    ]);
  });
});

describe('what is typed', () => {
  it('reads both decimal signs, and refuses what cannot hold with a sentence', () => {
    expect(readAim('price', '12,50', 'USD')).toEqual({ kind: 'retail', amountMinor: 1250 });
    expect(readAim('price', '1250', 'JPY')).toEqual({ kind: 'retail', amountMinor: 1250 });
    expect(readAim('profit', '-2.00', 'USD')).toEqual({ kind: 'profit', amountMinor: -200 });
    expect(readAim('markup', '150 %', 'USD')).toEqual({ kind: 'markup', ppm: 1_500_000 });
    for (const [kind, typed, says] of [
      ['price', '', /not an amount/],
      ['price', '0', /above zero/],
      ['price', '1e9', /not an amount/],
      ['price', '999999999', /more than any price/],
      ['price', '12.345', /can mean 12345 or 12.345 in USD/],
      ['price', '12.3456', /has 4 decimals; USD has 2/],
      ['margin', '100', /cannot be reached.*markup can be more/],
      ['margin', 'half', /not a percentage/],
      ['margin', '-5000', /from −1000 %/],
      ['markup', '20000', /10,000 %/],
    ] as const)
      expect(() => readAim(kind, typed, 'USD')).toThrow(says);
    expect(() => readAim('price', '12.5', 'JPY')).toThrow(/JPY has 0/);
  });
});

describe('rates from a file', () => {
  it('takes good lines and names the others', () => {
    const reader = new RateReader({ today: '2026-11-28', known: (from, to) => (from + to === 'GBPUSD' ? 1.3 : null) });
    [
      ['from', 'to', 'rate', 'date'],
      ['gbp', 'usd', '1.2744', '2026-11-20'],
      ['GBP', 'XX', '1', '2026-11-20'],
      ['GBP', 'GBP', '1', '2026-11-20'],
      ['GBP', 'EUR', '0', '2026-11-20'],
      ['GBP', 'EUR', '1.1', '2026-12-01'],
      ['GBP', 'EUR', '1.1', '20.11.2026'],
      ['GBP', 'EUR', '1.1', '2026-02-30'],
      ['GBX', 'EUR', '1.1', '2026-11-20'],
      ['GBP', 'USD', '13.12', '2026-11-21'],
      ['USD', 'GBP', '0.7', '2026-11-20'],
      ['EUR', 'GBP', '1,1744', '2026-11-20'],
      ['EUR', 'JPY', '1,174', '2026-11-20'],
    ].forEach((fields, i) => reader.row(fields, i + 1));
    expect(reader.rates).toEqual([
      { from: 'GBP', to: 'USD', rate: '1.2744', date: '2026-11-20' },
      { from: 'EUR', to: 'GBP', rate: '1.1744', date: '2026-11-20' },
    ]);
    expect(reader.faults.map(({ line, column }) => [line, column])).toEqual([
      [3, 'to'],
      [4, 'to'],
      [5, 'rate'],
      [6, 'date'],
      [7, 'date'],
      [8, 'date'],
      [9, 'from'],
      [10, 'rate'],
      [11, 'from'],
      [13, 'rate'],
    ]);
    expect(reader.faults.find(({ line }) => line === 10)).toMatchObject({ code: 'rate-jump' });
  });
});
