import { putBlob } from '../blobs/blobs';
import type { Context } from '../context';

export interface Rendering {
  readonly sha256: string;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What a picture is like, where that was asked for. */
  readonly likeness: string | null;
  readonly tint: string | null;
}

/** What is made. */
export interface Made {
  readonly bytes: Buffer;
  readonly mediaType: string;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly alike?: { readonly likeness: string; readonly tint: string } | null;
}

const COLUMNS = 'sha256, width_px AS widthPx, height_px AS heightPx, likeness, tint';

const making = new Map<string, Promise<Rendering>>();

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
  workspaceId: string,
  key: string,
  kind: 'mock-up' | 'print-file',
  make: () => Promise<Made>,
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
  const running = making.get(id);
  if (running) return running;
  const work = (async () => {
    const { bytes, mediaType, widthPx, heightPx, alike } = await make();
    const sha256 = await putBlob(ctx, bytes, mediaType);
    await ctx.db.run(
      'INSERT INTO rendering (workspace_id, render_key, kind, sha256, width_px, height_px, likeness, tint) VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE sha256 = VALUE(sha256), used_at = UTC_TIMESTAMP(3)',
      [workspaceId, key, kind, sha256, widthPx, heightPx, alike?.likeness ?? null, alike?.tint ?? null],
    );
    return { sha256, widthPx, heightPx, likeness: alike?.likeness ?? null, tint: alike?.tint ?? null };
  })();
  making.set(id, work);
  try {
    return await work;
  } finally {
    making.delete(id);
  }
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

/** Forgets renderings that nobody has asked for in 30 days; they can be made again. */
export async function dropOldRenderings(ctx: Context): Promise<void> {
  await ctx.db.run('DELETE FROM rendering WHERE used_at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY LIMIT 2000');
}
