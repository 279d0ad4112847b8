import type { Layer } from '@/core/document/document';
import type { Matrix } from '@/core/geometry/matrix';
import type { SetText } from '@/core/lettering/layout';
import { LayerPicture } from './LayerPicture';
import { svgMatrix } from './placed';

/** A layer on the surface: what is printed of it, and pale what is not. */
export function SurfaceLayer({
  id,
  layer,
  set,
  matrix,
  pxPerMm,
  look,
  onPointerDown,
}: {
  id: string;
  layer: Layer;
  set: SetText | undefined;
  matrix: Matrix;
  pxPerMm: number;
  /** How it looks on the color in view. */
  look: { readonly artworkId?: string; readonly tint?: string } | undefined;
  onPointerDown: (e: React.PointerEvent) => void;
}) {
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
        onPointerDown={onPointerDown}
      />
    </g>
  );
}
