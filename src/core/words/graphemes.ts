const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** Length of a text as a person counts it: grapheme clusters of UAX #29, so that a family emoji is 1. */
export const graphemeCount = (text: string): number => [...graphemes.segment(text)].length;
