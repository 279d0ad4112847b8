'use client';

import { changeLayer } from '@/bench/placing';
import { MIN_OPACITY, type Layer } from '@/core/document/document';
import { FITS, type Fit } from '@/core/geometry/fit';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';

const FIT_NAMES: Record<Fit, string> = {
  fill: 'fill and crop',
  fit: 'fit inside',
  stretch: 'stretch',
  keep: 'same size in mm',
};

/** How much of a layer covers what lies beneath, and how it follows areas of other sizes. */
export function LayerLook({ layerId, layer }: { layerId: string; layer: Layer }) {
  const desk = useDesk('edit', 'areaKey');
  const { opacity = 1 } = layer;
  const put = (label: string, share: number, key?: string) =>
    desk.edit(
      label,
      (d) =>
        changeLayer(d, desk.areaKey, layerId, ({ opacity: _was, ...l }) =>
          share < 1 ? ({ ...l, opacity: Math.round(share * 100) / 100 } as Layer) : (l as Layer),
        ),
      key,
    );
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <EntryField
        label="opacity"
        width="w-12"
        text={`${Math.round(opacity * 100)} %`}
        read={(typed) => {
          const share = Number(typed.replace('%', '').replace(',', '.').trim()) / 100;
          if (!(share >= MIN_OPACITY && share <= 1) || typed.trim() === '')
            throw new Error('It must be from 5 to 100 %.');
          put('Set opacity', share);
        }}
        step={(by) =>
          put('Step opacity', Math.min(1, Math.max(MIN_OPACITY, opacity + by / 100)), `step:opacity:${layerId}`)
        }
      />
      <Select
        label="other sizes"
        value={layer.fit}
        choices={FITS.map((value) => ({ value, name: FIT_NAMES[value] }))}
        onChange={(fit) => desk.edit('Set fit', (d) => changeLayer(d, desk.areaKey, layerId, (l) => ({ ...l, fit })))}
      />
    </div>
  );
}
