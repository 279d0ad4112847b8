import { describe, expect, it } from 'vitest';
import { Problem } from '@/ui/api';
import { currencyOf, faultsOf } from './view';

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

  it('tells what is wrong at the field, once each, and the rest in one place', () => {
    const problem = new Problem(422, 'body-invalid', 'The request is invalid: …', {
      faults: [
        { path: '/email', says: 'Enter an email address' },
        { path: '/email', says: 'Enter a shorter one' },
        { path: '/other', says: 'is not known here' },
      ],
    });
    expect(faultsOf(problem, ['email', 'name'])).toEqual({ all: null, at: { email: 'Enter an email address.' } });
    expect(faultsOf(problem, ['name'])).toEqual({ all: 'The request is invalid: …', at: {} });
    expect(faultsOf(new Error('No answer.'), ['email'])).toEqual({ all: 'No answer.', at: {} });
  });
});
