import crypto from 'node:crypto';
import fs from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { packPlanes, unpackPlanes } from '@/core/shot/pack';
import { planesOf, type Planes } from '@/core/shot/planes';
import { reduceShot } from '@/core/shot/reduce';
import type { ReadBytes } from '../images/compose';
import { decodeShot } from '../images/shots';
import type { ShotFiles } from './painter';

/** Raised when planes are packed in another way: what was kept before is then made anew. */
const PACKED = 1;
/** Times smaller than the shot that proofs are. */
export const HALF = 2;

const [zip, unzip] = [promisify(gzip), promisify(gunzip)];

async function makePacked(read: ReadBytes, shot: ShotFiles): Promise<Uint8Array<ArrayBuffer>> {
  const whole = await decodeShot(shot.document, (file) => read(shot.passes[file] ?? ''));
  const packed = packPlanes(planesOf(reduceShot(whole, HALF)), whole.straightTo);
  return new Uint8Array(await zip(packed, { level: 4 }));
}

/**
 * A shot's planes at half its size, packed and deflated. To read its passes takes longer than all else of a proof: what was made is kept in
 * `cache/planes` of the home, and can be thrown away at any time.
 */
export async function packedHalf(home: string, read: ReadBytes, shot: ShotFiles): Promise<Uint8Array<ArrayBuffer>> {
  const folder = path.join(home, 'cache', 'planes');
  const file = path.join(folder, `${PACKED}-${shot.contentHash}.gz`);
  const kept = await fs.readFile(file).catch(() => null);
  if (kept) return new Uint8Array(kept);
  const packed = await makePacked(read, shot);
  await fs.mkdir(folder, { recursive: true });
  // Written beside and renamed: nobody reads half a file.
  const temporary = `${file}.${crypto.randomUUID()}`;
  await fs.writeFile(temporary, packed);
  await fs.rename(temporary, file);
  return packed;
}

/** The same, unpacked. */
export const halfPlanes = async (home: string, read: ReadBytes, shot: ShotFiles): Promise<Planes> =>
  unpackPlanes(new Uint8Array(await unzip(await packedHalf(home, read, shot))));
