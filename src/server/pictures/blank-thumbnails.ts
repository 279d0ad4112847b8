import type { Blank } from '@/core/catalog/blank';
import { colorOption } from '@/core/catalog/blank';
import { newDocument } from '@/core/document/document';
import { notFound } from '@/core/errors';
import { OWN_FORMAT } from '@/core/listing/picture-format';
import { planMockup } from '@/core/listing/pictures';
import { putBlob } from '../blobs/blobs';
import { loadBlanks, type StoredShot } from '../catalog/blanks';
import type { Context } from '../context';
import { derivePicture } from './pictures';

/** Longest side of a thumbnail: a row of a list shows it at half of that, sharp on a fine screen too. */
const THUMBNAIL_PX = 160;
const FORM = { ...OWN_FORMAT, longSideMaxPx: THUMBNAIL_PX };

/**
 * The small picture of a bare blank on a color (null where it has none), from one of its shots; made where it is not there yet. Gives the
 * hash of a JPEG. Throws `not-found` for a color that the blank does not have.
 */
export async function blankThumbnail(
  ctx: Context,
  who: { readonly workspaceId: string; readonly currency: string; readonly signal?: AbortSignal },
  blank: Blank,
  shot: StoredShot,
  color: string | null,
): Promise<string> {
  const kept = await ctx.db.row<{ sha256: string }>(
    'SELECT sha256 FROM blank_thumbnail WHERE shot_id = ? AND color = ? AND content_hash = ?',
    [shot.id, color ?? '', shot.contentHash],
  );
  if (kept) return kept.sha256;
  const plan = planMockup(newDocument(blank.id, who.currency, ''), blank, shot, color, new Map());
  if (!plan) throw notFound('picture of this blank', blank.id);
  const { bytes } = await derivePicture(ctx, who.workspaceId, plan, FORM, { size: 'proof', signal: who.signal });
  const sha256 = await putBlob(ctx, bytes, 'image/jpeg');
  await ctx.db.run(
    'INSERT INTO blank_thumbnail (shot_id, color, content_hash, sha256) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE content_hash = VALUE(content_hash), sha256 = VALUE(sha256)',
    [shot.id, color ?? '', shot.contentHash, sha256],
  );
  return sha256;
}

/** Made in one go: other chores wait meanwhile. */
const AT_ONCE = 12;
/** Paints for nobody in particular. */
const EVERYBODY = { workspaceId: 'catalog', currency: 'GBP' };

const WITHOUT_ALL = `
  SELECT s.id, s.blank_id AS blankId, s.workspace_id AS workspaceId, s.document, s.content_hash AS contentHash,
    (SELECT COUNT(*) FROM blank_thumbnail t WHERE t.shot_id = s.id AND t.content_hash = s.content_hash) AS made,
    (SELECT COUNT(*) FROM blank_option_value v WHERE v.blank_id = s.blank_id AND v.option_code =
      (SELECT o.option_code FROM blank_option o JOIN blank_option_value w USING (blank_id, option_code)
       WHERE o.blank_id = s.blank_id AND w.hex IS NOT NULL ORDER BY o.position LIMIT 1)) AS colors
  FROM shot s WHERE s.workspace_id IS NULL AND NOT EXISTS
    (SELECT 1 FROM shot e WHERE e.blank_id = s.blank_id AND e.workspace_id IS NULL
      AND (e.position < s.position OR e.position = s.position AND e.id < s.id))
  HAVING made < GREATEST(1, colors) ORDER BY made, s.blank_id LIMIT ?`;

/** Makes thumbnails of the catalog's blanks that are not there yet, each blank's first color first. Gives how many. */
export async function makeBlankThumbnails(ctx: Context, most = AT_ONCE): Promise<number> {
  const shots = await ctx.db.rows<StoredShot & { made: number }>(WITHOUT_ALL, [most]);
  if (shots.length === 0) return 0;
  const blanks = await loadBlanks(
    ctx,
    shots.map(({ blankId }) => blankId),
  );
  for (const shot of shots) {
    const blank = blanks.find(({ id }) => id === shot.blankId)!;
    const kept = await ctx.db.rows<{ color: string }>(
      'SELECT color FROM blank_thumbnail WHERE shot_id = ? AND content_hash = ?',
      [shot.id, shot.contentHash],
    );
    const colors = colorOption(blank)?.values.map(({ code }) => code) ?? [null];
    const next = colors.find((color) => kept.every((one) => one.color !== (color ?? '')));
    if (next !== undefined) await blankThumbnail(ctx, EVERYBODY, blank, shot, next);
  }
  return shots.length;
}
