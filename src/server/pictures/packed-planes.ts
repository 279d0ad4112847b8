import { passesOfShot, type StoredShot } from '../catalog/blanks';
import type { Context } from '../context';
import { keptHalf } from './half-planes';
import { inStudio } from './painters';

const making = new Map<string, Promise<Uint8Array<ArrayBuffer>>>();

/** A shot's planes at the size of the proof, for a browser; several that ask at once share the work. */
export function packedPlanes(ctx: Context, workspaceId: string, shot: StoredShot): Promise<Uint8Array<ArrayBuffer>> {
  const running = making.get(shot.contentHash);
  if (running) return running;
  const work = (async () => {
    const kept = await keptHalf(ctx.config.home, shot.contentHash);
    if (kept) return kept;
    const { document, contentHash, id } = shot;
    const files = { document, contentHash, passes: await passesOfShot(ctx, id) };
    await inStudio(ctx, { kind: 'planes', shot: files }, { owner: workspaceId });
    return (await keptHalf(ctx.config.home, contentHash))!;
  })();
  making.set(shot.contentHash, work);
  void work.catch(() => undefined).finally(() => making.delete(shot.contentHash));
  return work;
}
