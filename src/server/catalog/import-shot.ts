import crypto from 'node:crypto';
import { canonicalJson } from '@/core/listing/canonical';
import { checkShotDocument } from '@/core/shot/shot';
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
  const files = [
    ...Object.values(document.passes),
    ...Object.values(document.areas).flatMap((area) => [area.coverage, area.map]),
  ].map((pass) => pass.file);
  const bytes = await Promise.all(files.map((file) => readShotFile(code, file)));
  const hash = crypto.createHash('sha256').update(canonicalJson(document));
  for (const part of bytes) hash.update(crypto.createHash('sha256').update(part).digest());
  const contentHash = hash.digest('hex');
  const have = await ctx.db.row<{ id: string; contentHash: string }>(
    'SELECT id, content_hash AS contentHash FROM shot WHERE blank_id = ? AND code = ?',
    [blankId, code],
  );
  if (have?.contentHash === contentHash) return;
  const hashes: string[] = [];
  for (const part of bytes) hashes.push(await putBlob(ctx, part, 'image/png'));
  await ctx.pools.transaction(async (db) => {
    const id = have?.id ?? newId('h');
    await db.run(
      'INSERT INTO shot (id, blank_id, code, position, document, content_hash) VALUES (?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE position = VALUE(position), document = VALUE(document), content_hash = VALUE(content_hash)',
      [id, blankId, code, position, JSON.stringify(document), contentHash],
    );
    await db.run('DELETE FROM shot_pass WHERE shot_id = ?', [id]);
    await db.insertMany(
      'shot_pass',
      ['shot_id', 'file', 'sha256'],
      files.map((file, i) => [id, file, hashes[i]!]),
    );
  });
}
