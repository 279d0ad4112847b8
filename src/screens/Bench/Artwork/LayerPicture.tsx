'use client';

import { later } from '@/ui/later';
import type { Layer } from '@/core/document/document';
import type { Matrix } from '@/core/geometry/matrix';
import type { SetText } from '@/core/lettering/layout';
import { svgMatrix } from './placed';

// What draws letters and ornaments comes with the first of them.
const InkPicture = later(() => import('./InkPicture').then((m) => m.InkPicture));

/** One layer as the surface shows it, under a map from its unit square to mm. */
export function LayerPicture({
  layer,
  set,
  matrix,
  pxPerMm,
  artworkId,
  tint,
}: {
  layer: Layer;
  set: SetText | undefined;
  matrix: Matrix;
  /** Of the screen. */
  pxPerMm: number;
  /** The artwork on the color in view. */
  artworkId: string | null;
  tint: string | null;
}) {
  if (layer.kind !== 'artwork') return <InkPicture {...{ layer, set, matrix, pxPerMm, tint }} />;
  return (
    <image
      href={`/api/v1/artwork/${artworkId ?? layer.artworkId}/preview`}
      width={1}
      height={1}
      preserveAspectRatio="none"
      transform={svgMatrix(matrix)}
      filter={tint ? `url(#tint-${tint.slice(1)})` : undefined}
      opacity={layer.opacity}
    />
  );
}

/** Filters that paint an image in one color and keep its alpha. */
export function TintFilters({ tints }: { tints: readonly string[] }) {
  return [...new Set(tints)].map((tint) => (
    <filter key={tint} id={`tint-${tint.slice(1)}`} colorInterpolationFilters="sRGB">
      <feFlood floodColor={tint} />
      <feComposite in2="SourceAlpha" operator="in" />
    </filter>
  ));
}
