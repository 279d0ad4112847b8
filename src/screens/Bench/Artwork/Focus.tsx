'use client';

import { changeLayer } from '@/bench/placing';
import type { Layer } from '@/core/document/document';
import { EntryField } from '@/ui/Field';
import { useDesk } from '../desk';

/** What must stay in view where other shapes crop: a point of the layer, in percent of its width and height. */
export function Focus({ layerId, layer }: { layerId: string; layer: Layer }) {
  const desk = useDesk('edit', 'areaKey');
  const focus = layer.focus ?? { x: 0.5, y: 0.5 };
  const entry = (axis: 'x' | 'y', label: string) => (
    <EntryField
      label={label}
      width="w-11"
      text={`${Math.round(focus[axis] * 100)} %`}
      read={(typed) => put(axis, Number(typed.replace('%', '').replace(',', '.').trim()) / 100, typed)}
      step={(by) => put(axis, Math.min(1, Math.max(0, focus[axis] + by / 100)), '')}
    />
  );
  const put = (axis: 'x' | 'y', value: number, typed: string) => {
    if (!(value >= 0 && value <= 1)) throw new Error(`“${typed}” is not a share from 0 to 100 %.`);
    desk.edit(
      'Keep in view',
      (d) =>
        changeLayer(d, desk.areaKey, layerId, (l) => ({
          ...l,
          focus: { ...focus, [axis]: Math.round(value * 1000) / 1000 },
        })),
      `focus:${layerId}`,
    );
  };
  return (
    <div>
      <p className="text-muted">Kept in view where a size crops:</p>
      <div className="flex gap-3">
        {entry('x', 'across')}
        {entry('y', 'down')}
      </div>
    </div>
  );
}
