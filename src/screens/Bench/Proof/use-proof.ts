'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Live } from '@/bench/live';
import { placeLayer } from '@/bench/placing';
import type { ProductDocument } from '@/core/document/document';
import { fabricOf } from '@/core/listing/pictures';
import type { Desk } from '../desk';
import type { BenchShot } from '../load';
import { ProofAsker, type ProofWorld } from './asker';
import type { ProofAsking } from './proof-view';

/** The worker that draws proofs, and what it has to know of the bench. */
export function useProofAsker(desk: Pick<Desk, 'data' | 'artworks' | 'letterings'>): ProofAsking {
  const asker = useRef<ProofAsker | null>(null);
  useEffect(() => () => asker.current?.close(), []);
  const { blank } = desk.data;
  const sources = useMemo(
    () =>
      desk.artworks.flatMap(({ id, facts }) =>
        facts
          ? // Its id stands for its bytes: an artwork never changes, another one takes its place.
            [{ id, sha256: id, vector: facts.vector, widthPx: facts.widthPx, heightPx: facts.heightPx }]
          : [],
      ),
    [desk.artworks],
  );
  const texts = useMemo(
    () => Object.fromEntries(Object.entries(desk.letterings).map(([id, set]) => [id, set.inks])),
    [desk.letterings],
  );
  const world: ProofWorld = useMemo(() => ({ blank, artworks: sources, texts }), [blank, sources, texts]);
  return useMemo(
    () => ({
      ask(shot, areas, colors, sidePx) {
        asker.current ??= new ProofAsker();
        return asker.current.ask(
          {
            shot: { id: shot.id, hash: shot.hash, areas: shot.areas },
            areas,
            colors: colors.map((code) => ({
              code,
              fabric: fabricOf(blank, code) ?? { hex: '#ffffff', heather: false },
            })),
            sidePx,
          },
          world,
        );
      },
    }),
    [blank, world],
  );
}

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
  readonly problem: string | null;
}

/**
 * Draws the proof of a shot onto a canvas, also while something is dragged: one picture is asked for at a time, and of those that were
 * wanted meanwhile only the last.
 */
export function useLiveProof(
  desk: Desk,
  asking: ProofAsking,
  shot: BenchShot | null,
  canvas: HTMLCanvasElement | null,
): ProofState {
  const { doc, color, live, areaKey, geometryId } = desk;
  const [shown, setShown] = useState<Shown>({ doc: null, asking: null, problem: null });
  const wanted = useRef({ version: 0, drawn: 0, busy: false });
  const latest = useRef({ doc, color, shot, canvas, asking, areaKey, geometryId });
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
        const areas = withLive(now, now.doc, live.get());
        try {
          const [picture] = await now.asking.ask(now.shot, areas, [now.color]);
          show(now.canvas, picture!);
          performance.measure('proof', { start: began, end: performance.now() });
          setShown((before) =>
            before.doc === now.doc && before.asking === now.asking && !before.problem
              ? before
              : { doc: now.doc, asking: now.asking, problem: null },
          );
        } catch (error) {
          setShown({ doc: now.doc, asking: now.asking, problem: (error as Error).message });
        }
        state.drawn = version;
      }
    } finally {
      state.busy = false;
    }
  }, [live]);
  useEffect(() => {
    latest.current = { doc, color, shot, canvas, asking, areaKey, geometryId };
    wanted.current.version += 1;
    void run();
  }, [doc, color, shot, canvas, asking, areaKey, geometryId, run]);
  useEffect(
    () =>
      live.subscribe(() => {
        wanted.current.version += 1;
        void run();
      }),
    [live, run],
  );
  // What is asked with other letters or artworks is another picture; letters that are not set yet are on their way.
  const lettered = Object.values(doc.areas).every(({ layers }) =>
    Object.entries(layers).every(([id, layer]) => layer.kind !== 'text' || Object.hasOwn(desk.letterings, id)),
  );
  return { current: lettered && shown.doc === doc && shown.asking === asking, problem: shown.problem };
}

/** Puts a picture onto a canvas, which takes its size. */
export function show(canvas: HTMLCanvasElement, picture: ImageBitmap): void {
  if (canvas.width !== picture.width || canvas.height !== picture.height) {
    canvas.width = picture.width;
    canvas.height = picture.height;
  }
  canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(picture);
}
