import type { Derivation } from '@/core/findings/remedy';
import { call } from '@/ui/api';
import type { BenchArtwork } from '../desk';

/** Longest that one waits for an artwork to be made, and how often one asks. */
const PATIENCE_MS = 120_000;
const ASK_MS = 400;

/** Has a new artwork made out of one and waits until it is ready. Throws the reason when it cannot be made. */
export async function derived(artworkId: string, derivation: Derivation): Promise<BenchArtwork> {
  const { id } = await call<{ id: string }>('POST', `/artwork/${artworkId}/derivations`, derivation);
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    const artwork = await call<BenchArtwork>('GET', `/artwork/${id}`);
    if (artwork.state === 'ready') return artwork;
    if (artwork.state === 'refused') throw new Error(artwork.refusal?.message ?? 'The artwork could not be made.');
    if (Date.now() > until)
      throw new Error('The artwork is still being made. It will be with your artwork when it is done.');
    await new Promise((resume) => setTimeout(resume, ASK_MS));
  }
}
