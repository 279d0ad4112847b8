import { describe, expect, it } from 'vitest';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { diff } from '@/core/document/patch';
import { documentBefore } from './rewind';

const titled = (title: string): ProductDocument => newDocument('b1', 'GBP', title);

describe('going back in history', () => {
  const states = ['one', 'two', 'three', 'four'].map(titled);
  const newestFirst = [3, 2, 1].map((i) => ({ undo: diff(states[i], states[i - 1]) }));

  it('reaches every earlier state', () => {
    expect([0, 1, 2].map((index) => documentBefore(states[3]!, newestFirst, index).words.base.title)).toEqual([
      'three',
      'two',
      'one',
    ]);
  });

  it('fails where the document is another one', () => {
    const removed = [{ undo: [{ op: 'remove' as const, path: '/areas/main.front' }] }];
    expect(() => documentBefore(states[0]!, removed, 0)).toThrow(/does not fit/);
  });
});
