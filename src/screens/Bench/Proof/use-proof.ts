'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Live } from '@/bench/live';
import { placeLayer } from '@/bench/placing';
import type { ProductDocument } from '@/core/document/document';
import { useDesk, type Desk } from '../desk';
import type { BenchShot } from '../load';
import type { ProofAsking } from './proof-view';

/** The design with what is being dragged where it is now. */
export function withLive(desk: Pick<Desk, 'areaKey' | 'geometryId'>, doc: ProductDocument, live: Live | null) {
  if (!live) return doc.areas;
  let moved = doc;
  for (const [id, placement] of [[live.layerId, live.placement] as const, ...Object.entries(live.others)])
    moved = placeLayer(moved, desk.areaKey, id, desk.geometryId, placement);
  return moved.areas;
}

/** What the picture in view was drawn of. */
interface Shown {
  readonly doc: ProductDocument | null;
  readonly asking: ProofAsking | null;
  readonly problem: string | null;
}

export interface ProofState {
  /** Whether the picture in view is the design as it is now. */
  readonly current: boolean;
  /** Whether some of its texts are not in it yet: their letters are on their way. */
  readonly lettersMissing: boolean;
  readonly problem: string | null;
}

/**
 * Draws the proof of a shot onto a canvas, also while something is dragged: one picture is asked for at a time, and of those that were
 * wanted meanwhile only the last.
 */
export function useLiveProof(shot: BenchShot | null, canvas: HTMLCanvasElement | null): ProofState {
  const { designed, color, live, areaKey, geometryId, asking, letterings } = useDesk(
    'designed',
    'color',
    'live',
    'areaKey',
    'geometryId',
    'asking',
    'letterings',
  );
  const [shown, setShown] = useState<Shown>({ doc: null, asking: null, problem: null });
  const wanted = useRef({ version: 0, drawn: 0, busy: false });
  const latest = useRef({ designed, color, shot, canvas, asking, areaKey, geometryId });
  const run = useCallback(async () => {
    const state = wanted.current;
    if (state.busy) return;
    state.busy = true;
    try {
      while (state.drawn !== state.version) {
        const version = state.version;
        const now = latest.current;
        if (!now.shot || !now.canvas) break;
        const began = performance.now();
        const areas = withLive(now, now.designed, live.get());
        try {
          const [picture] = await now.asking.ask(now.shot, areas, [now.color]);
          show(now.canvas, picture!);
          performance.measure('proof', { start: began, end: performance.now() });
          setShown((before) =>
            before.doc === now.designed && before.asking === now.asking && !before.problem
              ? before
              : { doc: now.designed, asking: now.asking, problem: null },
          );
        } catch (error) {
          setShown({ doc: now.designed, asking: now.asking, problem: (error as Error).message });
        }
        state.drawn = version;
      }
    } finally {
      state.busy = false;
    }
  }, [live]);
  useEffect(() => {
    latest.current = { designed, color, shot, canvas, asking, areaKey, geometryId };
    wanted.current.version += 1;
    void run();
  }, [designed, color, shot, canvas, asking, areaKey, geometryId, run]);
  useEffect(
    () =>
      live.subscribe(() => {
        wanted.current.version += 1;
        void run();
      }),
    [live, run],
  );
  // What is asked with other letters or artworks is another picture; letters that are not set yet are on their way.
  const lettersMissing = Object.values(designed.areas).some(({ layers }) =>
    Object.entries(layers).some(([id, layer]) => layer.kind === 'text' && !Object.hasOwn(letterings, id)),
  );
  return {
    current: !lettersMissing && shown.doc === designed && shown.asking === asking,
    lettersMissing,
    problem: shown.problem,
  };
}

/** Puts a picture onto a canvas, which takes its size. */
export function show(canvas: HTMLCanvasElement, picture: ImageBitmap): void {
  if (canvas.width !== picture.width || canvas.height !== picture.height) {
    canvas.width = picture.width;
    canvas.height = picture.height;
  }
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(picture);
}
