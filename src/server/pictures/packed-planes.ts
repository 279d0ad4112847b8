import { readBlob } from '../blobs/blobs';
import { passesOfShot, type StoredShot } from '../catalog/blanks';
import type { Context } from '../context';
import { packedHalf } from './half-planes';

const making = new Map<string, Promise<Uint8Array<ArrayBuffer>>>();

/** A shot's planes at the size of the proof, for a browser; several that ask at once share the work. */
export function packedPlanes(ctx: Context, shot: StoredShot): Promise<Uint8Array<ArrayBuffer>> {
  const running = making.get(shot.contentHash);
  if (running) return running;
  const work = (async () => {
    const passes = await passesOfShot(ctx, shot.id);
    const { document, contentHash } = shot;
    return packedHalf(ctx.config.home, (sha256) => readBlob(ctx, sha256), { document, contentHash, passes });
  })();
  making.set(shot.contentHash, work);
  void work.catch(() => undefined).finally(() => making.delete(shot.contentHash));
  return work;
}
