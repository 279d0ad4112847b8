import { describe, expect, it } from 'vitest';
import { aimWords, mixShares } from './view';

describe('rates and rules in words', () => {
  it('says what a rule does, store by store', () => {
    const rule = {
      aim: { kind: 'margin', ppm: 380_000 },
      ending: '.99',
      shipping: 'charged',
      differences: { s1: 50_000, s2: -25_000 },
    } as const;
    const names: Record<string, string> = { s1: 'Pennyquay', s2: 'Plainfront' };
    expect(aimWords(rule, 'GBP', (id) => names[id]!)).toBe(
      'margin 38.0 %, ends in .99, shipping paid by the buyer; Pennyquay +5 %; Plainfront −2.5 %',
    );
    const profit = { ...rule, aim: { kind: 'profit', amountMinor: 650 }, ending: 'none', differences: {} } as const;
    expect(aimWords(profit, 'GBP', () => '')).toBe('profit 6.50 GBP, shipping paid by the buyer');
  });

  it('shows weights as shares', () => {
    const shares = mixShares([
      { country: 'US', weight: 5 },
      { country: 'GB', weight: 3 },
      { country: 'DE', weight: 1 },
    ]);
    expect([...shares]).toEqual([
      ['US', '56 %'],
      ['GB', '33 %'],
      ['DE', '11 %'],
    ]);
  });
});
