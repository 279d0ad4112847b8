import { describe, expect, it } from 'vitest';
import { dearShipping } from './dear-shipping';
import { sampleTerms } from './terms-sample';

const to = (country: string, shippingChargedMinor: number, freeFromMinor: number | null = null) => ({
  country,
  weight: 0,
  terms: sampleTerms(500, { shippingChargedMinor, freeFromMinor }),
});

describe('shipping that is dearer than the good', () => {
  it('is told by destination, the dearest first; not where it is as dear, folded in, or free from that sum on', () => {
    const all = [to('GB', 300), to('NO', 1400), to('US', 901), to('DE', 900), to('FR', 0), to('CA', 2000, 800)];
    expect(dearShipping({ to: all, retailMinor: 900 })).toEqual([
      { country: 'NO', chargedMinor: 1400 },
      { country: 'US', chargedMinor: 901 },
    ]);
    expect(dearShipping({ to: all, retailMinor: 2500 })).toEqual([]);
  });
});
