import { describe, expect, it } from 'vitest';
import { historyChanges } from './history-view';

describe('what a revision changed', () => {
  it('is told place by place, with what was there and what came', () => {
    const changes = historyChanges(
      [
        { op: 'test', path: '/words/base/title', value: 'Old' },
        { op: 'replace', path: '/words/base/title', value: 'New' },
        { op: 'add', path: '/variants/color=navy;size=m', value: {} },
        { op: 'replace', path: '/price/base/aim/ppm', value: 450_000 },
      ],
      [
        { op: 'replace', path: '/price/base/aim/ppm', value: 400_000 },
        { op: 'remove', path: '/variants/color=navy;size=m' },
        { op: 'replace', path: '/words/base/title', value: 'Old' },
      ],
      'GBP',
    );
    expect(changes.map(({ name, was, then }) => [name, was, then])).toEqual([
      ['Title', 'Old', 'New'],
      ['Variant navy, m', '(not there)', '(none)'],
      ['Price', '40 %', '45 %'],
    ]);
  });
});
