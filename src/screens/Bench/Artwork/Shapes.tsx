'use client';

import { changeLayer } from '@/bench/placing';
import { Button } from '@/ui/Button';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';
import { shapeName, shapesOf } from './shapes-of';
import { MiniSheet } from './MiniSheet';

/** Every shape that the area has among the chosen sizes, side by side; one is worked on. */
export function Shapes() {
  const {
    data,
    designed: doc,
    areaKey,
    geometryId,
    setArea,
    selected,
    edit,
  } = useDesk('data', 'designed', 'areaKey', 'geometryId', 'setArea', 'selected', 'edit');
  const shapes = shapesOf(data.blank, areaKey, doc);
  if (shapes.length < 2) return null;
  const layers = Object.values(ownEntry(doc.areas, areaKey)?.layers ?? {});
  const own = (id: string) => layers.filter((layer) => ownEntry(layer.overrides, id)).length;
  const layer = selected ? ownEntry(ownEntry(doc.areas, areaKey)?.layers, selected) : undefined;
  return (
    <div className="flex shrink-0 flex-wrap items-end gap-x-4 border-b border-hairline bg-paper px-4 py-2 max-[900px]:py-0.5">
      {shapes.map((id) => {
        const g = ownEntry(data.blank.geometries, id)!;
        return (
          <button
            key={id}
            type="button"
            aria-pressed={id === geometryId}
            onClick={() => setArea(areaKey, id)}
            className={`grid shrink-0 justify-items-center gap-1 rounded-paper px-1.5 py-1 text-tiny ${id === geometryId ? 'bg-selection' : 'hover:bg-sheet'}`}
          >
            <span className="max-[900px]:hidden">
              <MiniSheet areaKey={areaKey} geometryId={id} sidePx={56} />
            </span>
            <span className={id === geometryId ? 'font-semibold' : ''}>{shapeName(data.blank, areaKey, doc, id)}</span>
            <span className="text-muted">
              {g.widthMm} × {g.heightMm}
              {own(id) > 0 && `, ${own(id)} placed here`}
            </span>
          </button>
        );
      })}
      {ownEntry(layer?.overrides, geometryId) && (
        <Button
          className="mb-4"
          onClick={() =>
            edit('Follow the other sizes', (d) =>
              changeLayer(d, areaKey, selected!, (one) => {
                const { [geometryId]: _gone, ...overrides } = one.overrides;
                return { ...one, overrides };
              }),
            )
          }
        >
          Follow the other sizes
        </Button>
      )}
    </div>
  );
}
