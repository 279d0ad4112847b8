import { describe, expect, it } from 'vitest';
import { currencyOf } from './view';

describe('signing up', () => {
  it('counts in the currency of the country (ISO 4217, from memory)', () => {
    expect(['GB', 'IE', 'DE', 'US', 'JP', 'CH', 'SE', 'BR'].map(currencyOf)).toEqual([
      'GBP',
      'EUR',
      'EUR',
      'USD',
      'JPY',
      'CHF',
      'SEK',
      'BRL',
    ]);
    // Antarctica has none of its own, and nobody knows ZZ.
    expect(currencyOf('ZZ')).toBe('GBP');
    expect(currencyOf('__proto__')).toBe('GBP');
  });
});
