const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** A text as a person counts it: grapheme clusters of UAX #29, so that a family emoji is one. */
export const graphemes = (text: string): string[] => [...segmenter.segment(text)].map(({ segment }) => segment);

/** Length of a text in graphemes. */
export const graphemeCount = (text: string): number => [...segmenter.segment(text)].length;
