'use client';

import { useState } from 'react';
import { addOrnament } from '@/bench/placing';
import { luminance, parseHex } from '@/core/artwork/color';
import { colorOption } from '@/core/catalog/blank';
import { ORNAMENT_GROUPS, ORNAMENTS } from '@/core/ornaments/ornaments';
import { svgPath } from '@/core/paths/path';
import { ownEntry } from '@/core/own-entry';
import { ColorField } from '@/ui/ColorField';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from '../desk';
import { newId } from '@/ui/ids';

/** Simple vector pieces to place like any layer, in any one color. */
export function Ornaments({ open, onClose }: { open: boolean; onClose: () => void }) {
  const desk = useDesk('data', 'areaKey', 'geometryId', 'color', 'edit', 'select');
  const { data, areaKey, geometryId, color } = desk;
  const ground = colorOption(data.blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff';
  const [picked, setInk] = useState<string | null>(null);
  // What is seen on the color in view, until another is picked.
  const ink = picked ?? (luminance(parseHex(ground)) < 0.3 ? '#f3ead6' : '#2d4a53');
  const area = data.blank.areas.find((one) => one.key === areaKey)!;
  return (
    <Sheet open={open} onClose={onClose} title="Ornaments" wide>
      <div className="mb-3">
        <ColorField label="in" value={ink} onChange={setInk} />
      </div>
      {ORNAMENT_GROUPS.map((group) => (
        <section key={group} className="mb-3">
          <h3 className="mb-1 font-display text-[14px] first-letter:uppercase">{group}</h3>
          <ul className="grid grid-cols-8 gap-2">
            {ORNAMENTS.filter((one) => one.group === group).map((ornament) => (
              <li key={ornament.code}>
                <button
                  type="button"
                  aria-label={ornament.name}
                  title={ornament.name}
                  className="grid aspect-square w-full place-items-center rounded-paper border border-edge p-2 hover:border-ink"
                  style={{ background: ground }}
                  onClick={() => {
                    const id = newId();
                    const geometry = ownEntry(data.blank.geometries, geometryId)!;
                    desk.edit(`Add ${ornament.name.toLocaleLowerCase('en')}`, (d) =>
                      addOrnament(d, area, geometry, geometryId, id, ornament, ink),
                    );
                    desk.select(id);
                    onClose();
                  }}
                >
                  <svg
                    viewBox={`0 ${Math.min(0, (ornament.aspect - 1) / 2)} 1 ${Math.max(1, ornament.aspect)}`}
                    className="size-full"
                    aria-hidden
                  >
                    <path d={svgPath(ornament.path)} fill={ink} />
                  </svg>
                </button>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </Sheet>
  );
}
