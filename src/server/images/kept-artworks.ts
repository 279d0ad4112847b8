import type { ArtworkSource } from '@/core/print/plan';
import { artworksFrom, type Decoded, type OpenArtwork, type ReadBytes } from './compose';

/** Memory for artworks that are kept decoded. */
const KEPT_BYTES = 160e6;
/** Vectors are drawn no larger for being kept. */
const LARGEST_PX = 4096;

/**
 * Artworks that are kept decoded, each reduced to the half octave above what is asked for, so that it need not be halved whenever it is drawn. Decoding takes longer than all
 * else of a mock-up, and a design that is moved about asks for the same again. For pictures only; print files read their own.
 */
export function keptArtworks(read: ReadBytes): OpenArtwork {
  const open = artworksFrom(read, 1);
  const kept = new Map<string, Promise<Decoded>>();
  const sizes = new Map<string, number>();
  const makeRoom = () => {
    const held = () => [...sizes.values()].reduce((sum, bytes) => sum + bytes, 0);
    for (const key of [...sizes.keys()]) {
      if (held() <= KEPT_BYTES || sizes.size === 1) return;
      sizes.delete(key);
      kept.delete(key);
    }
  };
  return (artwork: ArtworkSource, longPx: number) => {
    const side = Math.min(LARGEST_PX, Math.round(2 ** (Math.ceil(Math.log2(Math.max(64, longPx)) * 2) / 2)));
    if (longPx > LARGEST_PX) return open(artwork, longPx);
    const key = `${artwork.sha256}/${side}`;
    const have = kept.get(key);
    if (have) return have;
    const decoding = open(artwork, side);
    kept.set(key, decoding);
    decoding.then(
      ({ source }) => {
        sizes.set(key, source.data.byteLength);
        makeRoom();
      },
      () => kept.delete(key),
    );
    return decoding;
  };
}
