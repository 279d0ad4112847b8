'use client';

import { useCallback, useEffect, useState, type PointerEvent, type RefObject } from 'react';
import type { Gesture } from '@/bench/gestures/gesture';
import { placeLayer } from '@/bench/placing';
import type { Box } from '@/core/geometry/box';
import type { Point } from '@/core/geometry/matrix';
import { placedBox, placementMatrix, type Placement } from '@/core/geometry/placement';
import { ownEntry } from '@/core/own-entry';
import { useDesk, useDeskNow, type Desk } from '../desk';
import { aspectOf, placementInView } from './placed';

interface HeldLayer {
  readonly kind: 'layer';
  readonly layerId: string;
  readonly gesture: Gesture;
  readonly pointerId: number;
  readonly label: string;
  readonly start: Placement;
  readonly placement: Placement | null;
  /** Where the other selected layers were when it began; they move along. */
  readonly others: { readonly [layerId: string]: Placement };
}

interface HeldBackground {
  /** `frame` draws a frame around what is to be selected; `pan` moves the view. */
  readonly kind: 'frame' | 'pan';
  readonly pointerId: number;
  readonly from: Point;
  readonly to: Point;
}

export type HeldGesture = HeldLayer | HeldBackground;

const round = (value: number) => Math.round(value * 1000) / 1000;

const moved = (others: HeldLayer['others'], start: Placement, now: Placement): HeldLayer['others'] =>
  Object.fromEntries(
    Object.entries(others).map(([id, place]) => [
      id,
      { ...place, xMm: round(place.xMm + now.xMm - start.xMm), yMm: round(place.yMm + now.yMm - start.yMm) },
    ]),
  );

/** What makes the gesture of a press, from where the layer lies and where it was pressed. */
type Make = (placement: Placement, aspect: number, at: Point) => Gesture;

/** What the pointer does on the surface: moving, sizing and turning layers, framing several, panning. Escape gives it up. */
export function useGestures(surface: RefObject<SVGSVGElement | null>, onPan: (dx: number, dy: number) => void) {
  const now = useDeskNow();
  const { live } = useDesk('live');
  const [held, setHeld] = useState<HeldGesture | null>(null);
  const toMm = (e: { clientX: number; clientY: number }) => mmOn(surface.current!, e);
  const hold = (e: PointerEvent, gesture: HeldGesture) => {
    surface.current!.setPointerCapture(e.pointerId);
    setHeld(gesture);
  };
  const letGo = useCallback(() => {
    setHeld(null);
    live.set(null);
  }, [live]);
  useEscape(held !== null, letGo);

  const grab = (e: PointerEvent, layerId: string, label: string, make: Make) => {
    e.stopPropagation();
    const taken = grabbed(now(), layerId, { adds: e.shiftKey, moves: label === 'Move' });
    if (!taken || e.button !== 0) return;
    const { placement, aspect, others } = taken;
    const gesture = make(placement, aspect, toMm(e));
    const start = { start: placement, placement: null, others };
    hold(e, { kind: 'layer', layerId, label, pointerId: e.pointerId, gesture, ...start });
  };
  const press = (e: PointerEvent) => {
    const pans = e.button === 1 || e.altKey;
    if (pans) e.preventDefault();
    else if (e.button !== 0) return;
    else if (!e.shiftKey) now().select(null);
    hold(e, { kind: pans ? 'pan' : 'frame', pointerId: e.pointerId, from: toMm(e), to: toMm(e) });
  };
  const move = (e: PointerEvent) => {
    if (!held || e.pointerId !== held.pointerId) return;
    const at = toMm(e);
    if (held.kind === 'layer') {
      const placement = held.gesture.move(at, e.shiftKey);
      setHeld({ ...held, placement });
      live.set({ layerId: held.layerId, placement, others: moved(held.others, held.start, placement) });
    } else if (held.kind === 'pan') onPan(held.from.x - at.x, held.from.y - at.y);
    else setHeld({ ...held, to: at });
  };
  const release = (e: PointerEvent) => {
    if (!held || e.pointerId !== held.pointerId) return;
    if (held.kind === 'layer') putDown(now(), held);
    if (held.kind === 'frame') selectInside(now(), frameOf(held));
    letGo();
  };
  return { held, grab, press, move, release, letGo, placementNow: (id: string) => heldAt(held, id) };
}

/** Where a pointer is on the surface, mm. */
function mmOn(surface: SVGSVGElement, e: { clientX: number; clientY: number }): Point {
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(surface.getScreenCTM()!.inverse());
  return { x, y };
}

function useEscape(on: boolean, letGo: () => void): void {
  useEffect(() => {
    if (!on) return;
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && letGo();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [on, letGo]);
}

/** Selects a pressed layer, and gives where it and those that move with it lie; null when it is not to be moved. */
function grabbed(
  desk: Desk,
  layerId: string,
  how: { readonly adds: boolean; readonly moves: boolean },
): { placement: Placement; aspect: number; others: HeldLayer['others'] } | null {
  const adds = how.adds && how.moves;
  const keeps = how.moves && desk.selection.includes(layerId) && !adds;
  if (!keeps) desk.select(layerId, adds);
  const layers = ownEntry(desk.designed.areas, desk.areaKey)?.layers ?? {};
  const [placement, aspect] = [placementInView(desk, layerId), aspectOf(desk, layerId)];
  if (adds || !placement || aspect === null || ownEntry(layers, layerId)?.locked) return null;
  const along = keeps ? desk.selection.filter((id) => id !== layerId && ownEntry(layers, id)?.locked === false) : [];
  const others = along.flatMap((id) => {
    const place = placementInView(desk, id);
    return place ? [[id, place] as const] : [];
  });
  return { placement, aspect, others: Object.fromEntries(others) };
}

/** Writes where layers were moved to into the product; nothing when they were not. */
function putDown({ edit, areaKey, geometryId }: Desk, held: HeldLayer): void {
  if (!held.placement) return;
  const places = { [held.layerId]: held.placement, ...moved(held.others, held.start, held.placement) };
  edit(held.label, (doc) =>
    Object.entries(places).reduce((next, [id, place]) => placeLayer(next, areaKey, id, geometryId, place), doc),
  );
}

/** Where a layer is just now, while it is held. */
function heldAt(held: HeldGesture | null, layerId: string): Placement | null {
  if (held?.kind !== 'layer' || !held.placement) return null;
  if (held.layerId === layerId) return held.placement;
  return ownEntry(moved(held.others, held.start, held.placement), layerId) ?? null;
}

export const frameOf = ({ from, to }: HeldBackground): Box => ({
  left: Math.min(from.x, to.x),
  top: Math.min(from.y, to.y),
  right: Math.max(from.x, to.x),
  bottom: Math.max(from.y, to.y),
});

/** Selects the layers that a frame touches; a frame without a size selects nothing. */
function selectInside(desk: Desk, frame: Box): void {
  if (frame.right - frame.left < 0.5 && frame.bottom - frame.top < 0.5) return;
  const layers = ownEntry(desk.doc.areas, desk.areaKey)?.layers ?? {};
  for (const [id, layer] of Object.entries(layers)) {
    const placement = placementInView(desk, id);
    const aspect = aspectOf(desk, id);
    if (!placement || aspect === null || layer.hidden || layer.locked || desk.selection.includes(id)) continue;
    const box = placedBox(placementMatrix(placement, aspect));
    const touches =
      box.left <= frame.right && box.right >= frame.left && box.top <= frame.bottom && box.bottom >= frame.top;
    if (touches) desk.select(id, true);
  }
}
