import fc from 'fast-check';
import { diff3Merge } from 'node-diff3';
import { describe, expect, it } from 'vitest';
import { mergedSequence, mergeSequence, type Stretch } from './sequence';

const open = (agreed: string, here: string, there: string): Stretch<string> => ({
  kind: 'open',
  agreed: [...agreed],
  here: [...here],
  there: [...there],
});
const settled = (items: string): Stretch<string> => ({ kind: 'settled', items: [...items] });
const merge = (agreed: string, here: string, there: string) => mergeSequence([...agreed], [...here], [...there]);

describe('two versions of a sequence', () => {
  // Expected by hand from what was done to each letter.
  it.each([
    ['nothing was touched', 'abc', 'abc', 'abc', [settled('abc')]],
    ['one side changed', 'abcd', 'axcd', 'abcd', [settled('axcd')]],
    ['both changed, apart', 'abcde', 'xbcde', 'abcdy', [settled('xbcdy')]],
    ['both added the same', 'ab', 'azb', 'azb', [settled('azb')]],
    [
      'both added, each its own, at the same place',
      'ab',
      'axb',
      'ayb',
      [settled('a'), open('', 'x', 'y'), settled('b')],
    ],
    ['one took away what the other changed', 'abc', 'ac', 'axc', [settled('a'), open('b', '', 'x'), settled('c')]],
    ['one took away, the other added elsewhere', 'abcd', 'acd', 'abcdz', [settled('acdz')]],
    [
      'neighbors were changed, one by each',
      'abcd',
      'axcd',
      'abyd',
      [settled('a'), open('bc', 'xc', 'by'), settled('d')],
    ],
    ['all was taken away', 'abc', '', 'abc', []],
    ['there was nothing', '', 'ab', '', [settled('ab')]],
  ])('%s', (_, agreed, here, there, stretches) => {
    expect(merge(agreed, here, there)).toEqual(stretches);
  });

  it('come to nothing that is sure while something stays open', () => {
    expect(mergedSequence(['a'], ['a', 'b'], ['c', 'a'])).toEqual(['c', 'a', 'b']);
    expect(mergedSequence(['a'], ['b'], ['c'])).toBeNull();
  });
});

/** A text of lines that are all different, and two edits of it whose new lines are new: then there is one way to tell what each did. */
const texts = fc
  .tuple(
    fc.integer({ min: 0, max: 14 }),
    fc.array(fc.tuple(fc.nat(), fc.constantFrom('add', 'drop', 'swap' as const)), { maxLength: 6 }),
    fc.array(fc.tuple(fc.nat(), fc.constantFrom('add', 'drop', 'swap' as const)), { maxLength: 6 }),
    fc.boolean(),
  )
  .map(([n, ours, theirs, alike]) => {
    const agreed = Array.from({ length: n }, (_, i) => `line ${i}`);
    const edit = (edits: typeof ours, who: string) => {
      const lines = [...agreed];
      edits.forEach(([at, what], i) => {
        const place = at % (lines.length + 1);
        if (what === 'add') lines.splice(place, 0, `${who} ${i}`);
        else lines.splice(place, 1, ...(what === 'swap' ? [`${who} ${i}`] : []));
      });
      return lines;
    };
    return { agreed, here: edit(ours, 'new'), there: edit(alike ? ours : theirs, alike ? 'new' : 'other') };
  });

/** The same answer from the package node-diff3, in our words. */
const byPackage = (agreed: string[], here: string[], there: string[]): Stretch<string>[] =>
  diff3Merge(here, agreed, there, { excludeFalseConflicts: true }).flatMap(({ ok, conflict }): Stretch<string>[] => {
    if (conflict) return [{ kind: 'open', agreed: conflict.o, here: conflict.a, there: conflict.b }];
    return ok && ok.length > 0 ? [{ kind: 'settled', items: ok }] : [];
  });

/** Settled stretches one after the other are one. */
const joined = (stretches: readonly Stretch<string>[]): Stretch<string>[] =>
  stretches.reduce<Stretch<string>[]>((all, one) => {
    const last = all.at(-1);
    if (one.kind === 'settled' && last?.kind === 'settled')
      return [...all.slice(0, -1), { kind: 'settled', items: [...last.items, ...one.items] }];
    return [...all, one];
  }, []);

describe('a merge of texts', () => {
  it('is that of node-diff3', () => {
    let opened = 0;
    fc.assert(
      fc.property(texts, ({ agreed, here, there }) => {
        const ours = mergeSequence(agreed, here, there);
        if (ours.some(({ kind }) => kind === 'open')) opened += 1;
        expect(ours).toEqual(joined(byPackage(agreed, here, there)));
      }),
      { numRuns: 3000, seed: 31 },
    );
    expect(opened).toBeGreaterThan(500);
  });

  it('gives what one side made where the other did nothing, whatever the texts', () => {
    const any = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 12 });
    fc.assert(
      fc.property(any, any, (agreed, other) => {
        expect(mergedSequence(agreed, other, agreed)).toEqual(other);
        expect(mergedSequence(agreed, agreed, other)).toEqual(other);
        expect(mergedSequence(agreed, other, other)).toEqual(other);
      }),
      { numRuns: 1000, seed: 32 },
    );
  });
});
