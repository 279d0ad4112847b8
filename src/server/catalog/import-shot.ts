import crypto from 'node:crypto';
import { canonicalJson } from '@/core/canonical/canonical';
import { checkShotDocument, shotFiles, type ShotDocument } from '@/core/shot/shot';
import { putBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { newId } from '../db/ids';

/** Where the files of a shot come from. */
export type ReadShotFile = (shotCode: string, file: string) => Promise<Buffer>;
/** Reads a shot's document and passes; one that is there with the same content is left alone. */
export async function importShot(
  ctx: Context,
  blankId: string,
  code: string,
  position: number,
  readShotFile: ReadShotFile,
): Promise<void> {
  const document = checkShotDocument(JSON.parse((await readShotFile(code, 'shot.json')).toString('utf8')));
  const files = shotFiles(document);
  const bytes = await Promise.all(files.map((file) => readShotFile(code, file)));
  const have = await ctx.db.row<{ id: string; contentHash: string; position: number }>(
    'SELECT id, content_hash AS contentHash, position FROM shot WHERE blank_id = ? AND code = ?',
    [blankId, code],
  );
  const passes = new Map(files.map((file, i) => [file, bytes[i]!]));
  if (have?.contentHash === shotHash(document, passes) && have.position === position) return;
  await writeShot(ctx, { id: have?.id ?? newId('h'), blankId, code, position, document, passes });
}

/** A shot's document and files, to be stored. */
export interface NewShot {
  readonly id: string;
  readonly blankId: string;
  readonly code: string;
  readonly position: number;
  readonly document: ShotDocument;
  readonly passes: ReadonlyMap<string, Buffer>;
  /** A seller's own shot: whose, out of which photograph, and how it was marked. */
  readonly own?: { readonly workspaceId: string; readonly photographId: string; readonly marked: string };
}

/** Hash of a document and its files: a picture made from other passes is another picture. */
function shotHash(document: ShotDocument, passes: ReadonlyMap<string, Buffer>): string {
  const hash = crypto.createHash('sha256').update(canonicalJson(document));
  for (const part of passes.values()) hash.update(crypto.createHash('sha256').update(part).digest());
  return hash.digest('hex');
}

/** Stores a shot under its id, in the place of what was there. */
export async function writeShot(
  ctx: Context,
  { id, blankId, code, position, document, passes, own }: NewShot,
): Promise<void> {
  const hashes: [string, string][] = [];
  for (const [file, bytes] of passes) hashes.push([file, await putBlob(ctx, bytes, 'image/png')]);
  await ctx.pools.transaction(async (db) => {
    await db.run(
      `INSERT INTO shot (id, blank_id, code, position, document, content_hash, workspace_id, photograph_id, marked) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE position = VALUE(position), document = VALUE(document), content_hash = VALUE(content_hash), photograph_id = VALUE(photograph_id), marked = VALUE(marked)`,
      [
        id,
        blankId,
        code,
        position,
        JSON.stringify(document),
        shotHash(document, passes),
        own?.workspaceId ?? null,
        own?.photographId ?? null,
        own?.marked ?? null,
      ],
    );
    await db.run('DELETE FROM shot_pass WHERE shot_id = ?', [id]);
    await db.insertMany(
      'shot_pass',
      ['shot_id', 'file', 'sha256'],
      hashes.map(([file, sha256]) => [id, file, sha256]),
    );
  });
}

/** Forgets the catalog's shots of a blank that its file no longer names. Products that chose one lose that picture, and nothing else. */
export async function dropShots(ctx: Context, blankId: string, kept: readonly string[]): Promise<void> {
  const where = `blank_id = ? AND workspace_id IS NULL${kept.length > 0 ? ` AND code NOT IN (${kept.map(() => '?').join(',')})` : ''}`;
  await ctx.pools.transaction(async (db) => {
    await db.run(`DELETE FROM shot_pass WHERE shot_id IN (SELECT id FROM shot WHERE ${where})`, [blankId, ...kept]);
    await db.run(`DELETE FROM shot WHERE ${where}`, [blankId, ...kept]);
  });
}
