'use client';

import { colorOption } from '@/core/catalog/blank';
import { changeLayer, duplicateLayers, placeLayer, removeLayer, swapOrder } from '@/bench/placing';
import { chosenColors } from '@/core/document/chosen';
import { inOrder } from '@/core/order-key';
import { ownEntry } from '@/core/own-entry';
import { usePageKeys } from '@/ui/keys';
import { useDeskNow, type Desk } from './desk';
import { placementInView } from './Artwork/placed';
import { turned, turningSteps } from './Proof/view';
import { PARTS } from './parts';
import { newId } from '@/ui/ids';

export const KEY_LIST: readonly (readonly [string, string])[] = [
  ['1 … 7', 'parts of the docket'],
  ['arrows', 'nudge by 1 mm (Shift 10, Shift+Alt 0.1)'],
  ['C', 'center on the area'],
  ['[ ]', 'layer down, up'],
  ['Delete', 'delete the layer'],
  ['Ctrl+D', 'duplicate'],
  ['Ctrl+A', 'select all layers of the area'],
  ['Page Up, Page Down', 'previous, next print area'],
  ['I, W, O', 'add artwork, text, an ornament'],
  ['F', 'the next finding (Shift the one before)'],
  ['+ − 0', 'see the area larger, smaller, whole; Ctrl and wheel too'],
  ['Ctrl+arrows', 'move the view; the wheel, and Alt and drag too'],
  ['Shift', 'adds a layer to the selection; moves, sizes and turns freely'],
  [', .', 'previous, next color'],
  ['A', 'the design on all colors'],
  ['L', 'the proof large'],
  ['T', 'turn the good in view (Shift back)'],
  ['Alt+arrows', 'move the chosen picture among the pictures'],
  ['Shift+arrows, Space', 'in Colors & sizes: a rectangle of variants; select or clear it'],
  ['Ctrl+Z', 'undo'],
  ['Ctrl+Shift+Z', 'redo'],
  ['Ctrl+S', 'save now, without waiting'],
  ['Ctrl+Enter', 'go to Stores to send'],
  ['/', 'on Blanks: search'],
  ['?', 'this list'],
];

/** Where keys change layers: on the surface and among the layers, or where nothing has the focus. */
export const onSurface = (): boolean => {
  const at = document.activeElement;
  return at === null || at === document.body || at.id === 'content' || at.closest('[data-layer-keys]') !== null;
};

/** Whether somebody types: the browser's own commands for text hold there. */
export const inField = (): boolean => document.activeElement?.closest('input, textarea, [contenteditable]') != null;

/** The bench's keys. Each is also a visible control. */
export function useBenchKeys(showKeys: () => void): void {
  const now = useDeskNow();
  usePageKeys({
    commands: (e) => command(now(), e),
    singles: (e) => single(now(), e, showKeys),
  });
}

function command(d: Desk, e: KeyboardEvent): boolean {
  const key = e.key.toLowerCase();
  if (key === 'z') {
    const field = document.activeElement;
    if (field instanceof HTMLTextAreaElement) field.blur();
    if (e.shiftKey) d.session.redo();
    else d.session.undo();
    return true;
  }
  if (e.key === 'Enter') {
    d.goTo('stores');
    return true;
  }
  if (key === 's' && !e.shiftKey) {
    void d.session.flush();
    return true;
  }
  return d.part === 'artwork' && onSurface() && !inField() && areaCommand(d, key);
}

function single(d: Desk, e: KeyboardEvent, showKeys: () => void): boolean {
  if (e.key === '?') {
    showKeys();
    return true;
  }
  const part = PARTS[Number(e.key) - 1];
  if (part) {
    d.goTo(part);
    return true;
  }
  if (e.key === ',' || e.key === '.') {
    stepColor(d, e.key === '.' ? 1 : -1);
    return true;
  }
  if (e.key.toLowerCase() === 'f' && !e.altKey) return nextFinding(d, e.shiftKey ? -1 : 1);
  if (!e.altKey && proofKey(d, e)) return true;
  if (d.part !== 'artwork' || !onSurface()) return false;
  if (e.key === 'PageUp' || e.key === 'PageDown') {
    stepArea(d, e.key === 'PageDown' ? 1 : -1);
    return true;
  }
  return d.selected !== null && layerKey(d, d.selected, e);
}

/** Shows the next finding that asks for something, or the one before, from the selected layer on; false where there is none. */
function nextFinding(d: Desk, by: 1 | -1): boolean {
  const asking = d.findings.filter(({ severity }) => severity !== 'note');
  if (asking.length === 0) return false;
  const at = asking.findIndex(({ areaKey, layerId }) => areaKey === d.areaKey && layerId === d.selected);
  // Of several of one layer, the first after them all.
  const same = ({ areaKey, layerId }: (typeof asking)[number]) => areaKey === d.areaKey && layerId === d.selected;
  let next = at === -1 ? (by === 1 ? 0 : asking.length - 1) : (at + by + asking.length) % asking.length;
  for (let i = 0; i < asking.length && same(asking[next]!); i += 1) next = (next + by + asking.length) % asking.length;
  const finding = asking[next]!;
  d.goTo('artwork');
  d.setArea(finding.areaKey, finding.spot?.geometryId);
  d.select(finding.layerId);
  return true;
}

