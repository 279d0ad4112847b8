'use client';

import { FindingMarks } from './FindingMarks';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { moving } from '@/bench/gestures/moving';
import { sizing } from '@/bench/gestures/sizing';
import { turning } from '@/bench/gestures/turning';
import { linesOf, linesUnder } from '@/bench/snapping';
import { WHOLE, windowOf, zoomAt, type View } from '@/bench/viewing';
import { areaTitle, colorOption, geometryIdFor } from '@/core/catalog/blank';
import { printedBox, trimBox } from '@/core/geometry/area';
import { inset, unitCorners, type Box } from '@/core/geometry/box';
import { layerMatrix } from '@/core/geometry/fit';
import { placedBox, placementMatrix } from '@/core/geometry/placement';
import { inOrder } from '@/core/order/order';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';
import { Frame, Handles } from './Handles';
import { LayerPicture, TintFilters } from './LayerPicture';
import { aspectOf, svgMatrix } from './placed';
import { Rulers } from './Rulers';
import { frameOf, useGestures } from './use-gestures';
import { ViewBar } from './ViewBar';

const SNAP_PX = 7;

/** The area in view, in mm: the blank behind it where it is seen flat, trim, bleed and safe margin, and the layers with handles. */
export function Surface() {
  const desk = useDesk();
  const { data, doc, areaKey, geometryId, color, letterings } = desk;
  const svg = useRef<SVGSVGElement>(null);
  const [size, setSize] = useState({ width: 800, height: 600 });
  // The view belongs to the shape that is shown: another one is seen whole first.
  const [looked, setLooked] = useState<{ of: string; view: View }>({ of: geometryId, view: WHOLE });
  const view = looked.of === geometryId ? looked.view : WHOLE;
  const setView = (change: (view: View) => View) => setLooked({ of: geometryId, view: change(view) });
  const [unit, setUnit] = useState<'cm' | 'in'>('cm');
  useLayoutEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    observer.observe(svg.current!);
    return () => observer.disconnect();
  }, []);

  const { blank } = data;
  const area = blank.areas.find((a) => a.key === areaKey)!;
  const geometry = ownEntry(blank.geometries, geometryId)!;
  const printed = printedBox(geometry);
  const trim = trimBox(geometry);
  const shot = data.shots.find((s) => {
    const shown = ownEntry(s.areas, areaKey);
    return shown?.flat && geometryIdFor(area, shown.variant) === geometryId;
  });
  const flat = ownEntry(shot?.areas, areaKey)?.flat;
  // Room around the sheet: more where there is a blank to be seen around it.
  const margin = Math.max(trim.right, trim.bottom) * (flat && geometry.bleedMm === 0 ? 0.34 : 0.09);
  const room = inset(printed, -margin);
  const win = windowOf(view, room, size);
  const px = 1 / win.pxPerMm;
  const hex = colorOption(blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff';
  const dark = isDark(hex);

  const pan = useCallback(
    (dx: number, dy: number) =>
      setLooked((before) => {
        const from = before.of === geometryId ? before.view : WHOLE;
        return { of: geometryId, view: { ...from, panX: from.panX + dx, panY: from.panY + dy } };
      }),
    [geometryId],
  );
  const { held, grab, press, move, release, letGo, placementNow } = useGestures(desk, svg, pan);
  const onWheel = (e: WheelEvent) => {
    // Else the browser would zoom the whole page, or scroll it.
    e.preventDefault();
    if (!e.ctrlKey && !e.metaKey) return pan(e.deltaX * px, e.deltaY * px);
    const bounds = svg.current!.getBoundingClientRect();
    const at = { x: win.left + (e.clientX - bounds.left) * px, y: win.top + (e.clientY - bounds.top) * px };
    setView((before) => zoomAt(before, Math.exp(-e.deltaY / 300), at, room));
  };

  const latestWheel = useRef(onWheel);
  useEffect(() => {
    latestWheel.current = onWheel;
  });
  useEffect(() => {
    // React listens passively to wheels, and a passive listener cannot hold the browser back.
    const listen = (e: WheelEvent) => latestWheel.current(e);
    const element = svg.current!;
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, []);

  const all = ownEntry(doc.areas, areaKey)?.layers ?? {};
  const layers = inOrder(all).filter(([, layer]) => !layer.hidden);
  const matrixOf = (layerId: string) => {
    const aspect = aspectOf(desk, layerId);
    if (aspect === null) return null;
    const now = placementNow(layerId);
    return now
      ? placementMatrix(now, aspect)
      : layerMatrix(ownEntry(all, layerId)!, aspect, geometryId, blank.geometries);
  };
  const boxOf = (layerId: string): Box | null => {
    const m = matrixOf(layerId);
    return m && placedBox(m);
  };
  const linesFor = (layerId: string) =>
    linesOf(
      geometry,
      layers.flatMap(([id]) => (id === layerId || desk.selection.includes(id) ? [] : (boxOf(id) ?? []))),
    );
  const selection = desk.selection.filter((id) => ownEntry(all, id)?.hidden === false);
  const chosen = selection.at(-1) ?? null;
  const chosenMatrix = chosen ? matrixOf(chosen) : null;
  const outline = geometry.outline ?? `M0 0 H${geometry.widthMm} V${geometry.heightMm} H0 Z`;
  const sheetPath =
    geometry.bleedMm > 0
      ? `M${printed.left} ${printed.top} H${printed.right} V${printed.bottom} H${printed.left} Z`
      : outline;
  const safe = inset(trim, geometry.safeMm);
  const guide = dark && geometry.bleedMm === 0 ? 'rgb(255 255 255 / 0.6)' : 'rgb(34 37 43 / 0.45)';
  const snapped =
    held?.kind === 'layer' && held.label === 'Move' && held.placement
      ? linesUnder(boxOf(held.layerId)!, linesFor(held.layerId))
      : null;
  const lookOf = (layerId: string) => (color === null ? undefined : ownEntry(ownEntry(all, layerId)?.versions, color));
  const frame = held?.kind === 'frame' ? frameOf(held) : null;

  return (
    <>
      <svg
        ref={svg}
        role="application"
        aria-label={`${areaTitle(blank, area)}, ${geometry.widthMm} by ${geometry.heightMm} mm`}
        data-testid="surface"
        className="absolute inset-0 size-full touch-none select-none"
        viewBox={`${win.left} ${win.top} ${win.widthMm} ${win.heightMm}`}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={letGo}
        onPointerDown={press}
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
          <TintFilters tints={layers.flatMap(([id]) => lookOf(id)?.tint ?? [])} />
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
            x={printed.left - margin * 0.65}
            y={printed.top - margin * 0.65}
            width={printed.right - printed.left + margin * 1.3}
            height={printed.bottom - printed.top + margin * 1.3}
            fill={hex}
            stroke="var(--color-hairline)"
            strokeWidth={px}
          />
        )}
        {geometry.bleedMm > 0 && <path d={sheetPath} fill="#fff" />}
        {layers.map(([id, layer]) => {
          const m = matrixOf(id);
          if (!m) return null;
          const look = lookOf(id);
          const picture = (
            <LayerPicture
              layer={layer}
              set={ownEntry(letterings, id)}
              matrix={m}
              pxPerMm={win.pxPerMm}
              artworkId={look?.artworkId ?? null}
              tint={look?.tint ?? null}
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
                pointerEvents={layer.locked ? 'none' : undefined}
                style={{ cursor: 'move' }}
                data-testid="layer"
                onPointerDown={(e) =>
                  grab(e, id, 'Move', (placement, aspect, at) =>
                    moving({ placement, aspect }, at, linesFor(id), SNAP_PX * px),
                  )
                }
              />
            </g>
          );
        })}
        <g fill="none" pointerEvents="none">
          {geometry.bleedMm > 0 && (
            <path d={sheetPath} stroke="var(--color-stop)" strokeWidth={px} strokeOpacity={0.7} />
          )}
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
          {snapped && (
            <g stroke="var(--color-primary)" strokeWidth={px}>
              {snapped.x.map((x) => (
                <line key={`x${x}`} x1={x} x2={x} y1={win.top} y2={win.top + win.heightMm} />
              ))}
              {snapped.y.map((y) => (
                <line key={`y${y}`} y1={y} y2={y} x1={win.left} x2={win.left + win.widthMm} />
              ))}
            </g>
          )}
          {frame && (
            <rect
              x={frame.left}
              y={frame.top}
              width={frame.right - frame.left}
              height={frame.bottom - frame.top}
              stroke="var(--color-primary)"
              strokeWidth={px}
              fill="var(--color-selection)"
              fillOpacity={0.35}
            />
          )}
          {selection.slice(0, -1).map((id) => {
            const m = matrixOf(id);
            return m && <Frame key={id} corners={unitCorners(m)} px={px} dashed />;
          })}
        </g>
        {held === null && (
          <FindingMarks
            findings={desk.findings.filter((one) => one.areaKey === areaKey && !desk.acceptances.of(one))}
            geometryId={geometryId}
            boxOf={(layerId) => (ownEntry(all, layerId)?.hidden ? null : boxOf(layerId))}
            px={px}
          />
        )}
        {chosen && chosenMatrix && !ownEntry(all, chosen)!.locked && (
          <Handles
            corners={unitCorners(chosenMatrix)}
            flipX={ownEntry(all, chosen)!.placement.flipX}
            flipY={ownEntry(all, chosen)!.placement.flipY}
            px={px}
            onSize={(e, corner) =>
              grab(e, chosen, 'Size', (placement, aspect) => sizing({ placement, aspect }, corner))
            }
            onTurn={(e) => grab(e, chosen, 'Turn', (placement, aspect, at) => turning({ placement, aspect }, at))}
          />
        )}
      </svg>
      <Rulers window={win} unit={unit} />
      <ViewBar
        zoom={view.zoom}
        unit={unit}
        onUnit={setUnit}
        onWhole={() => setView(() => WHOLE)}
        onZoom={(factor) =>
          setView((before) =>
            zoomAt(before, factor, { x: win.left + win.widthMm / 2, y: win.top + win.heightMm / 2 }, room),
          )
        }
      />
    </>
  );
}

function isDark(hex: string): boolean {
  const n = Number.parseInt(hex.slice(1), 16);
  return 0.3 * (n >> 16) + 0.59 * ((n >> 8) & 255) + 0.11 * (n & 255) < 140;
}
