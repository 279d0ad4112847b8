const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** A text as a person counts it: grapheme clusters of UAX #29, so that a family emoji is one. */
export const graphemes = (text: string): string[] => [...segmenter.segment(text)].map(({ segment }) => segment);

/** No text of these alone has graphemes of several letters: but for a carriage return with its line feed, which is none of them. */
const PLAIN = /^[\n\x20-\x7e]*$/;

/** Length of a text in graphemes. */
export const graphemeCount = (text: string): number =>
  PLAIN.test(text) ? text.length : [...segmenter.segment(text)].length;
