'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { pictureOfInks, type InkPicture as Picture } from '@/bench/inks';
import type { OrnamentLayer, TextLayer } from '@/core/document/document';
import { axisLengths, scaling, type Matrix } from '@/core/geometry/matrix';
import type { SetText } from '@/core/lettering/layout';
import { ornamentByCode } from '@/core/ornaments/ornaments';
import { mapPath, type InkedPath } from '@/core/paths/path';
import { svgMatrix } from './placed';

/** A layer that is drawn with ink, not from a file. */
export type InkedLayer = TextLayer | OrnamentLayer;

/** What a text or an ornament draws in its unit square. */
function unitInks(layer: InkedLayer, set: SetText | undefined, tint: string | null): readonly InkedPath[] {
  if (layer.kind === 'text') {
    const { boxWidthMm, boxHeightMm, fill } = layer.lettering;
    return (set?.inks ?? []).map(({ path, color }) => ({
      path: mapPath(path, scaling(1 / boxWidthMm, 1 / boxHeightMm)),
      color: tint && color === fill ? tint : color,
    }));
  }
  const ornament = ornamentByCode(layer.ornament);
  return ornament
    ? [{ path: mapPath(ornament.path, scaling(1, 1 / ornament.aspect)), color: tint ?? layer.color }]
    : [];
}

/** Pixels as an address that an image can show. */
function urlOf({ raster }: Picture): string {
  const canvas = document.createElement('canvas');
  canvas.width = raster.widthPx;
  canvas.height = raster.heightPx;
  canvas
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(raster.data), raster.widthPx, raster.heightPx), 0, 0);
  return canvas.toDataURL('image/png');
}

// In steps, so that a layer that is being sized is not drawn anew for each pixel.
const step = (value: number) => Math.min(2048, 2 ** (Math.ceil(Math.log2(Math.max(8, value)) * 2) / 2));

interface Drawn {
  readonly set: SetText | undefined;
  readonly tint: string | null;
  readonly x: number;
  readonly y: number;
  readonly picture: { readonly url: string; readonly box: Picture['box'] } | null;
}
/** The last picture of each layer: what is outside of the sheet and what is on it show the same. */
const drawn = new WeakMap<InkedLayer, Drawn>();

function pictureOf(layer: InkedLayer, set: SetText | undefined, tint: string | null, x: number, y: number) {
  const have = drawn.get(layer);
  if (have && have.set === set && have.tint === tint && have.x === x && have.y === y) return have.picture;
  const made = pictureOfInks(unitInks(layer, set, tint), { x, y });
  const picture = made && { url: urlOf(made), box: made.box };
  drawn.set(layer, { set, tint, x, y, picture });
  return picture;
}

/** A text or an ornament as it is printed, under a map from its unit square to mm. */
export function InkPicture({
  layer,
  set,
  matrix,
  pxPerMm,
  tint,
}: {
  layer: InkedLayer;
  set: SetText | undefined;
  matrix: Matrix;
  pxPerMm: number;
  tint: string | null;
}) {
  const sides = axisLengths(matrix);
  const [x, y] = [step(sides.x * pxPerMm), step(sides.y * pxPerMm)];
  // On the server there is no canvas to draw on.
  const inBrowser = useSyncExternalStore(
    () => () => undefined,
    () => true,
    () => false,
  );
  const picture = useMemo(
    () => (inBrowser ? pictureOf(layer, set, tint, x, y) : null),
    [layer, set, tint, x, y, inBrowser],
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
