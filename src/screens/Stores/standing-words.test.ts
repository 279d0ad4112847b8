import { describe, expect, it } from 'vitest';
import { standingWords, stateWords } from './standing-words';

const now = new Date('2026-11-30T12:00:00Z');
const well = { state: 'connected', trouble: null, keysEndAt: null } as const;

describe('how a store’s connection is', () => {
  it('says why it is not well', () => {
    expect(stateWords(well, now)).toEqual({ well: true, says: '✓ connected' });
    expect(stateWords({ ...well, state: 'lapsed', trouble: 'The shop says no.' }, now)).toEqual({
      well: false,
      says: '✕ The shop says no.',
    });
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

it('says where listings stand, and leaves out what there is none of', () => {
  const none = { live: 0, drafts: 0, onWay: 0, refused: 0, changedThere: 0 };
  expect(standingWords(none)).toBe('none yet');
  expect(standingWords({ ...none, live: 3, drafts: 1 })).toBe('3 live, 1 draft');
  expect(standingWords({ ...none, drafts: 2, refused: 1, changedThere: 4, onWay: 2 })).toBe(
    '2 drafts, 2 on its way, 1 refused, 4 changed in the shop',
  );
});
