import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ChangeCounter } from './price-changes';
import { csvLine, FaultBook, PriceChecker, PRICE_COLUMNS, readPriceHeader } from './price-csv';
import type { CsvFault } from '../csv/fault';

const skus = ['MW-TEE-S', 'MW-TEE-M', 'MW-MUG'];
const checker = (headings: readonly string[] = PRICE_COLUMNS, currency = 'GBP') => {
  const { header } = readPriceHeader(headings);
  const variants = { count: 3, find: (sku: string) => skus.indexOf(sku), costMinor: Int32Array.of(740, 740, -1) };
  return new PriceChecker(header, headings.length, currency, variants, 'Millrace Works');
};
const row = (over: Partial<Record<(typeof PRICE_COLUMNS)[number], string>> = {}) => {
  const base = { sku: 'MW-TEE-S', blank: '', variant: '', cost: '7.90', currency: 'GBP', stock: '12', ended: 'no' };
  return PRICE_COLUMNS.map((column) => ({ ...base, ...over })[column]);
};
const codes = (result: ReturnType<PriceChecker['check']>) =>
  Array.isArray(result) ? result.map((fault) => `${fault.column}/${fault.code}`) : 'fine';

describe('the headings of a price list', () => {
  it('may stand in any order and case, and name where each column is', () => {
    expect(readPriceHeader(['Cost', ' SKU ', 'currency'])).toEqual({
      header: { cost: 0, sku: 1, currency: 2 },
      faults: [],
    });
  });

  it.each([
    [['sku;cost;currency'], 'csv-separator', 'semicolons'],
    [['sku\tcost\tcurrency'], 'csv-separator', 'tabs'],
    [['sku', 'currency'], 'csv-column-missing', '“cost”'],
    [['sku', 'cost', 'currency', 'cost'], 'csv-column-twice', '“cost”'],
    [['sku', 'cost', 'currency', 'price'], 'csv-column-unknown', '“price”'],
  ])('%j: %s', (headings, code, says) => {
    const { faults } = readPriceHeader(headings);
    expect(faults).toMatchObject([{ line: 1, code }]);
    expect(faults[0]!.says).toContain(says);
  });
});

describe('a row of a price list', () => {
  it('gives cost, stock and whether it ended', () => {
    expect(checker().check(row(), 2)).toEqual({ index: 0, row: { costMinor: 790, stock: 12, ended: false } });
    expect(checker().check(row({ stock: '', ended: 'YES', cost: '8' }), 2)).toEqual({
      index: 0,
      row: { costMinor: 800, stock: null, ended: true },
    });
    expect(checker(['sku', 'cost', 'currency']).check(['MW-MUG', '5.15', 'GBP'], 2)).toEqual({
      index: 2,
      row: { costMinor: 515, stock: null, ended: false },
    });
  });

  it.each([
    ['a negative cost', row({ cost: '-7.40' }), ['cost/csv-cost']],
    ['a cost of nothing', row({ cost: '0.00' }), ['cost/csv-cost']],
    ['no cost', row({ cost: '' }), ['cost/csv-cost']],
    ['a decimal comma', row({ cost: '7,40' }), ['cost/csv-cost']],
    ['a word for a cost', row({ cost: 'cheap' }), ['cost/csv-cost']],
    ['a third decimal', row({ cost: '7.405' }), ['cost/csv-cost']],
    ['more than ten times the cost until now', row({ cost: '74.01' }), ['cost/csv-cost-absurd']],
    ['less than a tenth of it', row({ cost: '0.73' }), ['cost/csv-cost-absurd']],
    ['more than any blank costs', row({ sku: 'MW-MUG', cost: '100000.01' }), ['cost/csv-cost-absurd']],
    ['a currency that does not exist', row({ currency: 'GBX' }), ['currency/csv-currency']],
    ['another currency', row({ currency: 'EUR' }), ['currency/csv-currency']],
    ['no currency', row({ currency: '' }), ['currency/csv-currency']],
    ['a SKU of nobody', row({ sku: 'CL-TEE' }), ['sku/csv-sku-unknown']],
    ['no SKU', row({ sku: ' ' }), ['sku/csv-sku-empty']],
    ['half a shirt in stock', row({ stock: '1.5' }), ['stock/csv-stock']],
    ['a stock below zero', row({ stock: '-1' }), ['stock/csv-stock']],
    ['perhaps ended', row({ ended: 'perhaps' }), ['ended/csv-ended']],
    ['a field too few', row().slice(1), ['null/csv-fields']],
    [
      'many things at once',
      row({ sku: 'x', cost: '-1', currency: 'EUR', stock: 'many' }),
      ['sku/csv-sku-unknown', 'currency/csv-currency', 'cost/csv-cost', 'stock/csv-stock'],
    ],
  ])('with %s is told so', (_what, fields, faults) => {
    const result = checker().check(fields, 7);
    expect(codes(result)).toEqual(faults);
    for (const fault of result as CsvFault[]) {
      expect(fault.line).toBe(7);
      expect(fault.says).toMatch(/^[A-Z“].*[.?]$/);
    }
  });

  it('ten times up and down to a tenth is still a price', () => {
    expect(codes(checker().check(row({ cost: '74.00' }), 2))).toBe('fine');
    expect(codes(checker().check(row({ cost: '0.74' }), 2))).toBe('fine');
  });

  it('with a SKU that was there names the line', () => {
    const check = checker();
    check.check(row(), 2);
    expect(check.check(row(), 9)).toMatchObject([{ line: 9, column: 'sku', says: '“MW-TEE-S” is on line 2 already.' }]);
  });

  // ISO 4217: the yen has no minor unit, the Kuwaiti dinar three digits
  it.each([
    ['JPY', '740', 740],
    ['JPY', '740.5', null],
    ['KWD', '2.125', 2125],
  ])('reads the minor units of %s: %s', (currency, cost, costMinor) => {
    const result = checker(PRICE_COLUMNS, currency).check(row({ sku: 'MW-MUG', cost, currency }), 2);
    expect('index' in result ? result.row.costMinor : null).toBe(costMinor);
  });
});

