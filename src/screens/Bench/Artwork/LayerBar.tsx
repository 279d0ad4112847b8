'use client';

import { later } from '@/ui/later';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';

const LayerNumbers = later(() => import('./LayerNumbers').then((m) => m.LayerNumbers));

/** The selected layer in numbers. */
export function LayerBar() {
  const {
    designed: doc,
    areaKey,
    geometryId,
    selected,
    selection,
    data,
  } = useDesk('designed', 'areaKey', 'geometryId', 'selected', 'selection', 'data');
  const layer = selected ? ownEntry(ownEntry(doc.areas, areaKey)?.layers, selected) : undefined;
  const empty = Object.keys(ownEntry(doc.areas, areaKey)?.layers ?? {}).length === 0;
  return (
    <div className="flex min-h-[40px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t py-1 border-hairline bg-paper px-4">
      {selected && layer && selection.length === 1 ? (
        <LayerNumbers key={`${selected}/${geometryId}`} layerId={selected} />
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
