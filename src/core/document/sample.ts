import type { ArtworkLayer } from './document';

/** An artwork on the small geometry of the sample blank, for tests. */
export const sampleLayer = (
  over: Partial<ArtworkLayer> = {},
  placement: Partial<ArtworkLayer['placement']> = {},
): ArtworkLayer => ({
  kind: 'artwork',
  artworkId: 'a1',
  name: 'Crest',
  order: 'a0',
  geometryId: 'g-small',
  fit: 'keep',
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm: 140, yMm: 150, widthMm: 150, rotationDeg: 0, flipX: false, flipY: false, ...placement },
  ...over,
});
