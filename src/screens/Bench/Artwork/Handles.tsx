'use client';

import type { Corner } from '@/bench/gestures/sizing';
import type { Point } from '@/core/geometry/matrix';

const CORNERS: readonly Corner[] = ['nw', 'ne', 'se', 'sw'];

/** Frame and handles of the selected layer; `px` is the length of a screen pixel in mm. */
export function Handles({
  corners,
  flipX,
  flipY,
  px,
  onSize,
  onTurn,
}: {
  corners: readonly Point[];
  flipX: boolean;
  flipY: boolean;
  px: number;
  onSize: (e: React.PointerEvent, corner: Corner) => void;
  onTurn: (e: React.PointerEvent) => void;
}) {
  // A mirrored layer's handles stay where they are seen.
  const cornerPoint = (corner: Corner): Point => {
    const east = corner.includes('e') !== flipX;
    const south = corner.includes('s') !== flipY;
    return corners[south ? (east ? 2 : 3) : east ? 1 : 0]!;
  };
  return (
    <g>
      <Frame corners={corners} px={px} />
      <TurnHandle corners={corners} px={px} onGrab={onTurn} />
      {CORNERS.map((corner) => {
        const p = cornerPoint(corner);
        return (
          <rect
            key={corner}
            data-testid={`handle-${corner}`}
            x={p.x - 4.5 * px}
            y={p.y - 4.5 * px}
            width={9 * px}
            height={9 * px}
            fill="var(--color-sheet)"
            stroke="var(--color-primary)"
            strokeWidth={1.4 * px}
            style={{ cursor: 'nwse-resize' }}
            onPointerDown={(e) => onSize(e, corner)}
          />
        );
      })}
    </g>
  );
}

export function Frame({ corners, px, dashed = false }: { corners: readonly Point[]; px: number; dashed?: boolean }) {
  return (
    <polygon
      points={corners.map((p) => `${p.x},${p.y}`).join(' ')}
      fill="none"
      stroke="var(--color-primary)"
      strokeWidth={1.4 * px}
      strokeDasharray={dashed ? `${4 * px} ${3 * px}` : undefined}
      pointerEvents="none"
    />
  );
}

function TurnHandle({
  corners,
  px,
  onGrab,
}: {
  corners: readonly Point[];
  px: number;
  onGrab: (e: React.PointerEvent) => void;
}) {
  const top = { x: (corners[0]!.x + corners[1]!.x) / 2, y: (corners[0]!.y + corners[1]!.y) / 2 };
  const middle = { x: (corners[0]!.x + corners[2]!.x) / 2, y: (corners[0]!.y + corners[2]!.y) / 2 };
  const length = Math.hypot(top.x - middle.x, top.y - middle.y) || 1;
  const end = {
    x: top.x + ((top.x - middle.x) / length) * 22 * px,
    y: top.y + ((top.y - middle.y) / length) * 22 * px,
  };
  return (
    <g>
      <line x1={top.x} y1={top.y} x2={end.x} y2={end.y} stroke="var(--color-primary)" strokeWidth={1.2 * px} />
      <circle
        data-testid="handle-turn"
        cx={end.x}
        cy={end.y}
        r={5 * px}
        fill="var(--color-sheet)"
        stroke="var(--color-primary)"
        strokeWidth={1.4 * px}
        style={{ cursor: 'grab' }}
        onPointerDown={onGrab}
      />
    </g>
  );
}
