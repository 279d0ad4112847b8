import { describe, expect, it } from 'vitest';
import { itemWords, sendState, sumOfProgress } from './view';

const now = Date.parse('2026-11-30T12:00:00Z');
const send = { state: 'laid', paused: false, startsAt: null } as const;

describe('where a send is', () => {
  it.each([
    ['planned', { state: 'planned' }, 0],
    ['being sent', {}, 3],
    ['ended', {}, 0],
    ['being sent', { state: 'begun' }, 0],
    ['put off', { state: 'begun', startsAt: '2026-11-30T12:00:01Z' }, 1],
    ['being sent', { state: 'begun', startsAt: '2026-11-30T11:59:59Z' }, 1],
    ['paused', { paused: true }, 3],
    ['stopped', { state: 'stopped' }, 0],
  ] as const)('is %s for %o', (word, over, open) => {
    expect(sendState({ ...send, ...over }, open, now)).toBe(word);
  });
});

it('says of a listing what its job does, else what is planned', () => {
  const item = { what: 'changed', changed: ['price', 'words'], jobState: null } as const;
  expect(itemWords(item)).toBe('changed: price, words');
  expect(itemWords({ ...item, jobState: 'queued' })).toBe('queued (changed: price, words)');
  expect(itemWords({ ...item, jobState: 'failed' })).toBe('failed');
  expect(itemWords({ what: null, changed: [], jobState: null })).toBe('not looked at yet');
});

it('adds up what stores have done', () => {
  const one = { done: 1, failed: 2, cancelled: 3, open: 4, lastMinute: 5 };
  expect(sumOfProgress([one, one])).toEqual({ done: 2, failed: 4, cancelled: 6, open: 8, lastMinute: 10 });
});
