import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { isTypicaError } from '@/core/errors';
import { putBlob, readBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { ingestInChild } from '../images/child';
import type { JobControl } from '../jobs/worker';
import { findArtwork, noteIngested } from './artwork';

/** Looks at an uploaded file and notes what it is, or why it cannot be used. A refusal is an answer, not a failure. */
export async function ingestArtwork(ctx: Context, { job }: JobControl): Promise<unknown> {
  const artwork = await findArtwork(ctx, job.workspaceId, String(job.payload.artworkId));
  if (artwork.state !== 'ingesting') return { state: artwork.state };
  const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-ingest-'));
  try {
    const file = path.join(folder, 'input');
    await fs.writeFile(file, await readBlob(ctx, artwork.originalSha256));
    const { facts, files } = await ingestInChild(file, folder);
    const [preview, thumbnail] = await Promise.all([
      putBlob(ctx, await fs.readFile(files.preview), 'image/webp'),
      putBlob(ctx, await fs.readFile(files.thumbnail), 'image/webp'),
    ]);
    const source = files.source
      ? await putBlob(ctx, await fs.readFile(files.source), 'image/svg+xml')
      : artwork.originalSha256;
    await noteIngested(ctx, artwork, { facts, source, preview, thumbnail });
    return { state: 'ready' };
  } catch (error) {
    if (!isTypicaError(error) || error.kind !== 'invalid') throw error;
    await noteIngested(ctx, artwork, { refusal: { code: error.code, message: error.message } });
    return { state: 'refused', message: error.message };
  } finally {
    await fs.rm(folder, { recursive: true, force: true });
  }
}
