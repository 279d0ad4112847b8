import { setTimeout as delay } from 'node:timers/promises';
import PQueue from 'p-queue';
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
const LOOK_MS = 100;
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

/** Gives the shop's id of a picture that another job uploads; null where that job left it to this one. Throws `picture-coming` when that takes long. */
async function waitForIt(ctx: Context, control: JobControl, picture: HeldPicture): Promise<string | null> {
  const until = performance.now() + MAX_WAIT_MS;
  for (;;) {
    const there = await heldThere(ctx, picture);
    if (there !== null) return there;
    if (await takeOn(ctx, control.job.id, picture)) return null;
    if (performance.now() > until) throw coming();
    await delay(LOOK_MS, undefined, { signal: control.signal });
  }
}

/** Uploads a picture that was taken on, unless it came meanwhile. */
async function uploadTaken(ctx: Context, control: JobControl, { picture, upload }: Wanted): Promise<string> {
  try {
    return (await heldThere(ctx, picture)) ?? (await uploadAndKeep(control, picture, upload));
  } finally {
    // What could not be let go is another's when its time is over.
    await letGo(ctx, control.job.id, picture).catch((error: unknown) =>
      log.warn({ err: error }, 'a picture’s upload could not be left to others'),
    );
  }
}

/** A picture that a listing wants, and how it is uploaded; gives the shop's id of it. */
export interface Wanted {
  readonly picture: HeldPicture;
  upload(): Promise<string>;
}

/** Pictures of one listing that are made and uploaded at a time. */
const AT_ONCE = 3;

/** Does something for each, some at a time; what fails ends it when those that have begun are over, so that nothing of it goes on behind. */
async function forEachSome<T>(all: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
  const queue = new PQueue({ concurrency: AT_ONCE });
  const failures: unknown[] = [];
  for (const one of all)
    void queue.add(async () => {
      if (failures.length === 0) await work(one).catch((error: unknown) => failures.push(error));
    });
  await queue.onIdle();
  if (failures.length > 0) throw failures[0];
}

/**
 * Has pictures uploaded to a store once, however many listings that show them are sent at the same time: those first that nobody uploads, so that several
 * listings share the work; then it waits for the others. Gives the shop's ids, in the order of `wanted`. Throws `picture-coming` when another job uploads
 * one and takes long.
 */
export async function uploadOnce(ctx: Context, control: JobControl, wanted: readonly Wanted[]): Promise<string[]> {
  const ids = new Map<Wanted, string>();
  await forEachSome(wanted, async (one) => {
    if (await takeOn(ctx, control.job.id, one.picture)) ids.set(one, await uploadTaken(ctx, control, one));
  });
  for (const one of wanted)
    if (!ids.has(one))
      ids.set(one, (await waitForIt(ctx, control, one.picture)) ?? (await uploadTaken(ctx, control, one)));
  return wanted.map((one) => ids.get(one)!);
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
