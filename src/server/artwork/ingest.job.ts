import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { isTypicaError } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { putBlob, readBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { ingestInChild } from '../images/child';
import type { JobControl } from '../jobs/worker';
import { findArtwork, noteIngested, type ArtworkRow } from './artwork';

/** What a derived artwork must not forget: that its pixels were made larger than they were. */
async function markOf(ctx: Context, artwork: ArtworkRow, derivation: Derivation | null) {
  if (!derivation || !artwork.derivedFrom) return {};
  const from = await findArtwork(ctx, artwork.workspaceId, artwork.derivedFrom);
  const before = from.facts?.enlargedFromPx ?? (derivation.kind === 'enlarge' ? from.facts?.widthPx : undefined);
  return before ? { enlargedFromPx: before } : {};
}

/** Looks at an uploaded file and notes what it is, or why it cannot be used. A refusal is an answer, not a failure. */
export async function ingestArtwork(ctx: Context, { job }: JobControl): Promise<unknown> {
  const artwork = await findArtwork(ctx, job.workspaceId, String(job.payload.artworkId));
  if (artwork.state !== 'ingesting') return { state: artwork.state };
  const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-ingest-'));
  try {
    const file = path.join(folder, 'input');
    await fs.writeFile(file, await readBlob(ctx, artwork.originalSha256));
    const derivation = artwork.derivation ? (JSON.parse(artwork.derivation) as Derivation) : null;
    const { facts: found, files } = await ingestInChild(file, folder, { derivation });
    const facts = { ...found, ...(await markOf(ctx, artwork, derivation)) };
    const [preview, thumbnail] = await Promise.all([
      putBlob(ctx, await fs.readFile(files.preview), 'image/webp'),
      putBlob(ctx, await fs.readFile(files.thumbnail), 'image/webp'),
    ]);
    const original = derivation
      ? await putBlob(ctx, await fs.readFile(path.join(folder, 'derived.png')), 'image/png')
      : artwork.originalSha256;
    const source = files.source ? await putBlob(ctx, await fs.readFile(files.source), 'image/svg+xml') : original;
    await noteIngested(ctx, artwork, { facts, original, source, preview, thumbnail });
    return { state: 'ready' };
  } catch (error) {
    if (!isTypicaError(error) || error.kind !== 'invalid') throw error;
    await noteIngested(ctx, artwork, { refusal: { code: error.code, message: error.message } });
    return { state: 'refused', message: error.message };
  } finally {
    await fs.rm(folder, { recursive: true, force: true });
  }
}
