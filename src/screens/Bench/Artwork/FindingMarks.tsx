'use client';

import type { Box } from '@/core/geometry/box';
import type { Finding } from '@/core/findings/finding';
import { useDesk } from '../desk';
import { SEVERITY_WORDS } from '@/screens/severity';
import { useAcceptances } from '../Findings/use-findings';

const COLOR = { stop: 'var(--color-stop)', warn: 'var(--color-caution)', note: 'var(--color-muted)' } as const;

/**
 * Where on the surface the findings are: a hatched frame in the color of the severity, with its word. Notes ask for nothing and are not drawn.
 * One place with several findings is drawn once, in the color of the worst (they come worst first).
 */
export function FindingMarks({
  areaKey,
  geometryId,
  boxOf,
  px,
}: {
  areaKey: string;
  geometryId: string;
  boxOf: (layerId: string) => Box | null;
  /** A screen pixel in mm. */
  px: number;
}) {
  const { findings } = useDesk('findings');
  const acceptances = useAcceptances();
  const places = new Map<string, { box: Box; worst: Finding; says: string[] }>();
  for (const finding of findings) {
    if (finding.areaKey !== areaKey || acceptances.of(finding) !== null) continue;
    if (finding.severity === 'note' || (finding.spot && finding.spot.geometryId !== geometryId)) continue;
    const box = finding.spot?.box ?? boxOf(finding.layerId);
    if (!box) continue;
    const key = [box.left, box.top, box.right, box.bottom].map(Math.round).join(' ');
    const place = places.get(key) ?? { box, worst: finding, says: [] };
    place.says.push(finding.says);
    places.set(key, place);
  }
  return (
    <g pointerEvents="none">
      <defs>
        {(['stop', 'warn'] as const).map((severity) => (
          <pattern
            key={severity}
            id={`hatch-${severity}`}
            width={8 * px}
            height={8 * px}
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line y2={8 * px} stroke={COLOR[severity]} strokeWidth={2 * px} strokeOpacity={0.4} />
          </pattern>
        ))}
      </defs>
      {[...places].map(([key, { box, worst, says }]) => {
        const [width, height] = [box.right - box.left, box.bottom - box.top];
        const thin = Math.min(width, height) < 30 * px;
        const tag = says.length > 1 ? `${says.length} findings` : SEVERITY_WORDS[worst.severity];
        return (
          <g key={key} data-testid="finding-mark" data-severity={worst.severity}>
            <title>{says.join(' ')}</title>
            <rect
              x={box.left}
              y={box.top}
              width={width}
              height={height}
              fill={thin ? `url(#hatch-${worst.severity})` : 'none'}
              stroke={COLOR[worst.severity]}
              strokeWidth={1.5 * px}
              strokeDasharray={`${7 * px} ${3 * px}`}
            />
            <g transform={`translate(${box.left} ${box.top}) scale(${px})`}>
              <rect y={-17} width={11 + 6.2 * tag.length} height={17} fill={COLOR[worst.severity]} />
              <text x={5} y={-5} fontSize={11.5} fill="var(--color-sheet)">
                {tag}
              </text>
            </g>
          </g>
        );
      })}
    </g>
  );
}
