import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { actorOfPerson } from '../people/people';
import { keyOfJob } from '../products/undo-job';
import { replaceEverywhere } from './replace';

/** Puts one artwork in the place of another in all products of a workspace, in the name of whoever asked. */
export async function replaceArtwork(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const { oldId, newId, personId } = job.payload as Record<'oldId' | 'newId' | 'personId', string>;
  const actor = await actorOfPerson(ctx, personId, job.workspaceId);
  return replaceEverywhere(ctx, actor, oldId, newId, keyOfJob(job.id), (done, total) =>
    progress(done, total, `${done} of ${total} products`),
  );
}
