'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { pictureOfInks, type InkPicture } from '@/bench/inks';
import type { Layer } from '@/core/document/document';
import { axisLengths, scaling, type Matrix } from '@/core/geometry/matrix';
import type { SetText } from '@/core/lettering/layout';
import { ornamentByCode } from '@/core/ornaments/ornaments';
import { mapPath, type InkedPath } from '@/core/paths/path';
import { svgMatrix } from './placed';

/** What a text or an ornament draws in its unit square. */
export function unitInks(layer: Layer, set: SetText | undefined, tint: string | null): readonly InkedPath[] {
  if (layer.kind === 'text') {
    const { boxWidthMm, boxHeightMm, fill } = layer.lettering;
    return (set?.inks ?? []).map(({ path, color }) => ({
      path: mapPath(path, scaling(1 / boxWidthMm, 1 / boxHeightMm)),
      color: tint && color === fill ? tint : color,
    }));
  }
  if (layer.kind === 'ornament') {
    const ornament = ornamentByCode(layer.ornament);
    return ornament
      ? [{ path: mapPath(ornament.path, scaling(1, 1 / ornament.aspect)), color: tint ?? layer.color }]
      : [];
  }
  return [];
}

/** Pixels as an address that an image can show. */
export function urlOf({ raster }: InkPicture): string {
  const canvas = document.createElement('canvas');
  canvas.width = raster.widthPx;
  canvas.height = raster.heightPx;
  canvas
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(raster.data), raster.widthPx, raster.heightPx), 0, 0);
  return canvas.toDataURL('image/png');
}

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
  const sides = axisLengths(matrix);
  // In steps, so that a layer that is being sized is not drawn anew for each pixel.
  const step = (value: number) => 2 ** (Math.ceil(Math.log2(Math.max(8, value)) * 2) / 2);
  const [x, y] = [step(sides.x * pxPerMm), step(sides.y * pxPerMm)].map((v) => Math.min(v, 2048)) as [number, number];
  // On the server there is no canvas to draw on.
  const inBrowser = useSyncExternalStore(
    () => () => undefined,
    () => true,
    () => false,
  );
  const picture = useMemo(() => {
    if (layer.kind === 'artwork' || !inBrowser) return null;
    const made = pictureOfInks(unitInks(layer, set, tint), { x, y });
    return made && { url: urlOf(made), box: made.box };
  }, [layer, set, tint, x, y, inBrowser]);
  if (layer.kind === 'artwork')
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
  if (!picture) return null;
  const { box, url } = picture;
  return (
    <image
      href={url}
      x={box.left}
      y={box.top}
      width={box.right - box.left}
      height={box.bottom - box.top}
      preserveAspectRatio="none"
      transform={svgMatrix(matrix)}
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
