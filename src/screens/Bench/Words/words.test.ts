import { describe, expect, it } from 'vitest';
import type { RuleResult } from '@/core/rules/demands';
import { newDocument } from '@/core/document/document';
import { withTags } from '@/core/words/tags';
import { asLines, cutTo, fieldSays, fromLines, ownWords, withoutOwn, withOwn } from './words';

const ids = () => {
  let n = 0;
  return () => `t${(n += 1)}`;
};

describe('tags', () => {
  it('are added behind those that are there, each once, in whatever letters', () => {
    const first = withTags({}, 'river, Tide ,,', ids());
    expect(Object.values(first).map(({ text }) => text)).toEqual(['river', 'Tide']);
    const again = withTags(first, 'tide, oar', () => 'x');
    expect(Object.values(again).map(({ text }) => text)).toEqual(['river', 'Tide', 'oar']);
    expect(withTags(first, ' , ', ids())).toBe(first);
  });
});

describe('texts one a line', () => {
  const before = { a: { text: 'tide', order: 'a0' }, b: { text: 'river', order: 'a1' } };

  it('keep what stays under its id, in the order of the lines', () => {
    expect(asLines(before)).toBe('tide\nriver');
    expect(asLines(undefined)).toBe('');
    const next = fromLines(before, ' river \n\nan oar\ntide\nriver', ids(), 9);
    expect(Object.entries(next).map(([id, { text }]) => [id, text])).toEqual([
      ['b', 'river'],
      ['t1', 'an oar'],
      ['a', 'tide'],
      ['t2', 'river'],
    ]);
    expect(asLines(next)).toBe('river\nan oar\ntide\nriver');
  });

  it('are so many and so long at most', () => {
    const next = fromLines({}, `${'x'.repeat(300)}\ny\nz`, ids(), 2);
    expect(Object.values(next).map(({ text }) => text.length)).toEqual([200, 1]);
  });
});

describe('a field', () => {
  const rules: RuleResult[] = [
    { id: 'title', part: 'words', kept: false, says: 'The title has 0 characters.', mend: 'Write a title.' },
  ];

  it('that nobody touched says in gray what to do, and later in red what is wrong', () => {
    expect(fieldSays(rules, ['title'], true)).toEqual({ error: null, lacking: 'Write a title.' });
    expect(fieldSays(rules, ['title'], false)).toEqual({
      error: 'The title has 0 characters. Write a title.',
      lacking: null,
    });
    expect(fieldSays(rules, ['tags'], false)).toEqual({ error: null, lacking: null });
  });

  it('says what was left out of what was pasted, and splits no character', () => {
    expect(cutTo('short', 10)).toEqual({ text: 'short', says: null });
    const { text, says } = cutTo(`${'a'.repeat(9)}🛶bc`, 10);
    expect(text.isWellFormed()).toBe(true);
    expect(says).toContain('A field holds 10 characters');
  });
});

it('gives words of a store’s own back, one by one, and then nothing of its own is left', () => {
  const doc = newDocument('b', 'USD', 'A tee');
  const own = withOwn(withOwn(doc, 's1', { title: 'Its title' }), 's1', { description: 'Its text' });
  expect(ownWords(own, 's1')).toEqual(['title', 'description']);
  expect(ownWords(own, 's2')).toEqual([]);
  const half = withoutOwn(own, 's1', 'title');
  expect(half.words.stores).toEqual({ s1: { description: 'Its text' } });
  expect(withoutOwn(half, 's1', 'description')).toEqual(doc);
});
