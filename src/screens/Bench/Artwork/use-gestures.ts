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

/** What the pointer does on the surface: moving, sizing and turning layers, framing several, panning. Escape gives it up. */
export function useGestures(surface: RefObject<SVGSVGElement | null>, onPan: (dx: number, dy: number) => void) {
  const now = useDeskNow();
  const { live } = useDesk('live');
  const [held, setHeld] = useState<HeldGesture | null>(null);
  const toMm = (e: { clientX: number; clientY: number }): Point => {
    const ctm = surface.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(ctm);
    return { x: p.x, y: p.y };
  };
  const letGo = useCallback(() => {
    setHeld(null);
    live.set(null);
  }, [live]);

  const grab = (
    e: PointerEvent,
    layerId: string,
    label: string,
    make: (placement: Placement, aspect: number, at: Point) => Gesture,
  ) => {
    e.stopPropagation();
    const desk = now();
    const { areaKey, designed } = desk;
    const adds = e.shiftKey && label === 'Move';
    const keeps = label === 'Move' && desk.selection.includes(layerId) && !adds;
    if (!keeps) desk.select(layerId, adds);
    const placement = placementInView(desk, layerId);
    const aspect = aspectOf(desk, layerId);
    const layers = ownEntry(designed.areas, areaKey)?.layers ?? {};
    if (adds || !placement || aspect === null || e.button !== 0 || ownEntry(layers, layerId)?.locked) return;
    surface.current!.setPointerCapture(e.pointerId);
    const others = keeps
      ? Object.fromEntries(
          desk.selection
            .filter((id) => id !== layerId && ownEntry(layers, id)?.locked === false)
            .flatMap((id) => {
              const place = placementInView(desk, id);
              return place ? [[id, place] as const] : [];
            }),
        )
      : {};
    setHeld({
      kind: 'layer',
      layerId,
      label,
      pointerId: e.pointerId,
      gesture: make(placement, aspect, toMm(e)),
      start: placement,
      placement: null,
      others,
    });
  };
  const press = (e: PointerEvent) => {
    if (e.button === 1 || e.altKey) {
      e.preventDefault();
      surface.current!.setPointerCapture(e.pointerId);
      return setHeld({ kind: 'pan', pointerId: e.pointerId, from: toMm(e), to: toMm(e) });
    }
    if (e.button !== 0) return;
    if (!e.shiftKey) now().select(null);
    surface.current!.setPointerCapture(e.pointerId);
    setHeld({ kind: 'frame', pointerId: e.pointerId, from: toMm(e), to: toMm(e) });
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
    if (held.kind === 'layer' && held.placement) {
      const places = { [held.layerId]: held.placement, ...moved(held.others, held.start, held.placement) };
      const { edit, areaKey, geometryId } = now();
      edit(held.label, (d) =>
        Object.entries(places).reduce((next, [id, place]) => placeLayer(next, areaKey, id, geometryId, place), d),
      );
    }
    if (held.kind === 'frame') selectInside(now(), frameOf(held));
    letGo();
  };
  useEffect(() => {
    if (!held) return;
    const onKey = (e: KeyboardEvent) => e.key === 'Escape' && letGo();
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [held, letGo]);

  /** Where a layer is just now, while it is held. */
  const placementNow = (layerId: string): Placement | null => {
    if (held?.kind !== 'layer' || !held.placement) return null;
    return held.layerId === layerId
      ? held.placement
      : (ownEntry(moved(held.others, held.start, held.placement), layerId) ?? null);
  };
  return { held, grab, press, move, release, letGo, placementNow };
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
