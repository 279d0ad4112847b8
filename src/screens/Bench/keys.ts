'use client';

import { useEffect, useRef } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { changeLayer, placeLayer, removeLayer, swapOrder } from '@/bench/placing';
import { chosenColors } from '@/core/listing/form';
import { inOrder } from '@/core/order/order';
import type { Desk } from './desk';
import { placementInView } from './Artwork/placed';
import { PARTS } from './view';

export const KEY_LIST: readonly (readonly [string, string])[] = [
  ['1 … 6', 'parts of the docket'],
  ['arrows', 'nudge by 1 mm (Shift 10, Shift+Alt 0.1)'],
  ['C', 'center on the area'],
  ['[ ]', 'layer down, up'],
  ['Delete', 'take the layer away'],
  [', .', 'previous, next color'],
  ['Ctrl+Z', 'undo'],
  ['Ctrl+Shift+Z', 'redo'],
  ['Ctrl+Enter', 'go to Stores to send'],
  ['?', 'this list'],
];

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** The bench's keys. Each is also a visible control. */
export function useBenchKeys(desk: Desk, showKeys: () => void): void {
  const latest = useRef({ desk, showKeys });
  useEffect(() => {
    latest.current = { desk, showKeys };
  });
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector('[role=dialog],[role=listbox],[role=menu]')) return;
      const { desk: d, showKeys: show } = latest.current;
      const command = e.ctrlKey || e.metaKey;
      if (command && e.key.toLowerCase() === 'z') {
        if (inField(e.target) && document.activeElement?.tagName === 'TEXTAREA')
          (document.activeElement as HTMLElement).blur();
        e.preventDefault();
        if (e.shiftKey) d.session.redo();
        else d.session.undo();
        return;
      }
      if (command && e.key === 'Enter') return d.goTo('stores');
      if (command || inField(e.target)) return;
      if (e.key === '?') return show();
      const part = PARTS[Number(e.key) - 1];
      if (part) return d.goTo(part);
      if (e.key === ',' || e.key === '.') return stepColor(d, e.key === '.' ? 1 : -1);
      if (d.part === 'artwork' && d.selected) layerKey(d, d.selected, e);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/** The next or previous color among the chosen ones, or among all when none is chosen. */
export function stepColor(d: Desk, by: 1 | -1): void {
  const chosen = chosenColors(d.doc, d.data.blank).filter((color): color is string => color !== null);
  const colors = chosen.length > 0 ? chosen : (colorOption(d.data.blank)?.values ?? []).map((value) => value.code);
  if (colors.length === 0) return;
  d.setColor(colors[(colors.indexOf(d.color ?? '') + by + colors.length) % colors.length]!);
}

const NUDGES: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function layerKey(d: Desk, layerId: string, e: KeyboardEvent): void {
  const placement = placementInView(d, layerId);
  if (!placement) return;
  const nudge = NUDGES[e.key];
  const place = (label: string, next: typeof placement, key?: string) =>
    d.edit(label, (doc) => placeLayer(doc, d.areaKey, layerId, d.geometryId, next), key);
  if (nudge) {
    e.preventDefault();
    const step = e.shiftKey ? (e.altKey ? 0.1 : 10) : 1;
    const round = (v: number) => Math.round(v * 1000) / 1000;
    place(
      'Nudge',
      { ...placement, xMm: round(placement.xMm + nudge[0] * step), yMm: round(placement.yMm + nudge[1] * step) },
      `nudge:${layerId}`,
    );
  } else if (e.key.toLowerCase() === 'c') {
    const g = d.data.blank.geometries[d.geometryId]!;
    place('Center', { ...placement, xMm: g.widthMm / 2, yMm: g.heightMm / 2 });
  } else if (e.key === '[' || e.key === ']') moveLayer(d, layerId, e.key === ']' ? 1 : -1);
  else if (e.key === 'Delete' || e.key === 'Backspace') {
    d.edit('Take layer away', (doc) => removeLayer(doc, d.areaKey, layerId));
    d.select(null);
  }
}

/** Moves a layer one place up or down among the layers of its area. */
export function moveLayer(d: Desk, layerId: string, by: 1 | -1): void {
  const ids = inOrder(d.doc.areas[d.areaKey]?.layers ?? {}).map(([id]) => id);
  const other = ids[ids.indexOf(layerId) + by];
  if (other) d.edit(by > 0 ? 'Layer up' : 'Layer down', (doc) => swapOrder(doc, d.areaKey, [layerId, other]));
}

export const toggleHidden = (d: Desk, layerId: string): void =>
  d.edit('Show or hide layer', (doc) =>
    changeLayer(doc, d.areaKey, layerId, (layer) => ({ ...layer, hidden: !layer.hidden })),
  );
