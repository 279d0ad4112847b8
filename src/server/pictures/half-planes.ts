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
import type { ShotFiles } from './shot-files';
import { ownEntry } from '@/core/own-entry';

/** Raised when planes are packed in another way: what was kept before is then made anew. */
const PACKED = 1;
/** Times smaller than the shot that proofs are. */
export const HALF = 2;

const [zip, unzip] = [promisify(gzip), promisify(gunzip)];

const folderOf = (home: string) => path.join(home, 'cache', 'planes');
/** Days after which planes that nobody asked for are thrown away. */
const UNUSED_DAYS = 30;

/** Throws planes away that were of no use for long: of shots that were exchanged or deleted. */
export async function dropUnusedPlanes(home: string, now = Date.now()): Promise<void> {
  const folder = folderOf(home);
  for (const name of await fs.readdir(folder).catch(() => [])) {
    const file = path.join(folder, name);
    const { mtimeMs } = await fs.stat(file);
    if (now - mtimeMs > UNUSED_DAYS * 86_400_000) await fs.rm(file, { force: true });
  }
}

async function makePacked(read: ReadBytes, shot: ShotFiles): Promise<Uint8Array<ArrayBuffer>> {
  const whole = await decodeShot(shot.document, (file) => read(ownEntry(shot.passes, file) ?? ''));
  const packed = packPlanes(planesOf(reduceShot(whole, HALF)), whole.straightTo);
  return new Uint8Array(await zip(packed, { level: 4 }));
}

const fileOf = (home: string, contentHash: string) => path.join(folderOf(home), `${PACKED}-${contentHash}.gz`);

/** Planes that were made before, packed and deflated; null when they are not there. */
export async function keptHalf(home: string, contentHash: string): Promise<Uint8Array<ArrayBuffer> | null> {
  const file = fileOf(home, contentHash);
  const kept = await fs.readFile(file).catch(() => null);
  if (!kept) return null;
  // Its time says when it was last of use.
  const now = new Date();
  await fs.utimes(file, now, now).catch(() => undefined);
  return new Uint8Array(kept);
}

/**
 * A shot's planes at half its size, packed and deflated. To read its passes takes longer than all else of a proof: what was made is kept in
 * `cache/planes` of the home, and can be thrown away at any time.
 */
export async function packedHalf(home: string, read: ReadBytes, shot: ShotFiles): Promise<Uint8Array<ArrayBuffer>> {
  const kept = await keptHalf(home, shot.contentHash);
  if (kept) return kept;
  const packed = await makePacked(read, shot);
  await fs.mkdir(folderOf(home), { recursive: true });
  // Written beside and renamed: nobody reads half a file.
  const file = fileOf(home, shot.contentHash);
  const temporary = `${file}.${crypto.randomUUID()}`;
  await fs.writeFile(temporary, packed);
  await fs.rename(temporary, file);
  return packed;
}

/** The same, unpacked. */
export const halfPlanes = async (home: string, read: ReadBytes, shot: ShotFiles): Promise<Planes> =>
  unpackPlanes(new Uint8Array(await unzip(await packedHalf(home, read, shot))));
