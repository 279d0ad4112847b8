'use client';

import { ArrowDown, ArrowUp, Crosshair, Eye, EyeOff, FlipHorizontal2, Trash2 } from 'lucide-react';
import { changeLayer, placeLayer, removeLayer } from '@/bench/placing';
import { FITS, layerMatrix, type Fit } from '@/core/geometry/fit';
import { effectiveDpi, normalizeDegrees, placementMatrix, type Placement } from '@/core/geometry/placement';
import { inOrder } from '@/core/order/order';
import { parseLengthMm } from '@/core/units/length';
import { useSyncExternalStore } from 'react';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { moveLayer, toggleHidden } from '../keys';
import { aspectOf, placementInView } from './placed';

const FIT_NAMES: Record<Fit, string> = { fill: 'fill, crop', fit: 'fit, border', stretch: 'stretch', keep: 'keep mm' };

/** The selected layer in numbers, and the area's layers to select from. */
export function LayerBar() {
  const desk = useDesk();
  const { doc, areaKey, geometryId, selected, select, data } = desk;
  const layers = inOrder(doc.areas[areaKey]?.layers ?? {});
  const layer = selected ? doc.areas[areaKey]?.layers[selected] : undefined;
  if (layers.length === 0) return <div className="h-[38px] shrink-0 border-t border-hairline bg-paper" />;
  return (
    <div className="shrink-0 border-t border-hairline bg-paper px-4 py-2 grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-x-5 gap-y-2">
      <span className="flex items-baseline gap-3 min-w-0 overflow-hidden" role="group" aria-label="Layers">
        {layers.map(([id, entry]) => (
          <button
            key={id}
            type="button"
            aria-pressed={id === selected}
            onClick={() => select(id === selected ? null : id)}
            className={`text-small truncate max-w-36 ${id === selected ? 'font-semibold border-b border-primary' : 'text-muted hover:text-ink'} ${entry.hidden ? 'line-through' : ''}`}
          >
            {entry.name || 'Layer'}
          </button>
        ))}
      </span>
      {selected && layer ? (
        <Numbers key={`${selected}/${geometryId}`} layerId={selected} fit={layer.fit} hidden={layer.hidden} />
      ) : (
        <span className="col-span-2 text-small text-muted">
          Select a layer to place it by numbers. {data.blank.geometries[geometryId]!.dpi} DPI wanted.
        </span>
      )}
    </div>
  );
}

function Numbers({ layerId, fit, hidden }: { layerId: string; fit: Fit; hidden: boolean }) {
  const desk = useDesk();
  const { data, doc, areaKey, geometryId, artworks } = desk;
  const live = useSyncExternalStore(desk.live.subscribe, desk.live.get, desk.live.get);
  const moving = live?.layerId === layerId ? live.placement : null;
  const placement = moving ?? placementInView(desk, layerId);
  const aspect = aspectOf(desk, layerId);
  if (!placement || aspect === null)
    return <span className="text-small text-muted">The artwork is being looked at.</span>;
  const geometry = data.blank.geometries[geometryId]!;
  const layer = doc.areas[areaKey]!.layers[layerId]!;
  const facts = artworks.find((artwork) => artwork.id === layer.artworkId)!.facts!;
  const dpi = facts.vector
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
  const length = (name: 'xMm' | 'yMm' | 'widthMm', label: string) => (
    <EntryField
      label={label}
      width="w-[74px]"
      text={`${placement[name].toFixed(1)} mm`}
      read={(typed) => {
        const mm = round(parseLengthMm(typed, { dpi: geometry.dpi }));
        if (name === 'widthMm' && !(mm >= 1 && mm <= 10_000)) throw new Error('A width must be from 1 mm to 10 m.');
        if (Math.abs(mm) > 10_000) throw new Error('That is more than 10 m away.');
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
      <span className="col-span-3 row-start-2 flex items-baseline gap-4">
        {length('xMm', 'x')}
        {length('yMm', 'y')}
        {length('widthMm', 'wide')}
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
        <Select
          label="fit"
          value={fit}
          choices={FITS.map((value) => ({ value, name: FIT_NAMES[value] }))}
          onChange={(value) =>
            desk.edit('Set fit', (d) => changeLayer(d, areaKey, layerId, (l) => ({ ...l, fit: value })))
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
        <IconButton name="Layer down" title="Layer down ([)" onClick={() => moveLayer(desk, layerId, -1)}>
          <ArrowDown size={16} aria-hidden />
        </IconButton>
        <IconButton name="Layer up" title="Layer up (])" onClick={() => moveLayer(desk, layerId, 1)}>
          <ArrowUp size={16} aria-hidden />
        </IconButton>
        <IconButton
          name={hidden ? 'Show layer' : 'Hide layer'}
          title={hidden ? 'Show layer' : 'Hide layer'}
          onClick={() => toggleHidden(desk, layerId)}
        >
          {hidden ? <EyeOff size={16} aria-hidden /> : <Eye size={16} aria-hidden />}
        </IconButton>
        <IconButton
          name="Take layer away"
          title="Take away (Delete)"
          onClick={() => {
            desk.edit('Take layer away', (d) => removeLayer(d, areaKey, layerId));
            desk.select(null);
          }}
        >
          <Trash2 size={16} aria-hidden />
        </IconButton>
      </span>
      <span
        className={`ml-auto text-small font-medium whitespace-nowrap ${dpi === null || dpi >= geometry.dpi ? 'text-kept' : dpi >= (geometry.dpi * 2) / 3 ? 'text-ink' : dpi >= geometry.dpi / 3 ? 'text-caution' : 'text-stop'}`}
        data-testid="dpi"
      >
        {dpi === null ? 'vector' : `${dpi} DPI`}
      </span>
    </>
  );
}
