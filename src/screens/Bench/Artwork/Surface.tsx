'use client';

import { laterInBrowser } from '@/ui/later';
import { useCallback, useEffect, useRef, useState } from 'react';
import { sizing } from '@/bench/gestures/sizing';
import { turning } from '@/bench/gestures/turning';
import { moving } from '@/bench/gestures/moving';
import { linesOf, linesUnder } from '@/bench/snapping';
import { areaTitle, colorOption, geometryIdFor } from '@/core/catalog/blank';
import type { Layer } from '@/core/document/document';
import { printedBox, trimBox } from '@/core/geometry/area';
import { inset, unitCorners, type Box } from '@/core/geometry/box';
import { layerMatrix } from '@/core/geometry/fit';
import type { Matrix } from '@/core/geometry/matrix';
import { placedBox, placementMatrix } from '@/core/geometry/placement';
import { inOrder } from '@/core/order-key';
import { ownEntry } from '@/core/own-entry';
import { useDesk, type Desk } from '../desk';
import { Ground } from './Ground';
import { Guides } from './Guides';
import { Frame, Handles } from './Handles';
import { TintFilters } from './LayerPicture';
import { SelectingFrame, SnapLines } from './Marks';
import { aspectOf } from './placed';
import { Rulers } from './Rulers';
import { SurfaceLayer } from './SurfaceLayer';
import { frameOf, useGestures } from './use-gestures';
import { useView } from './use-view';
import { useViewKeys } from './use-view-keys';
import { ViewBar } from './ViewBar';

// Findings come later than the layers: a worker looks for them.
const FindingMarks = laterInBrowser(() => import('./FindingMarks').then((m) => m.FindingMarks));

const SNAP_PX = 7;

/** What is known of the area in view: its sheet, its ground and the color of the good. */
function areaInView({ data, areaKey, geometryId, color }: Pick<Desk, 'data' | 'areaKey' | 'geometryId' | 'color'>) {
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
  const outline = geometry.outline ?? `M0 0 H${geometry.widthMm} V${geometry.heightMm} H0 Z`;
  const sheetPath =
    geometry.bleedMm > 0
      ? `M${printed.left} ${printed.top} H${printed.right} V${printed.bottom} H${printed.left} Z`
      : outline;
  const hex = colorOption(blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff';
  return { area, geometry, printed, shot, flat, margin, room: inset(printed, -margin), outline, sheetPath, hex };
}

/** The layers of the area as they lie just now, one that is being moved included. */
function useLying(
  desk: Pick<Desk, 'designed' | 'areaKey' | 'geometryId' | 'data' | 'artworkSizes'>,
  placementNow: ReturnType<typeof useGestures>['placementNow'],
) {
  const { designed, areaKey, geometryId, data } = desk;
  const all: { readonly [id: string]: Layer } = ownEntry(designed.areas, areaKey)?.layers ?? {};
  const layers = inOrder(all).filter(([, layer]) => !layer.hidden);
  const matrixOf = (layerId: string): Matrix | null => {
    const aspect = aspectOf(desk, layerId);
    if (aspect === null) return null;
    const now = placementNow(layerId);
    return now
      ? placementMatrix(now, aspect)
      : layerMatrix(ownEntry(all, layerId)!, aspect, geometryId, data.blank.geometries);
  };
  const boxOf = (layerId: string): Box | null => {
    const m = matrixOf(layerId);
    return m && placedBox(m);
  };
  return { all, layers, matrixOf, boxOf };
}

/** The same function for as long as the component is there; it does what the newest one would. */
function useSteady<A extends unknown[]>(act: (...args: A) => void): (...args: A) => void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}

