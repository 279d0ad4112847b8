import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { markedTexts, shortened, type Piece } from './marked-text';

const told = (pieces: readonly Piece[]) => pieces.map(({ text, differs }) => (differs ? `[${text}]` : text)).join('');

describe('two texts', () => {
  it.each([
    ['Mug with waves', 'Mug with big waves', 'Mug with waves', 'Mug with [big ]waves'],
    ['Ebb tee', 'Flood tee', '[Ebb] tee', '[Flood] tee'],
    ['the same', 'the same', 'the same', 'the same'],
    ['', 'new', '', '[new]'],
    ['by the old mill', 'by a new mill', 'by [the old] mill', 'by [a new] mill'],
    ['one, two.', 'one; two!', 'one[,] two[.]', 'one[;] two[!]'],
    ['Größe M', 'Größe L', 'Größe [M]', 'Größe [L]'],
  ])('%j and %j', (here, there, ours, theirs) => {
    const marked = markedTexts(here, there);
    expect([told(marked.here), told(marked.there)]).toEqual([ours, theirs]);
  });

  it('are whole in their pieces, and have what does not differ in common', () => {
    const text = fc
      .array(fc.constantFrom('ebb', 'flood', ' ', ', ', '\n', '👍🏽'), { maxLength: 14 })
      .map((parts) => parts.join(''));
    fc.assert(
      fc.property(text, text, (here, there) => {
        const marked = markedTexts(here, there);
        const whole = (pieces: readonly Piece[]) => pieces.map((piece) => piece.text).join('');
        const common = (pieces: readonly Piece[]) => whole(pieces.filter(({ differs }) => !differs)).replace(/\s/g, '');
        expect([whole(marked.here), whole(marked.there)]).toEqual([here, there]);
        expect(common(marked.here)).toBe(common(marked.there));
      }),
      { numRuns: 500, seed: 44 },
    );
  });

  it('are told shortly where they are long: around what differs', () => {
    const long = 'word '.repeat(40);
    const { here } = markedTexts(`${long}old ${long}`, `${long}new ${long}`);
    const [first, mid, last] = shortened(here, 10);
    expect([first!.text, mid, last!.text]).toEqual([' … word word ', { text: 'old', differs: true }, ' word word … ']);
    expect(shortened([{ text: long, differs: false }], 10)).toEqual([{ text: 'word word  …', differs: false }]);
  });
});
