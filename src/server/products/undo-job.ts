import { conflict, isTypicaError, notFound } from '@/core/errors';
import type { Operation } from '@/core/document/patch';
import type { Context } from '../context';
import { enqueue, findJob } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import { actorOfPerson, type Actor } from '../people/people';
import { patchProduct } from './patch';
import { findProduct } from './products';

/** The key of all patches that one job makes, by which they are found to be undone. */
export const keyOfJob = (jobId: string): string => `job:${jobId}`;

/** Kinds of jobs whose changes of products can be undone together. */
const UNDOABLE: ReadonlySet<string> = new Set(['replace-artwork']);

/** Asks for what a job did to products to be undone, by another job. Throws `not-found`, `job-not-undoable`. */
export async function askToUndoJob(ctx: Context, actor: Actor, jobId: string): Promise<{ jobId: string }> {
  const job = await findJob(ctx, actor.workspaceId, jobId);
  if (!job) throw notFound('job', jobId);
  if (!UNDOABLE.has(job.kind) || ['waiting', 'queued', 'running'].includes(job.state))
    throw conflict(
      'job-not-undoable',
      'What this job did cannot be undone here. Wait until it has ended, or look at the history of each product.',
    );
  const undo = await enqueue(ctx.db, {
    workspaceId: actor.workspaceId,
    kind: 'undo-job',
    title: `Undo: ${job.title}`,
    payload: { undoneJobId: jobId, personId: actor.personId },
    subject: `undo-job:${jobId}`,
    priority: 9,
  });
  return { jobId: undo };
}

interface Undone {
  readonly productId: string;
  readonly revision: number;
  readonly undo: string;
}

const AT_ONCE = 50;
/** Titles of products that were kept as they are, told by name. */
const MAX_NAMED = 20;

/** Undoes what a job did, product by product. What somebody changed in the same place since stays, and is named. */
export async function undoJob(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const { undoneJobId, personId } = job.payload as Record<'undoneJobId' | 'personId', string>;
  const actor = await actorOfPerson(ctx, personId, job.workspaceId);
  const kept: string[] = [];
  let [done, products] = [0, 0];
  for (let after = ''; ;) {
    const rows = await ctx.db.rows<Undone>(
      `SELECT r.product_id AS productId, r.revision, r.undo_patch AS \`undo\` FROM product_revision r JOIN product p ON p.id = r.product_id
       WHERE r.patch_key = ? AND r.product_id > ? AND p.workspace_id = ? AND p.archived_at IS NULL ORDER BY r.product_id LIMIT ?`,
      [keyOfJob(undoneJobId), after, job.workspaceId, AT_ONCE],
    );
    for (const row of rows) {
      if (await undoOne(ctx, actor, row, job.id)) products += 1;
      else kept.push((await findProduct(ctx, job.workspaceId, row.productId)).title);
      done += 1;
    }
    await progress(done, done, `${done} products`);
    after = rows.at(-1)?.productId ?? '';
    if (rows.length < AT_ONCE) return { products, kept: kept.length, keptTitles: kept.slice(0, MAX_NAMED) };
  }
}

/** Whether it was undone; false where the same was changed since. */
async function undoOne(ctx: Context, actor: Actor, row: Undone, jobId: string): Promise<boolean> {
  const operations = JSON.parse(row.undo) as Operation[];
  try {
    await patchProduct(ctx, actor, row.productId, row.revision, operations, {
      label: 'Undo for many products',
      key: keyOfJob(jobId),
    });
    return true;
  } catch (error) {
    if (isTypicaError(error, 'revision-conflict') || isTypicaError(error, 'revision-too-old')) return false;
    throw error;
  }
}
