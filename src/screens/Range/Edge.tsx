'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

const STEP_PX = 16;

/** The right edge of a column's heading: dragged, or moved with the arrow keys, it is another width; with Alt the column goes to another place. */
export function Edge({
  name,
  px,
  onResize,
  onShift,
}: {
  name: string;
  px: number;
  onResize: (px: number) => void;
  onShift?: (by: 1 | -1) => void;
}) {
  const began = useRef<{ x: number; px: number } | null>(null);
  const onPointerDown = (event: PointerEvent<HTMLSpanElement>) => {
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    began.current = { x: event.clientX, px };
  };
  const onPointerMove = (event: PointerEvent) => {
    if (began.current) onResize(began.current.px + event.clientX - began.current.x);
  };
  const end = () => {
    began.current = null;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.altKey && onShift) onShift(by);
    else onResize(px + by * STEP_PX);
  };
  return (
    <span
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${name}`}
      aria-valuenow={px}
      tabIndex={0}
      title={onShift ? 'Drag for another width; Alt and an arrow key moves the column' : 'Drag for another width'}
      className="absolute top-1 right-0 bottom-1 w-1.5 cursor-col-resize border-r border-transparent hover:border-edge focus-visible:border-primary"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={end}
      onPointerCancel={end}
      onKeyDown={onKeyDown}
    />
  );
}
