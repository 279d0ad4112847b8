'use client';

import { later } from '@/ui/later';
import { inOrder } from '@/core/order-key';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';
import { CopyMenu } from './CopyMenu';
import { LayerRow } from './LayerRow';

const LayerTools = later(() => import('./LayerTools').then((m) => m.LayerTools));
const Threads = later(() => import('./Threads').then((m) => m.Threads));

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
  const { designed, areaKey, selection, selected, data, geometryId } = useDesk(
    'designed',
    'areaKey',
    'selection',
    'selected',
    'data',
    'geometryId',
  );
  const layers = inOrder(ownEntry(designed.areas, areaKey)?.layers ?? {}).reverse();
  const layer = selected ? ownEntry(ownEntry(designed.areas, areaKey)?.layers, selected) : undefined;
  const geometry = ownEntry(data.blank.geometries, geometryId)!;
  return (
    <aside
      aria-label="Layers"
      data-layer-keys
      className={`w-[236px] shrink-0 overflow-auto border-l border-hairline bg-paper text-small max-[900px]:absolute max-[900px]:inset-y-0 max-[900px]:right-0 max-[900px]:z-20 max-[900px]:border-ink ${open ? '' : 'max-[900px]:hidden'}`}
    >
      <div className="grid grid-cols-2 gap-1.5 border-b border-hairline p-2">
        <Button className="px-1.5!" title="Key I" onClick={onArtwork}>
          Add artwork …
        </Button>
        <Button className="px-1.5!" title="Key W" onClick={onText}>
          Add text
        </Button>
        <Button className="px-1.5!" title="Key O" onClick={onOrnaments}>
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
      {layer && selected && <LayerTools key={selected} layerId={selected} layer={layer} />}
      {geometry.technique === 'embroidery' && layers.length > 0 && <Threads />}
    </aside>
  );
}
