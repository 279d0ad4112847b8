import fs from 'node:fs';
import path from 'node:path';
import { Blob, Buffer as HbBuffer, Face, Font, shape } from 'harfbuzzjs';
import { LetterFace } from '../../src/core/lettering/face';
import { setText } from '../../src/core/lettering/layout';
import type { Lettering } from '../../src/core/lettering/text';
import { unpackWoff } from '../../src/core/lettering/woff';
import { randomOf } from '../support/random';
import type { Bench } from './bench';

const LINES = 1000;
const WORDS = 'tide oar blade river dawn outing cox stroke ebb flood chart boathouse pennant swift AVA Tyne'.split(' ');

const bench: Bench = {
  name: 'lettering',
  reference: `HarfBuzz shapes the same ${LINES} lines once and gives the outline of each glyph`,
  rounds: 9,
  async setup() {
    const file = path.resolve(
      import.meta.dirname,
      '../../node_modules/@fontsource/eb-garamond/files/eb-garamond-latin-400-normal.woff',
    );
    const bytes = new Uint8Array(fs.readFileSync(file));
    const random = randomOf(7);
    const texts = Array.from({ length: LINES }, () =>
      Array.from({ length: 3 + Math.floor(random() * 5) }, () => WORDS[Math.floor(random() * WORDS.length)]).join(' '),
    );
    const lettering = (text: string): Lettering => ({
      text,
      family: 'eb-garamond',
      style: 'regular',
      sizeMm: 30,
      align: 'center',
      tracking: 0,
      lineHeight: 1.2,
      fill: '#000000',
      outline: null,
      arcDeg: 0,
      boxWidthMm: 200,
      boxHeightMm: 60,
      shrinkToMm: 2,
      wrap: true,
    });
    const font = new Font(new Face(new Blob(unpackWoff(bytes))));
    return {
      // A face of its own each round: what it keeps of outlines is filled within the round.
      ours: async () => {
        const face = new LetterFace('latin', bytes);
        return texts.map((text) => setText(lettering(text), [face]).inks);
      },
      theirs: async () =>
        texts.map((text) => {
          const buffer = new HbBuffer();
          buffer.addText(text);
          buffer.guessSegmentProperties();
          shape(font, buffer);
          return buffer
            .getGlyphInfosAndPositions()
            .map((glyph) => ({ ...glyph, outline: font.glyphToJson(glyph.codepoint) }));
        }),
    };
  },
};

export default bench;
