import { json, route } from '@/server/http/route';
import { needForJob } from '@/server/jobs/scopes';
import { askToUndoJob } from '@/server/products/undo-job';

/** Undoes what an ended job did to products, by another job; what was changed in the same place since stays. */
export const POST = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  await needForJob(ctx, actor, params.id);
  return json(await askToUndoJob(ctx, actor, params.id), 202);
});
