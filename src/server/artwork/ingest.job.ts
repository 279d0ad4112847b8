import fs from 'node:fs/promises';
import path from 'node:path';
import { isTypicaError } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { takeFile } from '../blobs/blobs';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { ingestInChild } from '../images/child';
import type { JobControl } from '../jobs/worker';
import type { JobRow } from '../jobs/job-row';
import { enqueue } from '../jobs/jobs';
import { checkPhotograph } from '../photographs/limits';
import { findArtwork, recordFacts, recordIngested, type ArtworkRow } from './artwork';
import { findTwins } from './twins';

/** What a derived artwork must not forget: that its pixels were made larger than they were. */
async function markOf(ctx: Context, artwork: ArtworkRow, derivation: Derivation | null) {
  if (!derivation || !artwork.derivedFrom) return {};
  const from = await findArtwork(ctx, artwork.workspaceId, artwork.derivedFrom);
  const before = from.facts?.enlargedFromPx ?? (derivation.kind === 'enlarge' ? from.facts?.widthPx : undefined);
  return before ? { enlargedFromPx: before } : {};
}

interface Places {
  /** The artwork's original, for reading only: it is the blob itself. */
  readonly file: string;
  readonly folder: string;
}

/** Does work with an artwork's original as a file, and a folder for what is made of it; both are gone afterwards. */
async function withOriginal<T>(ctx: Context, artwork: ArtworkRow, work: (places: Places) => Promise<T>): Promise<T> {
  const base = path.join(ctx.config.home, 'tmp', newId('ingest'));
  const places = { file: path.join(base, 'in', 'input'), folder: path.join(base, 'out') };
  try {
    for (const folder of [path.dirname(places.file), places.folder]) await fs.mkdir(folder, { recursive: true });
    await ctx.files.link(artwork.originalSha256, places.file);
    return await work(places);
  } finally {
    await fs.rm(base, { recursive: true, force: true });
  }
}

/** What is told of a file that cannot be used; null for what is no fault of the file's, or may be none: that is tried again. */
function refusalOf(error: unknown, job: JobRow): { code: string; message: string } | null {
  if (isTypicaError(error) && error.kind === 'invalid') return { code: error.code, message: error.message };
  if (!isTypicaError(error, 'reader-stopped') || job.attempts < job.maxAttempts) return null;
  return {
    code: 'artwork-unreadable',
    message: 'This file could not be read: the reader stopped in the middle each time. Export it again, or as PNG.',
  };
}

/** Looks at an uploaded file and notes what it is, or why it cannot be used. A refusal is an answer, not a failure. */
export async function ingestArtwork(ctx: Context, { job, signal }: JobControl): Promise<unknown> {
  const artwork = await findArtwork(ctx, job.workspaceId, String(job.payload.artworkId));
  if (artwork.state === 'ready' && job.payload.again) return lookAgain(ctx, artwork, signal);
  if (artwork.state !== 'ingesting') return { state: artwork.state };
  try {
    return await withOriginal(ctx, artwork, (places) => ingestFile(ctx, artwork, places, signal));
  } catch (error) {
    const refusal = refusalOf(error, job);
    if (!refusal) throw error;
    await recordIngested(ctx, artwork, { refusal });
    return { state: 'refused', message: refusal.message };
  }
}

async function ingestFile(
  ctx: Context,
  artwork: ArtworkRow,
  { file, folder }: Places,
  signal: AbortSignal,
): Promise<unknown> {
  const derivation = artwork.derivation ? (JSON.parse(artwork.derivation) as Derivation) : null;
  const { facts: found, files } = await ingestInChild(file, folder, { derivation, signal, owner: artwork.workspaceId });
  if (artwork.purpose === 'photograph') checkPhotograph(found);
  const facts = { ...found, ...(await markOf(ctx, artwork, derivation)) };
  const [preview, thumbnail] = await Promise.all([
    takeFile(ctx, files.preview, 'image/webp'),
    takeFile(ctx, files.thumbnail, 'image/webp'),
  ]);
  const original = derivation ? await takeDerived(ctx, folder, found.vector) : artwork.originalSha256;
  const source = files.source ? await takeFile(ctx, files.source, 'image/svg+xml') : original;
  await recordIngested(ctx, artwork, { facts, original, source, preview, thumbnail });
  await findTwins(ctx, artwork.workspaceId, artwork.id);
  return { state: 'ready' };
}

const takeDerived = (ctx: Context, folder: string, isVector: boolean): Promise<string> =>
  isVector
    ? takeFile(ctx, path.join(folder, 'derived.svg'), 'image/svg+xml')
    : takeFile(ctx, path.join(folder, 'derived.png'), 'image/png');

/** Looks at an artwork anew that was taken in before there were the checks of today; its files stay, its facts become whole. */
async function lookAgain(ctx: Context, artwork: ArtworkRow, signal: AbortSignal): Promise<unknown> {
  return withOriginal(ctx, artwork, async ({ file, folder }) => {
    const { facts } = await ingestInChild(file, folder, { signal, owner: artwork.workspaceId });
    await recordFacts(ctx, artwork, {
      ...facts,
      ...(artwork.facts?.enlargedFromPx ? { enlargedFromPx: artwork.facts.enlargedFromPx } : {}),
    });
    await findTwins(ctx, artwork.workspaceId, artwork.id);
    return { state: 'ready' };
  });
}

/** Asks for some artworks to be looked at again that lack what today's checks need; each once. */
export async function askToLookAgain(ctx: Context): Promise<void> {
  const rows = await ctx.db.rows<{ id: string; workspaceId: string; name: string }>(
    `SELECT id, workspace_id AS workspaceId, name FROM artwork
     WHERE state = 'ready' AND deleted_at IS NULL AND NOT JSON_EXISTS(facts, '$.words')
       AND NOT EXISTS (SELECT 1 FROM job WHERE job.workspace_id = artwork.workspace_id AND idempotency_key = CONCAT('again-words:', artwork.id))
     ORDER BY id LIMIT 20`,
  );
  for (const { id, workspaceId, name } of rows)
    await enqueue(ctx.db, {
      workspaceId,
      kind: 'ingest-artwork',
      title: `Process ${name} again`,
      payload: { artworkId: id, again: true },
      subject: `artwork:${id}`,
      priority: 1,
      idempotencyKey: `again-words:${id}`,
      maxAttempts: 2,
    });
}
