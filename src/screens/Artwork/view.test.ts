import { describe, expect, it } from 'vitest';
import { miniOf } from '@/core/artwork/mini';
import type { ArtworkItem } from './load';
import { changedTags, factLines, isLight, productsLine, readTags, remarks, sizeLine } from './view';

/** Half light, half dark. */
const mini = miniOf({
  widthPx: 2,
  heightPx: 1,
  rgba: Uint8Array.of(247, 231, 192, 255, 24, 42, 74, 255),
});
const item = (
  over: Partial<ArtworkItem> = {},
  facts: Partial<NonNullable<ArtworkItem['facts']>> = {},
): ArtworkItem => ({
  id: 'a1',
  name: 'Crest',
  state: 'ready',
  refusal: null,
  createdAt: new Date('2026-11-25T10:00:00Z'),
  derivedFrom: null,
  replaced: null,
  tags: [],
  purpose: 'artwork',
  twins: [],
  products: 0,
  facts: {
    mediaType: 'image/png',
    vector: false,
    widthPx: 3000,
    heightPx: 1500,
    densityDpi: null,
    hasAlpha: true,
    visible: null,
    mainColors: [{ hex: '#f7e7c0', share: 1 }],
    notes: [],
    likeness: '00ff00ff00ff00ff',
    mini,
    ...facts,
  },
  ...over,
});

describe('an artwork in words', () => {
  it('says how large it prints sharply: 3000 px at 300 DPI are 254 mm, 10 in', () => {
    expect(sizeLine(item())).toBe('PNG, 3000 × 1500');
    expect(factLines(item())).toContainEqual(['Sharp up to', '254 × 127 mm (10.0 × 5.0 in, 300 DPI)']);
    expect(sizeLine(item({}, { vector: true, mediaType: 'image/svg+xml' }))).toBe('SVG, vector');
    expect([0, 1, 2].map((products) => productsLine(item({ products })))).toEqual([
      'not used',
      'in 1 product',
      'in 2 products',
    ]);
  });

  it('tells of its twins', () => {
    const twins = [
      { artworkId: 'a2', name: 'Crest again', vector: false, widthPx: 6000, heightPx: 3000 },
      { artworkId: 'a3', name: 'Crest drawn', vector: true, widthPx: 200, heightPx: 100 },
    ];
    expect(remarks(item({ twins }))).toEqual([
      'The same picture as Crest again (6000 × 3000 px).',
      'The same picture as Crest drawn (a vector).',
    ]);
  });

  it('is shown on a dark ground when it is light and transparent', () => {
    expect(isLight(item())).toBe(true);
    expect(isLight(item({}, { hasAlpha: false }))).toBe(false);
    expect(isLight(item({}, { mainColors: [{ hex: '#222222', share: 1 }] }))).toBe(false);
  });

  it('reads tags with commas between, each once', () => {
    expect(readTags(' rivers, light on dark ,,rivers')).toEqual(['rivers', 'light on dark']);
  });
});

describe('tags of many files', () => {
  it('are added once each, and removed in whatever letters', () => {
    expect(changedTags(['River', 'wall'], ['river', 'tide'], 'add')).toEqual(['River', 'wall', 'tide']);
    expect(changedTags(['River', 'wall'], ['RIVER', 'none'], 'remove')).toEqual(['wall']);
  });
});
