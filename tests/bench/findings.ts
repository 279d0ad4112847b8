import sharp from 'sharp';
import { demoBlank } from '../../src/core/catalog/sample';
import type { Blank } from '../../src/core/catalog/blank';
import { newDocument, type Layer, type ProductDocument } from '../../src/core/document/document';
import type { ArtworkSize } from '../../src/core/findings/finding';
import { findFindings } from '../../src/core/findings/findings';
import { flatArtwork } from './artworks';
import type { Bench } from './bench';

const LAYERS = 5;
const COLORS = 12;
/** A shirt in twelve colors and three sizes. */
const blank: Blank = {
  ...demoBlank,
  options: demoBlank.options.map((option) =>
    option.code === 'color'
      ? {
          ...option,
          values: Array.from({ length: COLORS }, (_, i) => ({
            code: `c${i}`,
            name: `Color ${i}`,
            hex: `#${((i * 0x151515 + 0x101820) & 0xffffff).toString(16).padStart(6, '0')}`,
          })),
        }
      : option,
  ),
};

const layers = Object.fromEntries(
  Array.from({ length: LAYERS }, (_, i): [string, Layer] => [
    `l${i}`,
    {
      kind: 'artwork',
      artworkId: `a${i}`,
      name: `Layer ${i}`,
      order: `a${i}`,
      geometryId: 'g-small',
      fit: 'keep',
      overrides: {},
      hidden: false,
      locked: false,
      placement: { xMm: 140, yMm: 60 + i * 60, widthMm: 90 + i * 30, rotationDeg: i * 7, flipX: false, flipY: false },
    },
  ]),
);

const artworks: Record<string, ArtworkSize> = Object.fromEntries(
  Array.from({ length: LAYERS }, (_, i) => [
    `a${i}`,
    {
      vector: false,
      widthPx: 900 + i * 700,
      heightPx: 900 + i * 700,
      likeness: `${i}0ff00ff00ff00ff`,
      flatBox: i === 0 ? '#ffffff' : null,
      halfTransparent: i / 20,
      thinInk: [{ width: 0.004, share: 0.1 }],
      mainColors: Array.from({ length: 6 }, (_, k) => ({
        hex: `#${((i * 0x2f1d3b + k * 0x191f25) & 0xffffff).toString(16).padStart(6, '0')}`,
        share: 1 / 6,
      })),
    },
  ]),
);

const bench: Bench = {
  name: 'findings',
  reference: 'sharp: one thumbnail of 128 px from the 3000×3000 flat artwork',
  rounds: 31,
  async setup() {
    sharp.concurrency(2);
    const file = await flatArtwork(3000);
    const start: ProductDocument = {
      ...newDocument('b1', 'GBP', 'Tee'),
      areas: { 'main.front': { layers } },
      variants: Object.fromEntries(
        Array.from({ length: COLORS }, (_, i) =>
          ['s', 'm', 'xxl'].map((size) => [`color=c${i};size=${size}`, {}]),
        ).flat(),
      ),
    };
    let [round, found] = [0, 0];
    return {
      async ours() {
        // Another design each time, as it is while one drags.
        round += 1;
        const moved = { ...layers.l0!, placement: { ...layers.l0!.placement, xMm: 100 + round } };
        const doc = { ...start, areas: { 'main.front': { layers: { ...layers, l0: moved } } } };
        found = findFindings(doc, blank, artworks).length;
      },
      theirs: () => sharp(file).resize(128, 128, { fit: 'inside' }).raw().toBuffer(),
      after: async () => `${LAYERS} layers on ${COLORS} colors: ${found} findings`,
    };
  },
};

export default bench;
