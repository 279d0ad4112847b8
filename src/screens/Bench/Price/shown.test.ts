import { describe, expect, it } from 'vitest';
import { CAUSE_CHOICES, causeText, drawnPrices, type ShownPoint } from './shown';

const point = (id: number, at: string, also: Partial<ShownPoint> = {}): ShownPoint => ({
  id,
  priceMinor: 2000 + id,
  compareAtMinor: null,
  currency: 'USD',
  causes: ['typed'],
  by: null,
  at,
  ...also,
});
const at = (text: string) => Date.parse(text);

describe('prices that buyers saw', () => {
  it('are drawn from the first to now, each until the next', () => {
    const [newer, older] = [point(2, '2026-11-03T10:00:00.000Z'), point(1, '2026-11-01T10:00:00.000Z')];
    expect(drawnPrices([newer, older], at('2026-11-05T00:00:00.000Z'))).toEqual([
      { atMs: at(older.at), price: 20.01, compareAt: null },
      { atMs: at(newer.at), price: 20.02, compareAt: null },
      { atMs: at('2026-11-05T00:00:00.000Z'), price: 20.02, compareAt: null },
    ]);
    expect(drawnPrices([], 0)).toEqual([]);
  });

  it('have a gap where nothing was shown, and their currency’s own digits', () => {
    const drawn = drawnPrices(
      [point(1, '2026-11-01T10:00:00.000Z', { currency: 'JPY', priceMinor: null, compareAtMinor: 500 })],
      0,
    );
    expect(drawn).toEqual([{ atMs: at('2026-11-01T10:00:00.000Z'), price: null, compareAt: 500 }]);
  });

  it('say what moved them in words, each another one', () => {
    expect(causeText(['sale', 'rate'])).toBe('a sale, another rate');
    expect(new Set(CAUSE_CHOICES.map(({ name }) => name)).size).toBe(11);
  });
});
