'use client';

import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { moving } from '@/bench/gestures/moving';
import type { Gesture } from '@/bench/gestures/gesture';
import { sizing, type Corner } from '@/bench/gestures/sizing';
import { turning } from '@/bench/gestures/turning';
import { placeLayer } from '@/bench/placing';
import { linesOf } from '@/bench/snapping';
import { areaTitle, colorOption, geometryIdFor } from '@/core/catalog/blank';
import { printedBox, trimBox } from '@/core/geometry/area';
import { inset, unitCorners } from '@/core/geometry/box';
import { layerMatrix } from '@/core/geometry/fit';
import type { Point } from '@/core/geometry/matrix';
import type { Placement } from '@/core/geometry/placement';
import { placementMatrix } from '@/core/geometry/placement';
import { inOrder } from '@/core/order/order';
import { useDesk } from '../desk';
import { aspectOf, placementInView, svgMatrix } from './placed';

const CORNERS: readonly Corner[] = ['nw', 'ne', 'se', 'sw'];
const SNAP_PX = 7;

/** The area in view, in mm: the blank behind it where it is seen flat, trim, bleed and safe margin, and the layers with handles. */
export function Surface() {
  const desk = useDesk();
  const { data, doc, areaKey, geometryId, selected, color, live } = desk;
  const svg = useRef<SVGSVGElement>(null);
  const [size, setSize] = useState({ width: 800, height: 600 });
  const [held, setHeld] = useState<{
    layerId: string;
    gesture: Gesture;
    pointerId: number;
    placement: Placement | null;
    label: string;
  } | null>(null);
  useLayoutEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    observer.observe(svg.current!);
    return () => observer.disconnect();
  }, []);

  const { blank } = data;
  const area = blank.areas.find((a) => a.key === areaKey)!;
  const geometry = blank.geometries[geometryId]!;
  const printed = printedBox(geometry);
  const trim = trimBox(geometry);
  const shot = data.shots.find(
    (s) => s.areas[areaKey]?.flat && geometryIdFor(area, s.areas[areaKey].variant) === geometryId,
  );
  const flat = shot?.areas[areaKey]?.flat;
  // Room around the sheet: more where there is a blank to be seen around it.
  const margin = Math.max(trim.right, trim.bottom) * (flat && geometry.bleedMm === 0 ? 0.34 : 0.09);
  const view = {
    x: printed.left - margin,
    y: printed.top - margin,
    width: printed.right - printed.left + 2 * margin,
    height: printed.bottom - printed.top + 2 * margin,
  };
  const pxPerMm = Math.min(size.width / view.width, size.height / view.height) || 1;
  const px = 1 / pxPerMm;
  const hex = colorOption(blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff';
  const dark = isDark(hex);

  const toMm = (e: { clientX: number; clientY: number }): Point => {
    const ctm = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(ctm);
    return { x: p.x, y: p.y };
  };
  const grab = (
    e: React.PointerEvent,
    layerId: string,
    label: string,
    make: (placement: Placement, aspect: number, at: Point) => Gesture,
  ) => {
    e.stopPropagation();
    desk.select(layerId);
    const placement = placementInView(desk, layerId);
    const aspect = aspectOf(desk, layerId);
    if (!placement || aspect === null || e.button !== 0 || doc.areas[areaKey]?.layers[layerId]?.locked) return;
    svg.current!.setPointerCapture(e.pointerId);
    setHeld({ layerId, label, pointerId: e.pointerId, gesture: make(placement, aspect, toMm(e)), placement: null });
  };
  const onMove = (e: React.PointerEvent) => {
    if (!held || e.pointerId !== held.pointerId) return;
    const placement = held.gesture.move(toMm(e), e.shiftKey);
    setHeld({ ...held, placement });
    live.set({ layerId: held.layerId, placement });
  };
  const letGo = useCallback(() => {
    setHeld(null);
    live.set(null);
  }, [live]);
  const onUp = (e: React.PointerEvent) => {
    if (!held || e.pointerId !== held.pointerId) return;
    const { layerId, label, placement } = held;
    if (placement) desk.edit(label, (d) => placeLayer(d, areaKey, layerId, geometryId, placement));
    letGo();
  };
  // Escape gives up a gesture.
  useEffect(() => {
    if (!held) return;
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && letGo();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [held, letGo]);

  const layers = inOrder(doc.areas[areaKey]?.layers ?? {}).filter(([, layer]) => !layer.hidden);
  const matrixOf = (layerId: string) => {
    const layer = doc.areas[areaKey]!.layers[layerId]!;
    const aspect = aspectOf(desk, layerId);
    if (aspect === null) return null;
    return held?.layerId === layerId && held.placement
      ? placementMatrix(held.placement, aspect)
      : layerMatrix(layer, aspect, geometryId, blank.geometries);
  };
  const chosen = selected && doc.areas[areaKey]?.layers[selected] ? selected : null;
  const chosenMatrix = chosen ? matrixOf(chosen) : null;
  const corners = chosenMatrix ? unitCorners(chosenMatrix) : null;
  const outline = geometry.outline ?? `M0 0 H${geometry.widthMm} V${geometry.heightMm} H0 Z`;
  const sheetPath =
    geometry.bleedMm > 0
      ? `M${printed.left} ${printed.top} H${printed.right} V${printed.bottom} H${printed.left} Z`
      : outline;
  const safe = inset(trim, geometry.safeMm);
  const guide = dark && geometry.bleedMm === 0 ? 'rgb(255 255 255 / 0.6)' : 'rgb(34 37 43 / 0.45)';

  return (
    <svg
      ref={svg}
      role="application"
      aria-label={`${areaTitle(blank, area)}, ${geometry.widthMm} by ${geometry.heightMm} mm`}
      data-testid="surface"
      className="absolute inset-0 size-full touch-none select-none"
      viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={letGo}
      onPointerDown={() => desk.select(null)}
    >
      <defs>
        <clipPath id="sheet">
          <path d={sheetPath} />
        </clipPath>
        {/* The picture of the blank ends softly, so that it lies on the board without an edge. */}
        <linearGradient id="fade-x">
          <stop offset="0" stopColor="#000" />
          <stop offset="0.07" stopColor="#fff" />
          <stop offset="0.93" stopColor="#fff" />
          <stop offset="1" stopColor="#000" />
        </linearGradient>
        <mask id="soft" maskContentUnits="objectBoundingBox">
          <rect width={1} height={1} fill="url(#fade-x)" />
        </mask>
      </defs>
      {shot && flat ? (
        <image
          href={`/api/v1/blanks/${blank.id}/picture${color ? `?color=${color}` : ''}`}
          width={shot.widthPx}
          height={shot.heightPx}
          transform={svgMatrix(flat)}
          mask="url(#soft)"
          opacity={geometry.bleedMm > 0 ? 0.25 : 1}
        />
      ) : (
        <rect
          x={view.x + margin * 0.35}
          y={view.y + margin * 0.35}
          width={view.width - margin * 0.7}
          height={view.height - margin * 0.7}
          fill={hex}
          stroke="var(--color-hairline)"
          strokeWidth={px}
        />
      )}
      {geometry.bleedMm > 0 && <path d={sheetPath} fill="#fff" />}
      {layers.map(([id, layer]) => {
        const m = matrixOf(id);
        if (!m) return null;
        const picture = (
          <image
            href={`/api/v1/artwork/${layer.artworkId}/preview`}
            width={1}
            height={1}
            preserveAspectRatio="none"
            transform={svgMatrix(m)}
          />
        );
        return (
          <g key={id} data-layer={id}>
            {/* What is outside the area is not printed: it is shown pale. */}
            <g opacity={0.22} style={{ filter: 'grayscale(1)' }}>
              {picture}
            </g>
            <g clipPath="url(#sheet)">{picture}</g>
            <rect
              width={1}
              height={1}
              transform={svgMatrix(m)}
              fill="transparent"
              style={{ cursor: layer.locked ? 'default' : 'move' }}
              data-testid="layer"
              onPointerDown={(e) =>
                grab(e, id, 'Move', (placement, aspect, at) =>
                  moving({ placement, aspect }, at, linesOf(geometry), SNAP_PX * px),
                )
              }
            />
          </g>
        );
      })}
      <g fill="none" pointerEvents="none">
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
        {held?.label === 'Move' && held.placement && linesOf(geometry).x.includes(held.placement.xMm) && (
          <line
            x1={held.placement.xMm}
            x2={held.placement.xMm}
            y1={view.y}
            y2={view.y + view.height}
            stroke="var(--color-primary)"
            strokeWidth={px}
          />
        )}
        {held?.label === 'Move' && held.placement && linesOf(geometry).y.includes(held.placement.yMm) && (
          <line
            y1={held.placement.yMm}
            y2={held.placement.yMm}
            x1={view.x}
            x2={view.x + view.width}
            stroke="var(--color-primary)"
            strokeWidth={px}
          />
        )}
      </g>
      {chosen && chosenMatrix && corners && (
        <g>
          <polygon
            points={corners.map((p) => `${p.x},${p.y}`).join(' ')}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={1.4 * px}
            pointerEvents="none"
          />
          <TurnHandle
            corners={corners}
            px={px}
            onGrab={(e) => grab(e, chosen, 'Turn', (placement, aspect, at) => turning({ placement, aspect }, at))}
          />
          {CORNERS.map((corner) => {
            const p = cornerPoint(corner, chosen, desk, corners);
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
                onPointerDown={(e) =>
                  grab(e, chosen, 'Size', (placement, aspect) => sizing({ placement, aspect }, corner))
                }
              />
            );
          })}
        </g>
      )}
    </svg>
  );
}

/** The picture's corner that is the layer's `corner` before mirroring: a mirrored layer's handles stay where they are seen. */
function cornerPoint(
  corner: Corner,
  layerId: string,
  desk: ReturnType<typeof useDesk>,
  corners: readonly Point[],
): Point {
  const flips = desk.doc.areas[desk.areaKey]?.layers[layerId]?.placement;
  const east = corner.includes('e') !== Boolean(flips?.flipX);
  const south = corner.includes('s') !== Boolean(flips?.flipY);
  return corners[south ? (east ? 2 : 3) : east ? 1 : 0]!;
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

function isDark(hex: string): boolean {
  const n = Number.parseInt(hex.slice(1), 16);
  return 0.3 * (n >> 16) + 0.59 * ((n >> 8) & 255) + 0.11 * (n & 255) < 140;
}
