'use client';

import { areaTitle } from '@/core/catalog/blank';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';
import { MiniSheet } from './MiniSheet';

/** The print areas with what is on each; in a narrow window, the way to the layers too. */
export function AreaTabs({ layersOpen, onLayers }: { layersOpen: boolean; onLayers: () => void }) {
  const { data, designed, areaKey, setArea } = useDesk('data', 'designed', 'areaKey', 'setArea');
  return (
    <div className="min-h-10 shrink-0 flex items-center gap-5 px-4 border-b border-hairline bg-paper">
      <div role="tablist" aria-label="Areas" className="flex flex-wrap gap-x-5 whitespace-nowrap">
        {data.blank.areas.map((area) => {
          const count = Object.keys(ownEntry(designed.areas, area.key)?.layers ?? {}).length;
          return (
            <button
              key={area.key}
              type="button"
              role="tab"
              aria-selected={area.key === areaKey}
              onClick={() => setArea(area.key)}
              title="Page Up, Page Down"
              className={`inline-flex min-h-8 items-center gap-1.5 ${area.key === areaKey ? 'font-semibold' : 'text-muted hover:text-ink'}`}
            >
              <MiniSheet areaKey={area.key} geometryId={area.geometries[0]!.geometryId} sidePx={24} />
              {areaTitle(data.blank, area)}
              {count > 0 && <span className="text-tiny text-muted"> {count}</span>}
            </button>
          );
        })}
      </div>
      <button
        type="button"
        aria-expanded={layersOpen}
        onClick={onLayers}
        className="ml-auto hidden min-h-6 text-small text-primary underline max-[900px]:block"
      >
        Layers
      </button>
    </div>
  );
}
