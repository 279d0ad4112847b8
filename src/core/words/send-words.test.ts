import { describe, expect, it } from 'vitest';
import { feeWords, planWords, sentCount, sumOfSteps, timeLeftWords } from './send-words';

describe('a plan in words', () => {
  it('counts what goes, what changed of it, and what does not go', () => {
    const one = { steps: { new: 4, changed: 1, unchanged: 1 }, changed: { price: 1 } };
    const other = { steps: { new: 3, changed: 2, stopped: 1 }, changed: { pictures: 1, price: 2 } };
    const all = sumOfSteps([one, other]);
    expect(planWords(all, 'as-is')).toBe(
      '12 listings: 7 new, 3 changed (price 3, pictures 1), 1 unchanged, 1 not sent.',
    );
    expect(sentCount(all)).toBe(10);
  });

  it('says what making live and taking off sale does', () => {
    const shown = { steps: { shown: 2, busy: 1 }, changed: {} };
    expect(planWords(shown, 'live')).toBe('3 listings: 2 made live, 1 on its way already.');
    expect(planWords(shown, 'draft')).toBe('3 listings: 2 taken off sale, 1 on its way already.');
    expect(planWords({ steps: { new: 1 }, changed: {} }, 'live')).toBe('1 listing: 1 new.');
  });
});

it('reckons fees to the cent, and is silent where there are none', () => {
  expect(feeWords(7, 15, 'USD')).toBe('7 × 0.15 = 1.05 USD');
  expect(feeWords(3, 120, 'JPY')).toBe('3 × 120 = 360 JPY');
  expect([feeWords(0, 15, 'USD'), feeWords(7, 0, 'USD')]).toEqual([null, null]);
});

it.each([
  [0, 10, null],
  [5, 0, null],
  [5, 10, 'less than a minute left'],
  [10, 10, 'about 1 minute left'],
  [11, 10, 'about 2 minutes left'],
  [599, 10, 'about 1 hour left'],
  [601, 10, 'about 2 hours left'],
])('with %i left at %i a minute: %s', (open, lastMinute, says) => {
  expect(timeLeftWords(open, lastMinute)).toBe(says);
});
