import { describe, expect, it } from 'vitest';
import type { ProductEffect } from './load';
import {
  blankChangeText,
  effectGroups,
  faultLines,
  stateWords,
  totalTexts,
  variantChangeTexts,
  worstTexts,
} from './view';

const none = {
  rows: 0,
  unchanged: 0,
  unnamed: 0,
  up: 0,
  down: 0,
  ends: 0,
  returns: 0,
  runsOut: 0,
  restocked: 0,
  stockMoves: 0,
  added: 0,
};
const change = {
  key: 'k',
  name: 'Coal, M',
  sku: 'MW-1',
  beforeMinor: 740,
  afterMinor: 790,
  stockBefore: 5,
  stockAfter: 5,
  endedBefore: false,
  endedAfter: false,
};
const effect = (kind: ProductEffect['kind'], title: string): ProductEffect => ({
  productId: title,
  title,
  blankId: 'b',
  store: null,
  kind,
  variantKeys: [],
  variants: '',
  worst: null,
  says: '',
  remedy: '',
});

describe('a price list in words', () => {
  it('says its state, a read that broke off included', () => {
    const words = (
      state: 'reading' | 'ready' | 'faulty' | 'taken',
      jobState: 'failed' | 'cancelled' | 'running' | null = null,
    ) => stateWords({ state, jobState, workspaceId: 'w1' });
    expect([words('reading', 'running'), words('reading', 'failed'), words('reading', 'cancelled')]).toEqual([
      'being read',
      'not read: it broke off',
      'stopped while it was read',
    ]);
    expect([words('ready'), words('taken'), stateWords({ state: 'taken', jobState: null, workspaceId: null })]).toEqual(
      ['read, to be applied', 'applied', 'shared'],
    );
  });

  it('sums what changes and leaves out what does not', () => {
    expect(totalTexts({ ...none, up: 1200, ends: 1, unchanged: 3 }).map((one) => one.text)).toEqual([
      '1,200 costs up',
      '1 variant ends',
      '3 as before',
    ]);
    expect(
      blankChangeText({
        blankId: 'b',
        up: 3,
        down: 1,
        mostUpPpm: 67_568,
        mostDownPpm: -25_000,
        ends: 2,
        returns: 0,
        runsOut: 1,
        restocked: 0,
        stockMoves: 0,
      }),
    ).toBe('3 up, the most +6.8 %; 1 down, the most −2.5 %; 2 end; 1 run out');
  });

  it('says each variant before and after', () => {
    expect(variantChangeTexts(change, 'GBP')).toEqual({
      before: '7.40',
      after: '7.90',
      by: '+6.8 %',
      tone: 'stop',
      also: '',
    });
    expect(variantChangeTexts({ ...change, afterMinor: 740, stockAfter: 0 }, 'GBP')).toMatchObject({
      by: 'same',
      also: 'runs out',
    });
    expect(variantChangeTexts({ ...change, beforeMinor: null, endedAfter: true }, 'GBP')).toMatchObject({
      before: '–',
      by: 'new',
      also: 'ends',
    });
    expect(variantChangeTexts({ ...change, stockAfter: 2 }, 'GBP').also).toBe('stock 5 → 2');
    expect(variantChangeTexts({ ...change, stockBefore: 0, afterMinor: 700 }, 'GBP')).toMatchObject({
      tone: 'kept',
      also: 'there again, 5',
    });
  });

  it('puts what costs money before what is only missing', () => {
    const effects = [effect('out-of-stock', 'a'), effect('under', 'b'), effect('loss', 'c')];
    expect(effectGroups(effects).map((group) => group.kind)).toEqual(['loss', 'under', 'out-of-stock']);
    expect(
      worstTexts({
        currency: 'USD',
        country: 'CA',
        retailMinor: 2399,
        profitBeforeMinor: 804,
        profitAfterMinor: -987,
        marginBeforePpm: 335_000,
        marginAfterPpm: null,
      }),
    ).toEqual({ retail: '23.99 USD', profit: '8.04 → −9.87', margin: '33.5 % → –' });
  });

  it('shows faults in the order of the file, and where the rest of a kind are', () => {
    const fault = (line: number, column: string) => ({ line, column, code: 'c', says: '' });
    const { faults, more } = faultLines([
      { column: 'cost', code: 'c', count: 5, lines: [2, 4, 6, 8, 9], faults: [fault(2, 'cost'), fault(4, 'cost')] },
      { column: 'sku', code: 'c', count: 1, lines: [3], faults: [fault(3, 'sku')] },
    ]);
    expect(faults.map((one) => one.line)).toEqual([2, 3, 4]);
    expect(more).toEqual(['3 more lines with such a fault in “cost”: 6, 8, 9']);
  });
});