describe('written as CSV (RFC 4180)', () => {
  it('every text comes back from a general CSV package', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ unit: 'grapheme' }), { minLength: 2, maxLength: 4 }), { minLength: 1 }),
        (rows) => {
          const width = rows[0]!.length;
          const even = rows.map((fields) => Array.from({ length: width }, (_, i) => fields[i] ?? 'x'));
          const text = even.map(csvLine).join('');
          expect(parse(text, { record_delimiter: '\r\n', skip_empty_lines: false })).toEqual(even);
        },
      ),
    );
    expect(csvLine(['plain', 'a,b', 'say "x"', 'two\r\nlines'])).toBe('plain,"a,b","say ""x""","two\r\nlines"\r\n');
  });
});

describe('faults', () => {
  it('are kept by kind, each with its lines, however many there are', () => {
    const book = new FaultBook();
    for (let line = 2; line < 3002; line += 1)
      book.add([{ line, column: 'cost', code: 'csv-cost', says: `No ${line}.` }]);
    book.add([{ line: 2, column: null, code: 'csv-fields', says: 'Short.' }]);
    expect(book.count).toBe(3001);
    const [cost, fields] = book.list();
    expect(cost).toMatchObject({ column: 'cost', count: 3000 });
    expect(cost!.faults).toHaveLength(200);
    expect(cost!.lines).toHaveLength(2000);
    expect(fields).toMatchObject({ column: null, count: 1 });
  });
});

describe('what a list changes', () => {
  const state = (costMinor: number, stock = 5, ended = false) => ({ costMinor, stock, ended });

  it('is counted by blank and in sum, with the largest rise and fall', () => {
    const changes = new ChangeCounter();
    changes.add('tee', state(740), state(790));
    changes.add('tee', state(740), state(740));
    changes.add('tee', state(800), state(780));
    changes.add('mug', state(500), state(600, 0));
    changes.add('mug', state(500), state(500, 5, true));
    changes.add('cap', state(-1), state(900));
    changes.add('cap', state(900, 0), state(900, 8));
    changes.add('cap', state(900, 0, true), state(900, 8, false));
    changes.add('cap', state(900, 8), state(900, 6));
    const { totals, blanks } = changes.result(11);
    expect(totals).toEqual({
      rows: 9,
      unchanged: 1,
      unnamed: 11,
      up: 2,
      down: 1,
      ends: 1,
      returns: 1,
      runsOut: 1,
      restocked: 1,
      stockMoves: 1,
      added: 1,
    });
    // 6.00 is 20 % over 5.00; 7.90 is 6.7568 % over 7.40; 7.80 is 2.5 % under 8.00
    expect(blanks.map((blank) => [blank.blankId, blank.mostUpPpm, blank.mostDownPpm])).toEqual([
      ['mug', 200_000, 0],
      ['tee', 67_568, -25_000],
      ['cap', 0, 0],
    ]);
  });
});
