import type { AreaEdges } from '@/core/catalog/blank';
import { trimBox, type Geometry } from '@/core/geometry/area';
import { inset } from '@/core/geometry/box';
import type { Window } from '@/bench/viewing';

const EDGE_NAMES: Record<AreaEdges, string> = { handle: 'handle', seam: 'seam' };

/** Trim, bleed and safe margin of an area, and of one that goes around its good the middle and what its ends lie at. */
export function Guides({
  geometry,
  edges,
  outline,
  sheetPath,
  window,
  dark,
  px,
}: {
  geometry: Geometry;
  edges: AreaEdges | undefined;
  outline: string;
  sheetPath: string;
  window: Window;
  /** Whether the good is dark, so that guides on it are light. */
  dark: boolean;
  px: number;
}) {
  const safe = inset(trimBox(geometry), geometry.safeMm);
  const guide = dark && geometry.bleedMm === 0 ? 'rgb(255 255 255 / 0.6)' : 'rgb(34 37 43 / 0.45)';
  return (
    <>
      {geometry.bleedMm > 0 && <path d={sheetPath} stroke="var(--color-stop)" strokeWidth={px} strokeOpacity={0.7} />}
      <path d={outline} stroke={guide} strokeWidth={px} strokeDasharray={`${5 * px} ${4 * px}`} />
      {geometry.outline === null && (
        <rect
          x={safe.left}
          y={safe.top}
          width={safe.right - safe.left}
          height={safe.bottom - safe.top}
          stroke={guide}
          strokeWidth={px}
          strokeDasharray={`${1.5 * px} ${2.5 * px}`}
        />
      )}
      {edges && (
        <g data-testid="wrap-guides">
          <line
            x1={geometry.widthMm / 2}
            x2={geometry.widthMm / 2}
            y1={0}
            y2={geometry.heightMm}
            stroke="rgb(34 37 43 / 0.45)"
            strokeWidth={px}
            strokeDasharray={`${9 * px} ${4 * px} ${2 * px} ${4 * px}`}
          />
          {[
            { mm: 0, says: EDGE_NAMES[edges], anchor: 'start' },
            { mm: geometry.widthMm / 2, says: 'middle', anchor: 'middle' },
            { mm: geometry.widthMm, says: EDGE_NAMES[edges], anchor: 'end' },
          ].map(({ mm, says, anchor }) => (
            <text
              key={mm}
              x={mm}
              y={Math.min(geometry.heightMm + geometry.bleedMm + 15 * px, window.top + window.heightMm - 6 * px)}
              fontSize={11.5 * px}
              textAnchor={anchor as 'start' | 'middle' | 'end'}
              fill="var(--color-muted)"
              stroke="none"
            >
              {says}
            </text>
          ))}
        </g>
      )}
    </>
  );
}
