import { setTimeout as delay } from 'node:timers/promises';
import { TypicaError } from '@/core/errors';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { log } from '../log';

/** A picture in the form in which a store takes it. */
export interface HeldPicture {
  readonly storeId: string;
  readonly key: string;
  readonly formatHash: string;
}

/** A picture whose upload ended in no way is another listing's to upload after this time, s. */
const HELD_SECONDS = 45;
const LOOK_MS = 200;
/** A listing waits so long in place; then it comes again, and leaves its lane to others. */
const MAX_WAIT_MS = 2_000;
const AGAIN_MS = 1_000;

const WHERE = 'store_id = ? AND picture_key = ? AND format_hash = ?';
const valuesOf = ({ storeId, key, formatHash }: HeldPicture) => [storeId, key, formatHash];

const coming = () =>
  new TypicaError('unavailable', 'picture-coming', 'Another listing uploads a picture of this one just now.', {
    retryAfterMs: AGAIN_MS,
    costsNoTry: true,
  });

/** The shop's id of a picture that it holds, or null. */
async function heldThere(ctx: Context, picture: HeldPicture): Promise<string | null> {
  const row = await ctx.db.row<{ remoteId: string }>(
    `SELECT remote_id AS remoteId FROM store_picture WHERE ${WHERE}`,
    valuesOf(picture),
  );
  return row?.remoteId ?? null;
}

/** Takes a picture's upload upon a job, unless another one has it. */
async function takeOn(ctx: Context, jobId: string, picture: HeldPicture): Promise<boolean> {
  const { affectedRows } = await ctx.db.run(
    `INSERT IGNORE INTO picture_upload (store_id, picture_key, format_hash, job_id, held_until) VALUES (?, ?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL ${HELD_SECONDS} SECOND)`,
    [...valuesOf(picture), jobId],
  );
  if (affectedRows > 0) return true;
  const over = await ctx.db.run(
    `UPDATE picture_upload SET job_id = ?, held_until = UTC_TIMESTAMP(3) + INTERVAL ${HELD_SECONDS} SECOND
     WHERE ${WHERE} AND (job_id = ? OR held_until < UTC_TIMESTAMP(3))`,
    [jobId, ...valuesOf(picture), jobId],
  );
  return over.affectedRows > 0;
}

const letGo = (ctx: Context, jobId: string, picture: HeldPicture) =>
  ctx.db.run(`DELETE FROM picture_upload WHERE ${WHERE} AND job_id = ?`, [...valuesOf(picture), jobId]);

/**
 * Has a picture uploaded to a store once, however many listings that show it are sent at the same time. Gives the shop's id of it. Throws
 * `picture-coming` when another job uploads it and takes long.
 */
export async function uploadOnce(
  ctx: Context,
  control: JobControl,
  picture: HeldPicture,
  upload: () => Promise<string>,
): Promise<string> {
  const until = performance.now() + MAX_WAIT_MS;
  while (!(await takeOn(ctx, control.job.id, picture))) {
    await delay(LOOK_MS, undefined, { signal: control.signal });
    const there = await heldThere(ctx, picture);
    if (there !== null) return there;
    if (performance.now() > until) throw coming();
  }
  try {
    return (await heldThere(ctx, picture)) ?? (await uploadAndKeep(control, picture, upload));
  } finally {
    // What could not be let go is another's when its time is over.
    await letGo(ctx, control.job.id, picture).catch((error: unknown) =>
      log.warn({ err: error }, 'a picture’s upload could not be left to others'),
    );
  }
}

async function uploadAndKeep(
  control: JobControl,
  picture: HeldPicture,
  upload: () => Promise<string>,
): Promise<string> {
  const remoteId = await upload();
  await control.write((db) =>
    db.run(
      'INSERT INTO store_picture (store_id, picture_key, format_hash, remote_id) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE remote_id = VALUE(remote_id)',
      [...valuesOf(picture), remoteId],
    ),
  );
  return remoteId;
}
