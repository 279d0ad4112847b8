import type { ShelfBlank } from '@/core/catalog/shelf';

type SketchedArea = Pick<ShelfBlank['areas'][number], 'key' | 'widthMm' | 'heightMm' | 'outline'>;

/** Print areas side by side at one scale, on the color of the blank: the picture of a blank that has no shot. */
export function AreaSketch({ areas, hex }: { areas: readonly SketchedArea[]; hex: string | null }) {
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
          <path
            d={area.outline ?? `M0 0H${area.widthMm}V${area.heightMm}H0Z`}
            fill={hex ?? 'var(--color-sheet)'}
            stroke="var(--color-muted)"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
    </svg>
  );
}
