'use client';

import { useId } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { printedBox } from '@/core/geometry/area';
import { layerMatrix } from '@/core/geometry/fit';
import { inOrder } from '@/core/order-key';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';
import { LayerPicture, TintFilters } from './LayerPicture';
import { aspectOf } from './placed';

/** One area in one of its shapes, small: what will be on its sheet. */
export function MiniSheet({ areaKey, geometryId, sidePx }: { areaKey: string; geometryId: string; sidePx: number }) {
  const desk = useDesk('data', 'designed', 'color', 'letterings', 'artworkSizes', 'areaKey');
  const { data, designed: doc, color, letterings } = desk;
  const clip = useId();
  const geometry = ownEntry(data.blank.geometries, geometryId)!;
  const box = printedBox(geometry);
  const [wide, high] = [box.right - box.left, box.bottom - box.top];
  const scale = sidePx / Math.max(wide, high);
  // Room for the whole of the line around it.
  const pad = 1 / scale;
  const ground =
    geometry.bleedMm > 0
      ? '#ffffff'
      : (colorOption(data.blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff');
  const path = geometry.outline ?? `M${box.left} ${box.top}H${box.right}V${box.bottom}H${box.left}Z`;
  return (
    <svg
      width={Math.max(6, wide * scale)}
      height={Math.max(6, high * scale)}
      viewBox={`${box.left - pad} ${box.top - pad} ${wide + 2 * pad} ${high + 2 * pad}`}
      aria-hidden
    >
      <TintFilters
        tints={Object.values(ownEntry(doc.areas, areaKey)?.layers ?? {}).flatMap(
          (layer) => (color === null ? undefined : ownEntry(layer.versions, color)?.tint) ?? [],
        )}
      />
      <clipPath id={clip}>
        <path d={path} />
      </clipPath>
      <path d={path} fill={ground} stroke="var(--color-edge)" strokeWidth={1} vectorEffect="non-scaling-stroke" />
      <g clipPath={`url(#${clip})`}>
        {inOrder(ownEntry(doc.areas, areaKey)?.layers ?? {}).map(([id, layer]) => {
          const aspect = layer.hidden ? null : aspectOf(desk, id, areaKey);
          if (aspect === null) return null;
          const look = color === null ? undefined : ownEntry(layer.versions, color);
          return (
            <LayerPicture
              key={id}
              layer={layer}
              set={ownEntry(letterings, id)}
              matrix={layerMatrix(layer, aspect, geometryId, data.blank.geometries)}
              pxPerMm={scale * 2}
              artworkId={look?.artworkId ?? null}
              tint={look?.tint ?? null}
            />
          );
        })}
      </g>
    </svg>
  );
}
