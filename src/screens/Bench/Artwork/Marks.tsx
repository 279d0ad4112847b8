import type { Box } from '@/core/geometry/box';
import type { Window } from '@/bench/viewing';

/** The lines to which a moved layer snapped, from edge to edge of what is seen. */
export function SnapLines({
  lines,
  window,
  px,
}: {
  lines: { readonly x: readonly number[]; readonly y: readonly number[] };
  window: Window;
  px: number;
}) {
  return (
    <g stroke="var(--color-primary)" strokeWidth={px}>
      {lines.x.map((x) => (
        <line key={`x${x}`} x1={x} x2={x} y1={window.top} y2={window.top + window.heightMm} />
      ))}
      {lines.y.map((y) => (
        <line key={`y${y}`} y1={y} y2={y} x1={window.left} x2={window.left + window.widthMm} />
      ))}
    </g>
  );
}

/** The frame that is drawn around layers to select them. */
export function SelectingFrame({ box, px }: { box: Box; px: number }) {
  return (
    <rect
      x={box.left}
      y={box.top}
      width={box.right - box.left}
      height={box.bottom - box.top}
      stroke="var(--color-primary)"
      strokeWidth={px}
      fill="var(--color-selection)"
      fillOpacity={0.35}
    />
  );
}
