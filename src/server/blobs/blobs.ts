import crypto from 'node:crypto';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import type { Database } from '../db/pool';
import { isTypicaError } from '@/core/errors';

export const sha256Of = (bytes: Uint8Array): string => crypto.createHash('sha256').update(bytes).digest('hex');

/**
 * Puts bytes and gives their hash. The row is written first and held while the file is put, so that the cleaner, which holds the same
 * row while it takes a file away, cannot come between.
 */
export async function putBlob(ctx: Context, bytes: Uint8Array, mediaType: string): Promise<string> {
  const sha256 = sha256Of(bytes);
  await holdRow(ctx, sha256, bytes.byteLength, mediaType, () => ctx.files.put(sha256, bytes));
  return sha256;
}

/** Takes in a finished temporary file under its known hash. */
export async function takeBlob(
  ctx: Context,
  file: string,
  sha256: string,
  sizeBytes: number,
  mediaType: string,
): Promise<void> {
  await holdRow(ctx, sha256, sizeBytes, mediaType, () => ctx.files.take(sha256, file));
}

/** Takes in a finished file, whatever its hash; never the whole of it in memory. Gives the hash. */
export async function takeFile(ctx: Context, file: string, mediaType: string): Promise<string> {
  const hash = crypto.createHash('sha256');
  await pipeline(createReadStream(file), hash);
  const sha256 = hash.digest('hex');
  await takeBlob(ctx, file, sha256, (await fs.stat(file)).size, mediaType);
  return sha256;
}

async function holdRow(
  ctx: Context,
  sha256: string,
  sizeBytes: number,
  mediaType: string,
  put: () => Promise<void>,
): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO blob_object (sha256, size_bytes, media_type, touched_at) VALUES (?, ?, ?, UTC_TIMESTAMP(3)) ON DUPLICATE KEY UPDATE touched_at = UTC_TIMESTAMP(3), dropping = FALSE',
      [sha256, sizeBytes, mediaType],
    );
    await put();
  });
}

export const readBlob = (ctx: Context, sha256: string): Promise<Buffer> => ctx.files.get(sha256);

/** What is known of a blob; null for one that is not there, or is being taken away. */
export async function blobInfo(ctx: Context, sha256: string): Promise<{ sizeBytes: number; mediaType: string } | null> {
  return ctx.db.row(
    'SELECT size_bytes AS sizeBytes, media_type AS mediaType FROM blob_object WHERE sha256 = ? AND NOT dropping',
    [sha256],
  );
}

/** Columns that refer to blobs, from the foreign keys themselves: a new table that refers to one is never forgotten. */
async function references(db: Database): Promise<{ table: string; column: string }[]> {
  return db.rows(
    `SELECT TABLE_NAME AS \`table\`, COLUMN_NAME AS \`column\` FROM information_schema.KEY_COLUMN_USAGE
     WHERE TABLE_SCHEMA = DATABASE() AND REFERENCED_TABLE_NAME = 'blob_object'`,
  );
}

/**
 * Takes away blobs that nothing refers to and that nobody has put for `graceMinutes`. A row is marked first, by itself: whatever is cut off
 * afterwards, no row that is in use can be without its file. Gives how many.
 */
export async function cleanBlobs(ctx: Context, graceMinutes = 60): Promise<number> {
  const unused = (await references(ctx.db)).map(
    ({ table, column }) => `NOT EXISTS (SELECT 1 FROM \`${table}\` r WHERE r.\`${column}\` = b.sha256)`,
  );
  const candidates = await ctx.db.rows<{ sha256: string }>(
    `SELECT b.sha256 FROM blob_object b WHERE b.touched_at < UTC_TIMESTAMP(3) - INTERVAL ? MINUTE AND ${unused.join(' AND ')} LIMIT 500`,
    [graceMinutes],
  );
  let cleaned = 0;
  for (const { sha256 } of candidates) {
    try {
      await ctx.db.run(
        'UPDATE blob_object SET dropping = TRUE WHERE sha256 = ? AND touched_at < UTC_TIMESTAMP(3) - INTERVAL ? MINUTE',
        [sha256, graceMinutes],
      );
      await ctx.pools.transaction(async (db) => {
        // The foreign keys have the last word: a row that came to be used since is refused. Whoever puts the same bytes now waits for
        // this transaction and writes the file anew.
        const { affectedRows } = await db.run(
          'DELETE FROM blob_object WHERE sha256 = ? AND dropping AND touched_at < UTC_TIMESTAMP(3) - INTERVAL ? MINUTE',
          [sha256, graceMinutes],
        );
        if (affectedRows === 0) return;
        await ctx.files.remove(sha256);
        cleaned += 1;
      });
    } catch (error) {
      if (!isTypicaError(error, 'still-referenced') && !isDuplicate(error)) throw error;
    }
  }
  return cleaned;
}
