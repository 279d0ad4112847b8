const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** The first of a text's graphemes (grapheme clusters of UAX #29, so that a family emoji is one), at most so many; no more of it is read. */
export function firstGraphemes(text: string, most: number): string[] {
  const found: string[] = [];
  for (const { segment } of segmenter.segment(text)) {
    if (found.length >= most) break;
    found.push(segment);
  }
  return found;
}

/** No text of these alone has graphemes of several letters: but for a carriage return with its line feed, which is none of them. */
const PLAIN = /^[\n\x20-\x7e]*$/;

/** Length of a text in graphemes. */
export const graphemeCount = (text: string): number =>
  PLAIN.test(text) ? text.length : [...segmenter.segment(text)].length;
