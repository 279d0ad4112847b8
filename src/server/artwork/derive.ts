import { invalid } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { enqueue } from '../jobs/jobs';
import type { Actor } from '../people/people';
import { vectorStays } from '../images/derive';
import { refuseOver } from '../quotas/quotas';
import { findArtwork, type Artwork } from './artwork';

const SUFFIX: Record<Derivation['kind'], string> = {
  trim: 'trimmed',
  background: 'no background',
  solid: 'solid',
  enlarge: 'enlarged',
};

/**
 * Begins to make a new artwork out of one: the old one stays. What was made already is given again, so that doing a remedy, undoing it and
 * doing it again leaves one artwork. Throws `derive-vector`, `artwork-not-ready`.
 */
export async function deriveArtwork(
  ctx: Context,
  actor: Actor,
  artworkId: string,
  asked: { kind: Derivation['kind']; widthPx?: number },
): Promise<Artwork> {
  const from = await findArtwork(ctx, actor.workspaceId, artworkId);
  if (from.state !== 'ready' || !from.facts)
    throw invalid('artwork-not-ready', 'This artwork is not ready yet; wait until it is processed.');
  if (from.facts.vector && asked.kind !== 'background') throw vectorStays();
  const derivation: Derivation =
    asked.kind === 'enlarge' ? { kind: 'enlarge', widthPx: asked.widthPx! } : { kind: asked.kind };
  const text = JSON.stringify(derivation);
  const have = await ctx.db.row<{ id: string }>(
    "SELECT id FROM artwork WHERE workspace_id = ? AND derived_from = ? AND derivation = ? AND state <> 'refused' AND deleted_at IS NULL ORDER BY created_at LIMIT 1",
    [actor.workspaceId, artworkId, text],
  );
  if (have) return findArtwork(ctx, actor.workspaceId, have.id);
  await refuseOver(ctx, actor.workspaceId, 'files');
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const id = newId('a');
  const name = `${from.name.slice(0, 180)}, ${SUFFIX[derivation.kind]}`;
  await ctx.pools.transaction(async (db) => {
    await db.run(
      "INSERT INTO artwork (id, workspace_id, name, state, original_sha256, derived_from, derivation) VALUES (?, ?, ?, 'ingesting', ?, ?, ?)",
      [id, actor.workspaceId, name, from.sourceSha256, artworkId, text],
    );
    await enqueue(db, {
      workspaceId: actor.workspaceId,
      kind: 'ingest-artwork',
      subject: `artwork:${id}`,
      title: `Make ${name}`,
      payload: { artworkId: id },
      priority: 20,
      idempotencyKey: `ingest:${id}`,
      maxAttempts: 3,
    });
  });
  return findArtwork(ctx, actor.workspaceId, id);
}
