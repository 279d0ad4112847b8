'use client';

import { Eye, EyeOff, Lock, LockOpen } from 'lucide-react';
import { changeLayer } from '@/bench/placing';
import { layerTitle, type Layer } from '@/core/document/document';
import { IconButton } from '@/ui/IconButton';
import { useDesk, useDeskNow } from '../desk';
import { toggleHidden } from '../keys';

/** A layer in the list of layers. */
export function LayerRow({ id, layer, chosen }: { id: string; layer: Layer; chosen: boolean }) {
  const desk = useDesk('select', 'selection', 'edit', 'areaKey');
  const now = useDeskNow();
  const title = layerTitle(layer);
  const kind = layer.kind === 'text' ? 'T' : layer.kind === 'ornament' ? '✦' : '▣';
  return (
    <li className={`flex items-center gap-1 pl-3 pr-1.5 ${chosen ? 'bg-selection' : ''}`}>
      <span aria-hidden className="w-4 text-center text-muted">
        {kind}
      </span>
      <button
        type="button"
        aria-pressed={chosen}
        title="Shift adds to the selection"
        onClick={(e) => desk.select(chosen && !e.shiftKey && desk.selection.length === 1 ? null : id, e.shiftKey)}
        className={`min-h-7 min-w-0 flex-1 truncate text-left ${layer.hidden ? 'text-muted line-through' : ''} ${chosen ? 'font-semibold' : ''}`}
      >
        {title}
      </button>
      <IconButton
        name={layer.locked ? `Unlock ${title}` : `Lock ${title}`}
        onClick={() =>
          desk.edit(layer.locked ? 'Unlock' : 'Lock', (d) =>
            changeLayer(d, desk.areaKey, id, (l) => ({ ...l, locked: !l.locked })),
          )
        }
      >
        {layer.locked ? <Lock size={13} aria-hidden /> : <LockOpen size={13} aria-hidden className="opacity-50" />}
      </IconButton>
      <IconButton name={layer.hidden ? `Show ${title}` : `Hide ${title}`} onClick={() => toggleHidden(now(), id)}>
        {layer.hidden ? <EyeOff size={14} aria-hidden /> : <Eye size={14} aria-hidden className="opacity-60" />}
      </IconButton>
    </li>
  );
}
