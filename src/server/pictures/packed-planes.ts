import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { packPlanes } from '@/core/shot/pack';
import { planesOf } from '@/core/shot/planes';
import { reduceShot } from '@/core/shot/reduce';
import { readBlob } from '../blobs/blobs';
import { passesOfShot, type StoredShot } from '../catalog/blanks';
import type { Context } from '../context';
import { decodeShot } from '../images/shots';

const kept = new Map<string, Promise<Uint8Array<ArrayBuffer>>>();
const KEPT = 24;
/** Times smaller than the shot that the proof is. */
const FACTOR = 2;

const zip = promisify(gzip);

/** A shot's planes at the size of the proof, packed and deflated; the last ones are kept. */
export function packedPlanes(ctx: Context, shot: StoredShot): Promise<Uint8Array<ArrayBuffer>> {
  const have = kept.get(shot.contentHash);
  if (have) return have;
  const packing = (async () => {
    const passes = await passesOfShot(ctx, shot.id);
    const whole = await decodeShot(shot.document, (file) => readBlob(ctx, passes[file] ?? ''));
    const packed = packPlanes(planesOf(reduceShot(whole, FACTOR)), whole.straightTo);
    return new Uint8Array(await zip(packed, { level: 5 }));
  })();
  kept.set(shot.contentHash, packing);
  packing.catch(() => kept.delete(shot.contentHash));
  while (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return packing;
}
