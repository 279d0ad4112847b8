import { WorkerAsker } from '@/bench/worker-asker';
import type { Blank } from '@/core/catalog/blank';
import { fabricOf } from '@/core/listing/pictures';
import type { ArtworkSource } from '@/core/print/plan';
import type { DeskFacts } from '../desk';
import type { ProofAsking } from './proof-view';
import type { ProofQuestion, ProofShared } from './proof.worker';

const asker = new WorkerAsker<ProofQuestion, ProofShared, readonly ImageBitmap[]>(
  () => new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' }),
);

/** Ends the worker that draws, and lets its pictures go. */
export const closeProofs = (): void => asker.close();

const sourcesOf = (artworks: DeskFacts['artworks']): ArtworkSource[] =>
  artworks.flatMap(({ id, facts }) =>
    facts
      ? // Its id stands for its bytes: an artwork never changes, another one takes its place.
        [{ id, sha256: id, vector: facts.vector, widthPx: facts.widthPx, heightPx: facts.heightPx }]
      : [],
  );

/** Who draws proofs of a blank with these artworks and texts. */
export function proofAsking(
  blank: Blank,
  artworks: DeskFacts['artworks'],
  letterings: DeskFacts['letterings'],
): ProofAsking {
  const texts = Object.fromEntries(Object.entries(letterings).map(([id, set]) => [id, set.inks]));
  const shared: ProofShared = { blank, artworks: sourcesOf(artworks), texts };
  return {
    ask: (shot, areas, colors, sidePx) =>
      asker.ask(
        {
          shot: { id: shot.id, hash: shot.hash, areas: shot.areas },
          areas,
          colors: colors.map((code) => ({ code, fabric: fabricOf(blank, code) ?? { hex: '#ffffff', heather: false } })),
          sidePx,
        },
        shared,
      ),
  };
}
