import { describe, expect, it } from 'vitest';
import { standingWords, stateWords } from './standing-words';

const now = new Date('2026-11-30T12:00:00Z');
const well = { state: 'connected', trouble: null, keysEndAt: null, pausedAt: null } as const;

describe('how a store’s connection is', () => {
  it('says why it is not well', () => {
    expect(stateWords(well, now)).toEqual({ well: true, says: '✓ connected' });
    expect(stateWords({ ...well, state: 'lapsed', trouble: 'The shop says no.' }, now)).toEqual({
      well: false,
      says: '✕ The shop says no.',
    });
  });

  it('says that it is paused, and since when', () => {
    const { well: isWell, says } = stateWords({ ...well, pausedAt: '2026-11-29T08:00:00Z' }, now);
    expect([isWell, says]).toEqual([false, 'Paused since 29 Nov 2026: nothing of it is on sale.']);
  });

  it.each([
    ['2026-12-14T13:00:00Z', true, 'connected until 14 Dec 2026'],
    ['2026-12-14T12:00:00Z', false, 'The key ends on 14 Dec 2026'],
    ['2026-11-30T12:00:00Z', false, 'The key ended on 30 Nov 2026'],
  ])('tells that keys end on %s', (keysEndAt, isWell, says) => {
    const told = stateWords({ ...well, keysEndAt }, now);
    expect(told.well).toBe(isWell);
    expect(told.says).toContain(says);
  });
});

it('says where listings stand, and leaves out states that none is in', () => {
  expect(standingWords({ states: {} })).toBe('none yet');
  expect(standingWords({ states: { 'not-listed': 9, 'in-step': 0 } })).toBe('none yet');
  expect(standingWords({ states: { 'not-listed': 9, refused: 1, 'in-step': 12, 'on-its-way': 2 } })).toBe(
    '◔ 2 on its way, ● 12 in step, ✕ 1 refused',
  );
});
