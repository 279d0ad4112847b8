import sharp from 'sharp';
import { COMPARED_PX, isSamePicture } from '@/core/artwork/same-picture';
import type { Pixels } from '@/core/artwork/analysis';
import { SAME_LIKENESS } from '@/core/artwork/likeness';
import { canBeTwins } from '@/core/findings/twin';
import { readBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { emit } from '../events/events';
import { findArtwork, readArtworks, type ArtworkRow } from './artwork';

/** Artworks that are compared with a new one, at most. */
const MAX_COMPARED = 30;

/** A preview of ours in the square in which pictures are compared. */
async function compared(ctx: Context, previewSha256: string): Promise<Pixels> {
  const { data } = await sharp(await readBlob(ctx, previewSha256))
    .resize(COMPARED_PX, COMPARED_PX, { fit: 'fill' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: COMPARED_PX, heightPx: COMPARED_PX, rgba: new Uint8Array(data) };
}

/**
 * Finds the artworks of a workspace that show the same picture as one, and writes them down, both ways. What was made out of one another is the same of course, and
 * is no twin.
 */
export async function findTwins(ctx: Context, workspaceId: string, artworkId: string): Promise<void> {
  const own = await findArtwork(ctx, workspaceId, artworkId);
  if (own.state !== 'ready' || own.purpose !== 'artwork' || !own.facts?.likeness || !own.previewSha256) return;
  const candidates = await readArtworks(
    ctx.db,
    `WHERE workspace_id = ? AND purpose = 'artwork' AND state = 'ready' AND deleted_at IS NULL AND id <> ? AND preview_sha256 IS NOT NULL
       AND BIT_COUNT(likeness ^ CAST(CONV(?, 16, 10) AS UNSIGNED)) <= ${SAME_LIKENESS} ORDER BY created_at DESC, id LIMIT ${MAX_COMPARED}`,
    [workspaceId, artworkId, own.facts.likeness],
  );
  const likely = candidates.filter((other) => !isMadeOf(own, other) && canBeTwins(own.facts!, other.facts!));
  const twins: string[] = [];
  if (likely.length > 0) {
    const picture = await compared(ctx, own.previewSha256);
    for (const other of likely)
      if (isSamePicture(picture, await compared(ctx, other.previewSha256!))) twins.push(other.id);
  }
  await ctx.pools.transaction(async (db) => {
    await db.run('DELETE FROM artwork_twin WHERE artwork_id = ? OR other_id = ?', [artworkId, artworkId]);
    await db.insertMany(
      'artwork_twin',
      ['artwork_id', 'other_id'],
      twins.flatMap((id) => [
        [artworkId, id],
        [id, artworkId],
      ]),
      'ON DUPLICATE KEY UPDATE other_id = other_id',
    );
    // Whoever has one of them open learns of the other.
    if (twins.length > 0)
      for (const id of [artworkId, ...twins]) await emit(db, workspaceId, 'artwork', { artworkId: id, state: 'ready' });
  });
}

const isMadeOf = (one: ArtworkRow, other: ArtworkRow): boolean =>
  one.derivedFrom === other.id ||
  other.derivedFrom === one.id ||
  (one.derivedFrom !== null && one.derivedFrom === other.derivedFrom);
