'use client';

import { Crosshair, FlipHorizontal2, FlipVertical2 } from 'lucide-react';
import { placeLayer } from '@/bench/placing';
import { layerMatrix } from '@/core/geometry/fit';
import { effectiveDpi, normalizeDegrees, placementMatrix, type Placement } from '@/core/geometry/placement';
import { parseLengthMm } from '@/core/units/length';
import { ownEntry } from '@/core/own-entry';
import { useSyncExternalStore } from 'react';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from '../desk';
import { aspectOf, placementInView } from './placed';

/** The selected layer in numbers. */
export function LayerBar() {
  const { doc, areaKey, geometryId, selected, selection, data } = useDesk();
  const layer = selected ? ownEntry(ownEntry(doc.areas, areaKey)?.layers, selected) : undefined;
  const empty = Object.keys(ownEntry(doc.areas, areaKey)?.layers ?? {}).length === 0;
  return (
    <div className="flex min-h-[40px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t py-1 border-hairline bg-paper px-4">
      {selected && layer && selection.length === 1 ? (
        <Numbers key={`${selected}/${geometryId}`} layerId={selected} />
      ) : (
        !empty && (
          <span className="text-small text-muted">
            {selection.length > 1
              ? `${selection.length} layers are selected; arrows and the mouse move them together.`
              : `Select a layer to place it by numbers. ${ownEntry(data.blank.geometries, geometryId)!.dpi} DPI wanted.`}
          </span>
        )
      )}
    </div>
  );
}

function Numbers({ layerId }: { layerId: string }) {
  const desk = useDesk();
  const { data, doc, areaKey, geometryId, artworks } = desk;
  const live = useSyncExternalStore(desk.live.subscribe, desk.live.get, desk.live.get);
  const moving = live?.layerId === layerId ? live.placement : null;
  const placement = moving ?? placementInView(desk, layerId);
  const aspect = aspectOf(desk, layerId);
  if (!placement || aspect === null)
    return <span className="text-small text-muted">The artwork is being processed.</span>;
  const geometry = ownEntry(data.blank.geometries, geometryId)!;
  const layer = ownEntry(ownEntry(doc.areas, areaKey)!.layers, layerId)!;
  const facts =
    layer.kind === 'artwork' ? (artworks.find((artwork) => artwork.id === layer.artworkId)?.facts ?? null) : null;
  const dpi =
    facts === null || facts.vector
      ? null
      : Math.round(
          effectiveDpi(
            moving ? placementMatrix(moving, aspect) : layerMatrix(layer, aspect, geometryId, data.blank.geometries),
            facts.widthPx,
            facts.heightPx,
          ),
        );
  const put = (label: string, part: Partial<Placement>, key?: string) =>
    desk.edit(label, (d) => placeLayer(d, areaKey, layerId, geometryId, { ...placement, ...part }), key);
  const round = (v: number) => Math.round(v * 1000) / 1000;
  const setWidth = (label: string, mm: number, key?: string) => {
    if (!(mm >= 1 && mm * Math.max(1, aspect) <= 10_000)) throw new Error('It must be from 1 mm to 10 m.');
    put(label, { widthMm: round(mm) }, key);
  };
  /** Whether something of the layer's size can be seen with its middle here. */
  const nearSheet = (sideMm: number, mm: number) => {
    const reach = placement.widthMm * Math.hypot(1, aspect);
    return mm > -reach && mm < sideMm + reach;
  };
  const length = (name: 'xMm' | 'yMm' | 'widthMm', label: string) => (
    <EntryField
      label={label}
      width="w-[74px]"
      text={`${placement[name].toFixed(1)} mm`}
      read={(typed) => {
        const mm = round(
          parseLengthMm(typed, {
            dpi: geometry.dpi,
            wholeMm: name === 'yMm' ? geometry.heightMm : geometry.widthMm,
          }),
        );
        if (name === 'widthMm') return setWidth('Set width', mm);
        if (!nearSheet(name === 'yMm' ? geometry.heightMm : geometry.widthMm, mm))
          throw new Error('There it would lie wholly outside of the sheet.');
        put(`Set ${label}`, { [name]: mm });
      }}
      step={(by) =>
        put(
          `Step ${label}`,
          { [name]: round(name === 'widthMm' ? Math.max(1, placement[name] + by) : placement[name] + by) },
          `step:${name}:${layerId}`,
        )
      }
    />
  );
  return (
    <>
      <span className="flex flex-wrap items-baseline gap-x-3.5 gap-y-1">
        {length('xMm', 'x')}
        {length('yMm', 'y')}
        {length('widthMm', 'width')}
        <EntryField
          label="height"
          width="w-[74px]"
          text={`${(placement.widthMm * aspect).toFixed(1)} mm`}
          read={(typed) => {
            const mm = parseLengthMm(typed, { dpi: geometry.dpi, wholeMm: geometry.heightMm });
            setWidth('Set height', mm / aspect);
          }}
          step={(by) => setWidth('Step height', placement.widthMm + by / aspect, `step:heightMm:${layerId}`)}
        />
        <EntryField
          label="turn"
          width="w-14"
          text={`${placement.rotationDeg.toFixed(1)}°`}
          read={(typed) => {
            const degrees = Number(typed.replace('°', '').replace(',', '.').trim());
            if (!Number.isFinite(degrees) || typed.trim() === '')
              throw new Error(`“${typed}” is not a number of degrees, such as 15 or −7.5.`);
            put('Set turn', { rotationDeg: normalizeDegrees(degrees) });
          }}
          step={(by) =>
            put('Step turn', { rotationDeg: normalizeDegrees(placement.rotationDeg + by) }, `step:turn:${layerId}`)
          }
        />
      </span>
      <span className="flex items-center gap-1">
        <IconButton
          name="Center"
          title="Center (C)"
          onClick={() => put('Center', { xMm: geometry.widthMm / 2, yMm: geometry.heightMm / 2 })}
        >
          <Crosshair size={16} aria-hidden />
        </IconButton>
        <IconButton
          name="Mirror"
          title="Mirror left to right"
          onClick={() =>
            desk.edit('Mirror', (d) =>
              placeLayer(d, areaKey, layerId, geometryId, { ...placement, flipX: !placement.flipX }),
            )
          }
        >
          <FlipHorizontal2 size={16} aria-hidden />
        </IconButton>
        <IconButton
          name="Mirror top to bottom"
          onClick={() =>
            desk.edit('Mirror', (d) =>
              placeLayer(d, areaKey, layerId, geometryId, { ...placement, flipY: !placement.flipY }),
            )
          }
        >
          <FlipVertical2 size={16} aria-hidden />
        </IconButton>
      </span>
      <span
        className={`ml-auto text-small font-medium whitespace-nowrap ${dpi === null || dpi >= geometry.dpi ? 'text-kept' : dpi >= (geometry.dpi * 2) / 3 ? 'text-ink' : dpi >= geometry.dpi / 3 ? 'text-caution' : 'text-stop'}`}
        data-testid="dpi"
      >
        {dpi === null ? 'vector' : `${dpi} DPI`}
        {dpi !== null && dpi < geometry.dpi && <span className="text-muted"> of {geometry.dpi}</span>}
      </span>
    </>
  );
}
