import { memo } from 'react';
import type { Layer } from '@/core/document/document';
import type { Matrix } from '@/core/geometry/matrix';
import type { SetText } from '@/core/lettering/layout';
import { LayerPicture } from './LayerPicture';
import { svgMatrix } from './placed';

interface SurfaceLayerProps {
  readonly id: string;
  readonly layer: Layer;
  readonly set: SetText | undefined;
  readonly matrix: Matrix;
  readonly pxPerMm: number;
  /** How it looks on the color in view. */
  readonly look: { readonly artworkId?: string; readonly tint?: string } | undefined;
  /** The same function as long as the surface is the same. */
  readonly onGrab: (e: React.PointerEvent, layerId: string) => void;
}

/** Whether a layer shows what it showed: while one of many is moved, the others are left alone. */
const isSame = (a: SurfaceLayerProps, b: SurfaceLayerProps): boolean =>
  (['id', 'layer', 'set', 'pxPerMm', 'look', 'onGrab'] as const).every((key) => a[key] === b[key]) &&
  (['a', 'b', 'c', 'd', 'e', 'f'] as const).every((key) => a.matrix[key] === b.matrix[key]);

/** A layer on the surface: what is printed of it, and pale what is not. */
export const SurfaceLayer = memo(function SurfaceLayer({
  id,
  layer,
  set,
  matrix,
  pxPerMm,
  look,
  onGrab,
}: SurfaceLayerProps) {
  const picture = (
    <LayerPicture
      layer={layer}
      set={set}
      matrix={matrix}
      pxPerMm={pxPerMm}
      artworkId={look?.artworkId ?? null}
      tint={look?.tint ?? null}
    />
  );
  return (
    <g data-layer={id}>
      {/* What is outside the area is not printed: it is shown pale. */}
      <g opacity={0.22} style={{ filter: 'grayscale(1)' }}>
        {picture}
      </g>
      <g clipPath="url(#sheet)">{picture}</g>
      <rect
        width={1}
        height={1}
        transform={svgMatrix(matrix)}
        fill="transparent"
        pointerEvents={layer.locked ? 'none' : undefined}
        style={{ cursor: 'move' }}
        data-testid="layer"
        onPointerDown={(e) => onGrab(e, id)}
      />
    </g>
  );
}, isSame);
