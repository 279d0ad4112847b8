import type { ShelfBlank } from '@/core/shelf/shelf';

type SketchedArea = Pick<ShelfBlank['areas'][number], 'key' | 'pieceCode' | 'widthMm' | 'heightMm' | 'outline'>;

/**
 * Print areas side by side at one scale: the picture of a blank that has no shot. A color of the whole good is what is printed on; one of
 * a part (a rim, a frame) goes around the areas of its piece.
 */
export function AreaSketch({
  areas,
  hex,
  colorOf,
}: {
  areas: readonly SketchedArea[];
  hex: string | null;
  colorOf: ShelfBlank['colorOf'];
}) {
  const whole = colorOf?.optionCode === 'color';
  const around = (area: SketchedArea) =>
    hex !== null && !whole && (colorOf?.pieceCode ?? area.pieceCode) === area.pieceCode;
  const tallest = Math.max(...areas.map((area) => area.heightMm), 1);
  const gap = tallest * 0.08;
  const width = areas.reduce((sum, area) => sum + area.widthMm, 0) + gap * Math.max(0, areas.length - 1);
  const side = Math.max(width, tallest) * 1.16;
  const left = areas.map((_, i) =>
    areas.slice(0, i).reduce((sum, area) => sum + area.widthMm + gap, (side - width) / 2),
  );
  return (
    <svg viewBox={`0 0 ${side} ${side}`} className="size-full" aria-hidden>
      {areas.map((area, i) => (
        <g key={area.key} transform={`translate(${left[i]} ${(side - area.heightMm) / 2})`}>
          {around(area) && (
            <path
              d={area.outline ?? `M0 0H${area.widthMm}V${area.heightMm}H0Z`}
              fill="none"
              stroke={hex!}
              strokeWidth={7}
              vectorEffect="non-scaling-stroke"
            />
          )}
          <path
            d={area.outline ?? `M0 0H${area.widthMm}V${area.heightMm}H0Z`}
            fill={whole && hex ? hex : 'var(--color-sheet)'}
            stroke="var(--color-muted)"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
    </svg>
  );
}
