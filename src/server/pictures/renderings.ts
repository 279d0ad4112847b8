import { LRUCache } from 'lru-cache';
import { isTypicaError, type TypicaError } from '@/core/errors';
import { putBlob, takeFile } from '../blobs/blobs';
import type { Context } from '../context';
import { processWide } from '../process-wide';

export interface Rendering {
  readonly sha256: string;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What a picture is like, where that was asked for. */
  readonly likeness: string | null;
  readonly tint: string | null;
}

/** What is made: bytes, or a finished file that is taken away. */
export type Made = ({ readonly bytes: Buffer } | { readonly file: string }) & {
  readonly mediaType: string;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly alike?: { readonly likeness: string; readonly tint: string } | null;
};

const COLUMNS = 'sha256, width_px AS widthPx, height_px AS heightPx, likeness, tint';

/** Something that is being made, for all who asked for it meanwhile; when the last of them gives up, so does the making. */
interface Making {
  readonly work: Promise<Rendering>;
  readonly end: AbortController;
  waiting: number;
}

const making = processWide('renderings', () => new Map<string, Making>());

/** What took too long or too much lately, so that asking again and again does not cost again and again. */
const failedLately = processWide(
  'failed-renderings',
  () => new LRUCache<string, TypicaError>({ max: 2000, ttl: 10 * 60_000 }),
);
const COSTLY: ReadonlySet<string> = new Set([
  'print-too-slow',
  'print-too-heavy',
  'picture-too-slow',
  'picture-too-heavy',
]);

/** Waits for what is being made until it is there or the one who waits is gone. */
function shared(one: Making, signal: AbortSignal | undefined): Promise<Rendering> {
  if (!signal) {
    // Jobs have no connection that could be closed: they wait to the end.
    one.waiting += 1;
    return one.work;
  }
  one.waiting += 1;
  return new Promise((resolve, reject) => {
    const gone = () => {
      one.waiting -= 1;
      if (one.waiting === 0) one.end.abort(signal.reason);
      reject(signal.reason as Error);
    };
    if (signal.aborted) return gone();
    signal.addEventListener('abort', gone, { once: true });
    one.work.then(resolve, reject).finally(() => signal.removeEventListener('abort', gone));
  });
}

export const findRendering = (ctx: Context, workspaceId: string, key: string): Promise<Rendering | null> =>
  ctx.db.row<Rendering>(`SELECT ${COLUMNS} FROM rendering WHERE workspace_id = ? AND render_key = ?`, [
    workspaceId,
    key,
  ]);

/**
 * The rendering under a key of everything that it is made from; made when it is not there. Two who ask at once in one process share
 * the work; in two processes both make it, to the same bytes.
 */
export async function ensureRendering(
  ctx: Context,
  { workspaceId, signal }: { readonly workspaceId: string; readonly signal?: AbortSignal },
  key: string,
  kind: 'mock-up' | 'print-file',
  make: (signal: AbortSignal) => Promise<Made>,
): Promise<Rendering> {
  const have = await findRendering(ctx, workspaceId, key);
  if (have) {
    await ctx.db.run(
      'UPDATE rendering SET used_at = UTC_TIMESTAMP(3) WHERE workspace_id = ? AND render_key = ? AND used_at < UTC_TIMESTAMP(3) - INTERVAL 1 HOUR',
      [workspaceId, key],
    );
    return have;
  }
  const id = `${workspaceId}/${key}`;
  const failed = failedLately.get(id);
  if (failed) throw failed;
  const running = making.get(id);
  if (running && !running.end.signal.aborted) return shared(running, signal);
  const end = new AbortController();
  const work = makeRendering(ctx, workspaceId, key, kind, () => make(end.signal));
  const one: Making = { work, end, waiting: 0 };
  making.set(id, one);
  work
    .catch((error: unknown) => {
      if (isTypicaError(error) && COSTLY.has(error.code)) failedLately.set(id, error);
    })
    .finally(() => {
      if (making.get(id) === one) making.delete(id);
    });
  return shared(one, signal);
}

async function makeRendering(
  ctx: Context,
  workspaceId: string,
  key: string,
  kind: 'mock-up' | 'print-file',
  make: () => Promise<Made>,
): Promise<Rendering> {
  const made = await make();
  const { mediaType, widthPx, heightPx, alike } = made;
  const sha256 = 'file' in made ? await takeFile(ctx, made.file, mediaType) : await putBlob(ctx, made.bytes, mediaType);
  await ctx.db.run(
    `INSERT INTO rendering (workspace_id, render_key, kind, sha256, size_bytes, width_px, height_px, likeness, tint)
     SELECT ?, ?, ?, sha256, size_bytes, ?, ?, ?, ? FROM blob_object WHERE sha256 = ?
     ON DUPLICATE KEY UPDATE sha256 = VALUE(sha256), size_bytes = VALUE(size_bytes), used_at = UTC_TIMESTAMP(3)`,
    [workspaceId, key, kind, widthPx, heightPx, alike?.likeness ?? null, alike?.tint ?? null, sha256],
  );
  return { sha256, widthPx, heightPx, likeness: alike?.likeness ?? null, tint: alike?.tint ?? null };
}

/** Renderings that are there, by key. */
export async function findRenderings(
  ctx: Context,
  workspaceId: string,
  keys: readonly string[],
): Promise<Map<string, Rendering>> {
  if (keys.length === 0) return new Map();
  const rows = await ctx.db.rows<Rendering & { renderKey: string }>(
    `SELECT render_key AS renderKey, ${COLUMNS} FROM rendering WHERE workspace_id = ? AND render_key IN (${keys.map(() => '?').join(',')})`,
    [workspaceId, ...keys],
  );
  return new Map(rows.map(({ renderKey, ...rendering }) => [renderKey, rendering]));
}

/** Forgets renderings that nobody has asked for in 30 days, and of a workspace that holds too many the oldest; they can be made again. */
export async function dropOldRenderings(ctx: Context): Promise<void> {
  await ctx.db.run('DELETE FROM rendering WHERE used_at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY LIMIT 2000');
  const full = await ctx.db.rows<{ workspaceId: string }>(
    'SELECT workspace_id AS workspaceId FROM rendering GROUP BY workspace_id HAVING SUM(size_bytes) > ? LIMIT 20',
    [ctx.config.quotas.renderingBytes],
  );
  for (const { workspaceId } of full)
    await ctx.db.run('DELETE FROM rendering WHERE workspace_id = ? ORDER BY used_at LIMIT 200', [workspaceId]);
}