/** A, L and T; false for other keys. */
function proofKey({ proof, data }: Desk, e: KeyboardEvent): boolean {
  const key = e.key.toLowerCase();
  if (key === 'a' && colorOption(data.blank)) proof.setOpen('colors');
  else if (key === 'l' && proof.shot) proof.setOpen('large');
  else if (key === 't' && proof.shot)
    proof.setShot(turned(turningSteps(proof.shots, proof.shot), proof.shot, e.shiftKey ? -1 : 1).id);
  else return false;
  return true;
}

/** Ctrl+A and Ctrl+D; false for other keys. */
function areaCommand(d: Desk, key: string): boolean {
  if (key === 'a') {
    d.select(null);
    for (const [id, layer] of inOrder(ownEntry(d.doc.areas, d.areaKey)?.layers ?? {}))
      if (!layer.hidden) d.select(id, true);
    return true;
  }
  if (key === 'd' && d.selection.length > 0) {
    d.edit('Duplicate', (doc) => duplicateLayers(doc, d.areaKey, d.selection, () => newId()));
    return true;
  }
  return false;
}

/** The next or previous print area. */
export function stepArea(d: Desk, by: 1 | -1): void {
  const keys = d.data.blank.areas.map((area) => area.key);
  d.setArea(keys[(keys.indexOf(d.areaKey) + by + keys.length) % keys.length]!);
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

/** Nudges, centers, orders and deletes the selected layers; false for other keys. */
function layerKey(d: Desk, layerId: string, e: KeyboardEvent): boolean {
  const placement = placementInView(d, layerId);
  if (!placement) return false;
  const layers = ownEntry(d.doc.areas, d.areaKey)?.layers ?? {};
  const locked = ownEntry(layers, layerId)?.locked ?? false;
  const nudge = ownEntry(NUDGES, e.key);
  if (e.key === '[' || e.key === ']') moveLayer(d, layerId, e.key === ']' ? 1 : -1);
  else if (locked) return false;
  else if (nudge) nudgeBy(d, nudge, e.shiftKey ? (e.altKey ? 0.1 : 10) : 1);
  else if (e.key.toLowerCase() === 'c') {
    const g = ownEntry(d.data.blank.geometries, d.geometryId)!;
    const middle = { ...placement, xMm: g.widthMm / 2, yMm: g.heightMm / 2 };
    d.edit('Center', (doc) => placeLayer(doc, d.areaKey, layerId, d.geometryId, middle));
  } else if (e.key === 'Delete' || e.key === 'Backspace') {
    d.edit(d.selection.length > 1 ? `Delete ${d.selection.length} layers` : 'Delete layer', (doc) =>
      d.selection.reduce((next, id) => removeLayer(next, d.areaKey, id), doc),
    );
    d.select(null);
  } else return false;
  return true;
}

/** Moves all selected layers that are not locked by `step` mm. */
function nudgeBy(d: Desk, [x, y]: readonly [number, number], step: number): void {
  const layers = ownEntry(d.doc.areas, d.areaKey)?.layers ?? {};
  const round = (v: number) => Math.round(v * 1000) / 1000;
  const places = d.selection.flatMap((id) => {
    const at = ownEntry(layers, id)?.locked ? null : placementInView(d, id);
    return at ? [[id, { ...at, xMm: round(at.xMm + x * step), yMm: round(at.yMm + y * step) }] as const] : [];
  });
  d.edit(
    'Nudge',
    (doc) => places.reduce((next, [id, at]) => placeLayer(next, d.areaKey, id, d.geometryId, at), doc),
    `nudge:${d.selection.join()}`,
  );
}

/** Moves a layer one place up or down among the layers of its area. */
export function moveLayer(d: Desk, layerId: string, by: 1 | -1): void {
  const ids = inOrder(ownEntry(d.doc.areas, d.areaKey)?.layers ?? {}).map(([id]) => id);
  const other = ids[ids.indexOf(layerId) + by];
  if (other) d.edit(by > 0 ? 'Layer up' : 'Layer down', (doc) => swapOrder(doc, d.areaKey, [layerId, other]));
}

export const toggleHidden = (d: Desk, layerId: string): void =>
  d.edit('Show or hide layer', (doc) =>
    changeLayer(doc, d.areaKey, layerId, (layer) => ({ ...layer, hidden: !layer.hidden })),
  );
