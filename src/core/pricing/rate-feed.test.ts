import { describe, expect, it } from 'vitest';
import { checkRates, type HeldRate } from './rate-feed';
import type { ExchangeRate } from './rates';

const rate = (text: string, date = '2026-11-03', to = 'USD'): ExchangeRate => ({ from: 'GBP', to, rate: text, date });
const KNOWN = rate('1.3120', '2026-11-02');
const judge = (read: ExchangeRate[], held: readonly HeldRate[] = [], known: ExchangeRate | null = KNOWN) =>
  checkRates(read, (_from, to) => (to === 'USD' ? known : null), held);

describe('rates of a daily feed', () => {
  it('are taken where they are newer, and left where they are not', () => {
    expect(judge([rate('1.3200')])).toEqual({ taken: [rate('1.3200')], held: [], moved: [] });
    expect(judge([rate('1.3200', '2026-11-02')]).taken).toEqual([]);
    expect(judge([rate('1.3200', '2026-11-01')]).taken).toEqual([]);
  });

  it('are taken where nothing is known of the pair', () => {
    expect(judge([rate('191.5', '2026-11-03', 'JPY')]).taken).toHaveLength(1);
  });

  it('tell what moved far', () => {
    const [moved] = judge([rate('1.3776')]).moved;
    // 1.3776 ÷ 1.3120 = 1.05
    expect(moved).toMatchObject({ before: '1.3120', beforeDate: '2026-11-02', movePpm: 50_000 });
    expect(judge([rate('1.3382')]).moved).toEqual([]);
    expect(judge([rate('1.2800')]).moved).toHaveLength(1);
  });

  it.each(['131.20', '0.0131', '1.5744', '1.0933'])('hold back a jump: %s', (text) => {
    const { taken, held } = judge([rate(text)]);
    expect(taken).toEqual([]);
    expect(held).toEqual([{ ...rate(text), known: '1.3120', knownDate: '2026-11-02' }]);
  });

  it('believe a jump that a later day says again, and not the same day, and not another jump', () => {
    const { held } = judge([rate('2.0000')]);
    expect(judge([rate('2.0000')], held)).toMatchObject({ taken: [], held });
    expect(judge([rate('2.0500', '2026-11-04')], held).taken).toHaveLength(1);
    expect(judge([rate('3.0000', '2026-11-04')], held)).toMatchObject({ taken: [], held: [{ rate: '3.0000' }] });
    // Back where it was: the jump is forgotten.
    expect(judge([rate('1.3100', '2026-11-04')], held)).toMatchObject({ taken: [{ rate: '1.3100' }], held: [] });
  });
});
