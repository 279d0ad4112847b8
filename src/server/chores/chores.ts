import { setTimeout as delay } from 'node:timers/promises';
import type { Context } from '../context';
import { log } from '../log';

/** Work that is done from time to time, by whichever worker comes first. */
export interface Chore {
  readonly name: string;
  readonly everySeconds: number;
  run(ctx: Context): Promise<unknown>;
}

/** Takes a chore that is due, for this time. False when it is not, or another worker has it. */
async function take(ctx: Context, { name, everySeconds }: Chore): Promise<boolean> {
  await ctx.db.run('INSERT IGNORE INTO chore (name, next_at) VALUES (?, UTC_TIMESTAMP(3))', [name]);
  const { affectedRows } = await ctx.db.run(
    'UPDATE chore SET next_at = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE name = ? AND next_at <= UTC_TIMESTAMP(3)',
    [everySeconds, name],
  );
  return affectedRows > 0;
}

/** Does every chore that is due. One that fails is logged and noted, and keeps none of the others from being done. */
export async function doChores(ctx: Context, chores: readonly Chore[], signal?: AbortSignal): Promise<void> {
  for (const chore of chores) {
    if (signal?.aborted) return;
    try {
      if (!(await take(ctx, chore))) continue;
      await chore.run(ctx);
      await ctx.db.run('UPDATE chore SET fault = NULL, done_at = UTC_TIMESTAMP(3) WHERE name = ?', [chore.name]);
    } catch (error) {
      log.error({ err: error, chore: chore.name }, 'a chore failed');
      await ctx.db
        .run('UPDATE chore SET fault = ? WHERE name = ?', [String((error as Error).message).slice(0, 300), chore.name])
        .catch(() => undefined);
    }
  }
}

const LOOK_MS = 10_000;

/** Looks for chores until `signal` is aborted, beside the jobs: a busy system is cleaned too. */
export async function keepHouse(ctx: Context, chores: readonly Chore[], signal: AbortSignal): Promise<void> {
  while (!signal.aborted) {
    await doChores(ctx, chores, signal);
    await delay(LOOK_MS, undefined, { signal }).catch(() => undefined);
  }
}
