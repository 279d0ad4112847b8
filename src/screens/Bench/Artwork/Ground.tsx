import type { Geometry } from '@/core/geometry/area';
import type { Box } from '@/core/geometry/box';
import type { Matrix } from '@/core/geometry/matrix';
import type { BenchShot } from '../load';
import { svgMatrix } from './placed';

/** Share of a picture's side whose colors go on beyond its edge. */
const RIM = 0.01;
/** How many times its own side a picture goes on. */
const BEYOND = 3;

/** The blank under an area: its shot that shows this area flat, or where there is none the plain color of the good. */
export function Ground({
  blankId,
  shot,
  flat,
  color,
  hex,
  geometry,
  printed,
  margin,
  px,
}: {
  blankId: string;
  shot: BenchShot | undefined;
  /** From px of the shot to mm of the area. */
  flat: Matrix | undefined;
  color: string | null;
  hex: string;
  geometry: Geometry;
  printed: Box;
  /** Of the good that is seen around the sheet, mm. */
  margin: number;
  px: number;
}) {
  if (!shot || !flat)
    return (
      <rect
        x={printed.left - margin * 0.65}
        y={printed.top - margin * 0.65}
        width={printed.right - printed.left + margin * 1.3}
        height={printed.bottom - printed.top + margin * 1.3}
        fill={hex}
        stroke="var(--color-edge)"
        strokeWidth={px}
      />
    );
  const { widthPx: w, heightPx: h } = shot;
  const query = new URLSearchParams({ shot: shot.id, v: shot.hash, ...(color ? { color } : {}) });
  const href = `/api/v1/blanks/${blankId}/picture?${query.toString()}`;
  const [rx, ry] = [w * RIM, h * RIM];
  // The rim of the picture goes on to all sides, so that a wide window shows no edge.
  const sides = [
    { x: -w * BEYOND, y: 0, width: w * BEYOND + 1, height: h, viewBox: `0 0 ${rx} ${h}` },
    { x: w - 1, y: 0, width: w * BEYOND, height: h, viewBox: `${w - rx} 0 ${rx} ${h}` },
    { x: 0, y: -h * BEYOND, width: w, height: h * BEYOND + 1, viewBox: `0 0 ${w} ${ry}` },
    { x: 0, y: h - 1, width: w, height: h * BEYOND, viewBox: `0 ${h - ry} ${w} ${ry}` },
  ];
  return (
    <g transform={svgMatrix(flat)} opacity={geometry.bleedMm > 0 ? 0.25 : 1}>
      {sides.map((side) => (
        <svg key={side.viewBox} {...side} preserveAspectRatio="none">
          <image href={href} width={w} height={h} />
        </svg>
      ))}
      <image href={href} width={w} height={h} data-testid="ground" />
    </g>
  );
}