/** The area in view, in mm: the blank behind it where it is seen flat, trim, bleed and safe margin, and the layers with handles. */
export function Surface() {
  const desk = useDesk('data', 'areaKey', 'geometryId', 'color', 'selection', 'artworkSizes', 'designed');
  const { data, areaKey, geometryId, color } = desk;
  const svg = useRef<SVGSVGElement>(null);
  const [unit, setUnit] = useState<'cm' | 'in'>('cm');
  const { area, geometry, printed, shot, flat, margin, room, outline, sheetPath, hex } = areaInView(desk);
  const { window, px, pan, zoom, zoomBy, seeWhole } = useView(svg, geometryId, room);
  useViewKeys({ window, pan, zoomBy, seeWhole });
  const { held, grab, press, move, release, letGo, placementNow } = useGestures(svg, pan);
  const { all, layers, matrixOf, boxOf } = useLying(desk, placementNow);
  const linesFor = (layerId: string) =>
    linesOf(
      geometry,
      layers.flatMap(([id]) => (id === layerId || desk.selection.includes(id) ? [] : (boxOf(id) ?? []))),
    );
  const onGrab = useSteady((e: React.PointerEvent, id: string) =>
    grab(e, id, 'Move', (placement, aspect, at) => moving({ placement, aspect }, at, linesFor(id), SNAP_PX * px)),
  );
  const selection = desk.selection.filter((id) => ownEntry(all, id)?.hidden === false);
  const chosen = selection.at(-1) ?? null;
  const chosenMatrix = chosen ? matrixOf(chosen) : null;
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
        tabIndex={0}
        data-layer-keys
        aria-label={`${areaTitle(data.blank, area)}, ${geometry.widthMm} by ${geometry.heightMm} mm`}
        data-testid="surface"
        className="absolute left-[18px] top-[18px] h-[calc(100%-18px)] w-[calc(100%-18px)] touch-none select-none outline-offset-[-2px]!"
        viewBox={`${window.left} ${window.top} ${window.widthMm} ${window.heightMm}`}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={letGo}
        onPointerDown={press}
      >
        <defs>
          <clipPath id="sheet">
            <path d={sheetPath} />
          </clipPath>
          <TintFilters tints={layers.flatMap(([id]) => lookOf(id)?.tint ?? [])} />
        </defs>
        <Ground blankId={data.blank.id} {...{ shot, flat, color, hex, geometry, printed, margin, px }} />
        {geometry.bleedMm > 0 && <path d={sheetPath} fill="#fff" />}
        <Layers layers={layers} matrixOf={matrixOf} lookOf={lookOf} pxPerMm={window.pxPerMm} onGrab={onGrab} />
        <Lines
          {...{ outline, sheetPath, geometry, window, px, snapped, frame }}
          edges={area.edges}
          dark={isDark(hex)}
          others={selection.slice(0, -1).flatMap((id) => matrixOf(id) ?? [])}
        />
        {held === null && (
          <FindingMarks
            areaKey={areaKey}
            geometryId={geometryId}
            boxOf={(layerId) => (ownEntry(all, layerId)?.hidden ? null : boxOf(layerId))}
            px={px}
          />
        )}
        {chosen && chosenMatrix && (
          <ChosenHandles layerId={chosen} layer={ownEntry(all, chosen)!} matrix={chosenMatrix} px={px} grab={grab} />
        )}
      </svg>
      <Rulers window={window} unit={unit} />
      <ViewBar zoom={zoom} unit={unit} onUnit={setUnit} onWhole={seeWhole} onZoom={zoomBy} />
    </>
  );
}

/** The layers from the lowest to the topmost. */
function Layers({
  layers,
  matrixOf,
  lookOf,
  pxPerMm,
  onGrab,
}: {
  layers: readonly (readonly [string, Layer])[];
  matrixOf: (layerId: string) => Matrix | null;
  lookOf: (layerId: string) => React.ComponentProps<typeof SurfaceLayer>['look'];
  pxPerMm: number;
  onGrab: React.ComponentProps<typeof SurfaceLayer>['onGrab'];
}) {
  const { letterings } = useDesk('letterings');
  return layers.map(([id, layer]) => {
    const matrix = matrixOf(id);
    return (
      matrix && (
        <SurfaceLayer
          key={id}
          id={id}
          layer={layer}
          set={ownEntry(letterings, id)}
          matrix={matrix}
          pxPerMm={pxPerMm}
          look={lookOf(id)}
          onGrab={onGrab}
        />
      )
    );
  });
}

/** What is drawn over the layers and takes no pointer: guides, what a layer snaps to, the frame that selects, the other selected layers. */
function Lines({
  snapped,
  frame,
  others,
  ...guides
}: React.ComponentProps<typeof Guides> & {
  snapped: ReturnType<typeof linesUnder> | null;
  frame: Box | null;
  others: readonly Matrix[];
}) {
  const { window, px } = guides;
  return (
    <g fill="none" pointerEvents="none">
      <Guides {...guides} />
      {snapped && <SnapLines lines={snapped} window={window} px={px} />}
      {frame && <SelectingFrame box={frame} px={px} />}
      {others.map((matrix, i) => (
        <Frame key={i} corners={unitCorners(matrix)} px={px} dashed />
      ))}
    </g>
  );
}

/** Handles of the layer that numbers speak of; none while it is locked. */
function ChosenHandles({
  layerId,
  layer,
  matrix,
  px,
  grab,
}: {
  layerId: string;
  layer: Layer;
  matrix: Matrix;
  px: number;
  grab: ReturnType<typeof useGestures>['grab'];
}) {
  if (layer.locked) return null;
  return (
    <Handles
      corners={unitCorners(matrix)}
      flipX={layer.placement.flipX}
      flipY={layer.placement.flipY}
      px={px}
      onSize={(e, corner) => grab(e, layerId, 'Size', (placement, aspect) => sizing({ placement, aspect }, corner))}
      onTurn={(e) => grab(e, layerId, 'Turn', (placement, aspect, at) => turning({ placement, aspect }, at))}
    />
  );
}

function isDark(hex: string): boolean {
  const n = Number.parseInt(hex.slice(1), 16);
  return 0.3 * (n >> 16) + 0.59 * ((n >> 8) & 255) + 0.11 * (n & 255) < 140;
}
