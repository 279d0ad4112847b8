import { LRUCache } from 'lru-cache';
import type { ArtworkSource } from '@/core/print/plan';
import { artworksFrom, type Decoded, type OpenArtwork, type ReadBytes } from './compose';

/** Memory for artworks that are kept decoded. */
const KEPT_BYTES = 80e6;
/** Vectors are drawn no larger for being kept. */
const LARGEST_PX = 4096;

/**
 * Artworks that are kept decoded, each reduced to the half octave above what is asked for, so that it need not be halved whenever it is drawn. Decoding takes longer than all
 * else of a mock-up, and a design that is moved about asks for the same again. For pictures only; print files read their own.
 */
export function keptArtworks(read: ReadBytes): OpenArtwork {
  const open = artworksFrom(read, 1);
  const kept = new LRUCache<string, Decoded>({
    maxSize: KEPT_BYTES,
    sizeCalculation: ({ source }) => Math.max(1, source.data.byteLength),
  });
  const opening = new Map<string, Promise<Decoded>>();
  return async (artwork: ArtworkSource, longPx: number) => {
    if (longPx > LARGEST_PX) return open(artwork, longPx);
    const side = Math.min(LARGEST_PX, Math.round(2 ** (Math.ceil(Math.log2(Math.max(64, longPx)) * 2) / 2)));
    const key = `${artwork.sha256}/${side}`;
    const have = kept.get(key) ?? opening.get(key);
    if (have) return have;
    const decoding = open(artwork, side);
    opening.set(key, decoding);
    try {
      const decoded = await decoding;
      kept.set(key, decoded);
      return decoded;
    } finally {
      opening.delete(key);
    }
  };
}
