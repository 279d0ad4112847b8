import type { Derivation } from '@/core/findings/remedy';
import { readyArtwork } from '@/screens/ready-artwork';
import { call } from '@/ui/api';
import type { BenchArtwork } from '../desk';

/** Has a new artwork made out of one and waits until it is ready. Throws the reason when it cannot be made. */
export async function derived(artworkId: string, derivation: Derivation): Promise<BenchArtwork> {
  const { id } = await call<{ id: string }>('POST', `/artwork/${artworkId}/derivations`, derivation);
  return readyArtwork<BenchArtwork>(id);
}
