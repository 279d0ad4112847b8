'use client';

import dynamic from 'next/dynamic';
import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { changeLayer, duplicateLayers, placeLayer, removeLayer } from '@/bench/placing';
import { presetPlacement, presetsFor } from '@/bench/presets';
import { inOrder } from '@/core/order/order';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { ColorField } from '@/ui/ColorField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { moveLayer } from '../keys';
import { Arrange } from './Arrange';
import { CopyMenu } from './CopyMenu';
import { Focus } from './Focus';
import { LayerLook } from './LayerLook';
import { LayerRow } from './LayerRow';
import { aspectOf, placementInView } from './placed';
import { Versions } from './Versions';
import { newId } from '@/ui/ids';

const LetteringForm = dynamic(() => import('./LetteringForm').then((m) => m.LetteringForm));
const Threads = dynamic(() => import('./Threads').then((m) => m.Threads));

/** The layers of the area in view, the topmost first, and what is set of the selected one. */
export function LayersPanel({
  open,
  onArtwork,
  onText,
  onOrnaments,
}: {
  /** Whether it lies over the surface: only where the window is narrow. */
  open: boolean;
  onArtwork: () => void;
  onText: () => void;
  onOrnaments: () => void;
}) {
  const desk = useDesk();
  const { doc, areaKey, selection, selected, data, geometryId } = desk;
  const layers = inOrder(ownEntry(doc.areas, areaKey)?.layers ?? {}).reverse();
  const layer = selected ? ownEntry(ownEntry(doc.areas, areaKey)?.layers, selected) : undefined;
  const area = data.blank.areas.find((one) => one.key === areaKey)!;
  const geometry = ownEntry(data.blank.geometries, geometryId)!;
  const presets = presetsFor(area, geometry);
  const placePreset = (code: string) => {
    const preset = presets.find((one) => one.code === code);
    const placement = selected && placementInView(desk, selected);
    const aspect = selected && aspectOf(desk, selected);
    if (!preset || !placement || !aspect) return;
    desk.edit(preset.name, (d) =>
      placeLayer(d, areaKey, selected, geometryId, presetPlacement(preset, geometry, aspect, placement)),
    );
  };
  const remove = () => {
    desk.edit(selection.length > 1 ? `Delete ${selection.length} layers` : 'Delete layer', (d) =>
      selection.reduce((next, id) => removeLayer(next, areaKey, id), d),
    );
    desk.select(null);
  };
  return (
    <aside
      aria-label="Layers"
      data-layer-keys
      className={`w-[236px] shrink-0 overflow-auto border-l border-hairline bg-paper text-small max-[900px]:absolute max-[900px]:inset-y-0 max-[900px]:right-0 max-[900px]:z-20 max-[900px]:border-ink ${open ? '' : 'max-[900px]:hidden'}`}
    >
      <div className="grid grid-cols-2 gap-1.5 border-b border-hairline p-2">
        <Button className="px-1.5!" onClick={onArtwork}>
          Add artwork …
        </Button>
        <Button className="px-1.5!" onClick={onText}>
          Add text
        </Button>
        <Button className="px-1.5!" onClick={onOrnaments}>
          Ornaments …
        </Button>
        <CopyMenu />
      </div>
      {layers.length === 0 && <p className="px-3 py-2 text-muted">Nothing is on this area yet.</p>}
      <ul className="border-b border-hairline">
        {layers.map(([id, one]) => (
          <LayerRow key={id} id={id} layer={one} chosen={selection.includes(id)} />
        ))}
      </ul>
      {layer && selected && (
        <div className="grid gap-3 px-3 py-2.5" key={selected}>
          <div className="flex items-center" role="group" aria-label="Layer">
            <IconButton name="Layer down" title="Layer down ([)" onClick={() => moveLayer(desk, selected, -1)}>
              <ArrowDown size={15} aria-hidden />
            </IconButton>
            <IconButton name="Layer up" title="Layer up (])" onClick={() => moveLayer(desk, selected, 1)}>
              <ArrowUp size={15} aria-hidden />
            </IconButton>
            <IconButton
              name="Duplicate"
              title="Duplicate (Ctrl+D)"
              onClick={() => desk.edit('Duplicate', (d) => duplicateLayers(d, areaKey, selection, () => newId()))}
            >
              <Copy size={15} aria-hidden />
            </IconButton>
            <IconButton name="Delete layer" title="Delete (Delete key)" onClick={remove}>
              <Trash2 size={15} aria-hidden />
            </IconButton>
            <span className="ml-auto text-tiny text-muted">
              {selection.length > 1 && `${selection.length} selected`}
            </span>
          </div>
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
                  desk.edit('Name', (d) => changeLayer(d, areaKey, selected, (l) => ({ ...l, name })));
                }}
              />
              {presets.length > 0 && !layer.locked && (
                <Select
                  label="Place"
                  value=""
                  choices={[
                    { value: '', name: 'at a usual place' },
                    ...presets.map(({ code, name }) => ({ value: code, name })),
                  ]}
                  onChange={placePreset}
                />
              )}
              <LayerLook layerId={selected} layer={layer} />
              {layer.kind === 'text' && <LetteringForm layerId={selected} layer={layer} />}
              {layer.kind === 'ornament' && (
                <ColorField
                  label="color"
                  value={layer.color}
                  onChange={(color) =>
                    desk.edit(
                      'Color',
                      (d) => changeLayer(d, areaKey, selected, (l) => (l.kind === 'ornament' ? { ...l, color } : l)),
                      `color:${selected}`,
                    )
                  }
                />
              )}
              {layer.fit === 'fill' && <Focus layerId={selected} layer={layer} />}
              <Versions layerId={selected} layer={layer} />
            </>
          )}
        </div>
      )}
      {geometry.technique === 'embroidery' && layers.length > 0 && <Threads />}
    </aside>
  );
}
