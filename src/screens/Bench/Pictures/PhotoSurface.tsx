'use client';

import { useRef, useState } from 'react';
import { gridLines, handlesOf, withHandle, type Sides } from '@/bench/marking';
import type { Point } from '@/core/geometry/matrix';
import type { MarkedMap } from '@/core/shot/area-map';
import type { Marks } from '@/core/shot/marks';
import { ownEntry } from '@/core/own-entry';

/** What pressing on the photograph does. */
export type MarkTool = 'marks' | 'pick' | 'paint' | 'erase';

/** Handles have this share of the photograph’s longer side as their radius. */
const HANDLE_SHARE = 1 / 120;

/** By how many px an arrow moves a mark. */
const NUDGES: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const path = (points: readonly Point[]) => `M${points.map(({ x, y }) => `${x} ${y}`).join('L')}`;

interface PhotoSurfaceProps {
  readonly photographId: string;
  readonly photo: Sides;
  readonly marks: Marks;
  readonly map: MarkedMap | null;
  readonly tool: MarkTool;
  /** Radius of the brush, px of the photograph. */
  readonly brushPx: number;
  readonly overlay: (canvas: HTMLCanvasElement | null) => void;
  readonly onMarks: (marks: Marks) => void;
  readonly onPick: (at: Point) => void;
  readonly onStroke: (points: readonly Point[], add: boolean) => void;
}

/** A photograph with its marks as handles, a grid that shows what they mean, and what takes the fabric's color laid over it. */
export function PhotoSurface({ photographId, overlay, ...props }: PhotoSurfaceProps) {
  const { photo } = props;
  return (
    <div
      className="relative mx-auto self-start"
      style={{
        aspectRatio: `${photo.widthPx} / ${photo.heightPx}`,
        width: `min(100%, ${(70 * photo.widthPx) / photo.heightPx}vh)`,
      }}
    >
      <img
        src={`/api/v1/artwork/${photographId}/preview`}
        alt="The photograph that is being marked"
        draggable={false}
        className="absolute inset-0 size-full select-none"
      />
      <canvas ref={overlay} aria-hidden className="absolute inset-0 size-full pointer-events-none" />
      <Drawing {...props} />
    </div>
  );
}

/** The marks and the stroke under way, over the photograph; what the pointer does there. */
function Drawing({
  photo,
  marks,
  map,
  tool,
  brushPx,
  onMarks,
  onPick,
  onStroke,
}: Omit<PhotoSurfaceProps, 'photographId' | 'overlay'>) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const [stroke, setStroke] = useState<readonly Point[] | null>(null);
  const place = (e: { clientX: number; clientY: number }) => placeIn(svg.current!, photo, e);
  const end = () => {
    setHeld(null);
    setStroke(null);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${photo.widthPx} ${photo.heightPx}`}
      className={`absolute inset-0 size-full touch-none ${tool === 'marks' ? '' : 'cursor-crosshair'}`}
      onPointerDown={(e) => {
        if (tool === 'marks') return;
        e.preventDefault();
        if (tool === 'pick') return onPick(place(e));
        e.currentTarget.setPointerCapture(e.pointerId);
        setStroke([place(e)]);
      }}
      onPointerMove={(e) => {
        if (held !== null) onMarks(withHandle(marks, held, place(e)));
        else if (stroke) setStroke([...stroke, place(e)]);
      }}
      onPointerUp={() => {
        if (stroke) onStroke(stroke, tool === 'paint');
        end();
      }}
      onPointerCancel={end}
    >
      <Grid lines={map ? gridLines(map) : []} />
      {stroke && (
        <path
          d={path(stroke.length > 1 ? stroke : [stroke[0]!, stroke[0]!])}
          fill="none"
          className={tool === 'paint' ? 'stroke-primary/40' : 'stroke-sheet/60'}
          strokeWidth={brushPx * 2}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
      {tool === 'marks' && (
        <Handles
          marks={marks}
          radiusPx={HANDLE_SHARE * Math.max(photo.widthPx, photo.heightPx)}
          onHold={(handle, pointerId) => {
            svg.current!.setPointerCapture(pointerId);
            setHeld(handle);
          }}
          onMarks={onMarks}
        />
      )}
    </svg>
  );
}

/** Where the pointer is on the photograph, px of it; never beyond its edges. */
function placeIn(svg: SVGSVGElement, photo: Sides, e: { clientX: number; clientY: number }): Point {
  const box = svg.getBoundingClientRect();
  const clamp = (value: number, most: number) => Math.min(most, Math.max(0, value));
  return {
    x: clamp(((e.clientX - box.left) / box.width) * photo.widthPx, photo.widthPx),
    y: clamp(((e.clientY - box.top) / box.height) * photo.heightPx, photo.heightPx),
  };
}

function Grid({ lines }: { lines: readonly (readonly Point[])[] }) {
  return lines.map((points, i) => (
    <g key={i} fill="none" vectorEffect="non-scaling-stroke">
      <path d={path(points)} className="stroke-sheet" strokeWidth={2.4} vectorEffect="non-scaling-stroke" />
      <path d={path(points)} className="stroke-ink" strokeWidth={0.8} vectorEffect="non-scaling-stroke" />
    </g>
  ));
}

/** The marks as points that are dragged, or moved by the arrows. */
function Handles({
  marks,
  radiusPx,
  onHold,
  onMarks,
}: {
  marks: Marks;
  /** Px of the photograph. */
  radiusPx: number;
  onHold: (handle: number, pointerId: number) => void;
  onMarks: (marks: Marks) => void;
}) {
  return handlesOf(marks).map(({ name, at }, i) => (
    <circle
      key={name}
      cx={at.x}
      cy={at.y}
      r={radiusPx}
      tabIndex={0}
      role="button"
      aria-label={`Mark ${name}, ${Math.round(at.x)} and ${Math.round(at.y)} px`}
      className="fill-sheet stroke-primary cursor-move focus:fill-selection"
      strokeWidth={2}
      vectorEffect="non-scaling-stroke"
      onPointerDown={(e) => {
        e.preventDefault();
        e.currentTarget.focus();
        onHold(i, e.pointerId);
      }}
      onKeyDown={(e) => {
        const by = ownEntry(NUDGES, e.key);
        if (!by) return;
        e.preventDefault();
        const step = e.shiftKey ? (e.altKey ? 0.1 : 10) : 1;
        onMarks(withHandle(marks, i, { x: at.x + by[0] * step, y: at.y + by[1] * step }));
      }}
    />
  ));
}
