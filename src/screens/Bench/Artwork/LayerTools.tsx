'use client';

import { later } from '@/ui/later';
import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { changeLayer, duplicateLayers, placeLayer, removeLayer } from '@/bench/placing';
import { presetPlacement, presetsFor } from '@/bench/presets';
import type { Layer } from '@/core/document/document';
import { ownEntry } from '@/core/own-entry';
import { ColorField } from '@/ui/ColorField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { newId } from '@/ui/ids';
import { Select } from '@/ui/Select';
import { useDesk, useDeskNow } from '../desk';
import { moveLayer } from '../keys';
import { Arrange } from './Arrange';
import { Focus } from './Focus';
import { LayerLook } from './LayerLook';
import { aspectOf, placementInView } from './placed';
import { Versions } from './Versions';

const LetteringForm = later(() => import('./LetteringForm').then((m) => m.LetteringForm));

/** What is set of the selected layer; of several, what they have in common. */
export function LayerTools({ layerId, layer }: { layerId: string; layer: Layer }) {
  const { areaKey, selection, edit } = useDesk('areaKey', 'selection', 'edit');
  return (
    <div className="grid gap-3 px-3 py-2.5">
      <OrderTools layerId={layerId} />
      <Arrange />
      {selection.length === 1 && (
        <>
          <EntryField
            label="name"
            align="left"
            width="w-full"
            className="w-full"
            text={layer.name}
            read={(typed) => {
              const name = typed.trim().slice(0, 120);
              if (name === '') throw new Error('A layer needs a name.');
              edit('Name', (d) => changeLayer(d, areaKey, layerId, (l) => ({ ...l, name })));
            }}
          />
          {!layer.locked && <UsualPlaces layerId={layerId} />}
          <LayerLook layerId={layerId} layer={layer} />
          {layer.kind === 'text' && <LetteringForm layerId={layerId} layer={layer} />}
          {layer.kind === 'ornament' && (
            <ColorField
              label="color"
              value={layer.color}
              onChange={(color) =>
                edit(
                  'Color',
                  (d) => changeLayer(d, areaKey, layerId, (l) => (l.kind === 'ornament' ? { ...l, color } : l)),
                  `color:${layerId}`,
                )
              }
            />
          )}
          {layer.fit === 'fill' && <Focus layerId={layerId} layer={layer} />}
          <Versions layerId={layerId} layer={layer} />
        </>
      )}
    </div>
  );
}

/** Up, down, a copy, away: of all that are selected. */
function OrderTools({ layerId }: { layerId: string }) {
  const { areaKey, selection, edit, select } = useDesk('areaKey', 'selection', 'edit', 'select');
  const now = useDeskNow();
  const remove = () => {
    edit(selection.length > 1 ? `Delete ${selection.length} layers` : 'Delete layer', (d) =>
      selection.reduce((next, id) => removeLayer(next, areaKey, id), d),
    );
    select(null);
  };
  return (
    <div className="flex items-center" role="group" aria-label="Layer">
      <IconButton name="Layer down" title="Layer down ([)" onClick={() => moveLayer(now(), layerId, -1)}>
        <ArrowDown size={15} aria-hidden />
      </IconButton>
      <IconButton name="Layer up" title="Layer up (])" onClick={() => moveLayer(now(), layerId, 1)}>
        <ArrowUp size={15} aria-hidden />
      </IconButton>
      <IconButton
        name="Duplicate"
        title="Duplicate (Ctrl+D)"
        onClick={() => edit('Duplicate', (d) => duplicateLayers(d, areaKey, selection, () => newId()))}
      >
        <Copy size={15} aria-hidden />
      </IconButton>
      <IconButton name="Delete layer" title="Delete (Delete key)" onClick={remove}>
        <Trash2 size={15} aria-hidden />
      </IconButton>
      <span className="ml-auto text-tiny text-muted">{selection.length > 1 && `${selection.length} selected`}</span>
    </div>
  );
}

/** The places where this good usually has its print. */
function UsualPlaces({ layerId }: { layerId: string }) {
  const { data, areaKey, geometryId } = useDesk('data', 'areaKey', 'geometryId');
  const now = useDeskNow();
  const area = data.blank.areas.find((one) => one.key === areaKey)!;
  const geometry = ownEntry(data.blank.geometries, geometryId)!;
  const presets = presetsFor(area, geometry);
  if (presets.length === 0) return null;
  const placePreset = (code: string) => {
    const desk = now();
    const preset = presets.find((one) => one.code === code);
    const placement = placementInView(desk, layerId);
    const aspect = aspectOf(desk, layerId);
    if (!preset || !placement || !aspect) return;
    desk.edit(preset.name, (d) =>
      placeLayer(d, areaKey, layerId, geometryId, presetPlacement(preset, geometry, aspect, placement)),
    );
  };
  return (
    <Select
      label="Place"
      value=""
      choices={[{ value: '', name: 'at a usual place' }, ...presets.map(({ code, name }) => ({ value: code, name }))]}
      onChange={placePreset}
    />
  );
}
