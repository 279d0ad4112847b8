import crypto from 'node:crypto';
import { createWriteStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { takeBlob } from './blobs';

export interface UploadLimits {
  readonly maxBytes: number;
  readonly mediaType: string;
  readonly empty: () => TypicaError;
  readonly tooLarge: () => TypicaError;
}

/** What is too much is read on and thrown away up to this many times the limit: a client that is cut off in the middle never sees the answer. */
const DRAIN_FACTOR = 4;

/**
 * Streams a request's body to disk and into the blobs, counting and hashing on the way; never the whole of it in memory. A body that says
 * itself that it is far too large is refused unread.
 */
export async function takeUpload(
  ctx: Context,
  body: ReadableStream<Uint8Array> | null,
  /** What the request says of its length, where it does. */
  declaredBytes: number | null,
  { maxBytes, mediaType, empty, tooLarge }: UploadLimits,
): Promise<{ sha256: string; sizeBytes: number }> {
  if (!body) throw empty();
  if (declaredBytes !== null && declaredBytes > DRAIN_FACTOR * maxBytes) throw tooLarge();
  const folder = path.join(ctx.config.home, 'tmp');
  await fs.mkdir(folder, { recursive: true });
  const file = path.join(folder, newId('up'));
  const hash = crypto.createHash('sha256');
  let size = 0;
  const count = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > DRAIN_FACTOR * maxBytes) return done(tooLarge());
      if (size > maxBytes) return done();
      hash.update(chunk);
      done(null, chunk);
    },
    flush(done) {
      done(size > maxBytes ? tooLarge() : null);
    },
  });
  try {
    await pipeline(Readable.fromWeb(body as never), count, createWriteStream(file));
    if (size === 0) throw empty();
    const sha256 = hash.digest('hex');
    await takeBlob(ctx, file, sha256, size, mediaType);
    return { sha256, sizeBytes: size };
  } finally {
    await fs.rm(file, { force: true });
  }
}

/** The length that a request declares, or null. */
export const declaredBytes = (request: Request): number | null => {
  const text = request.headers.get('content-length');
  return text && /^\d+$/.test(text) ? Number(text) : null;
};
