import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { cancelJob, findJob } from '@/server/jobs/jobs';
import { needForJob } from '@/server/jobs/scopes';

export const POST = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  await needForJob(ctx, actor, params.id);
  if (!(await cancelJob(ctx, actor.workspaceId, params.id)))
    throw conflict('job-ended', 'This job has ended already or does not exist; there is nothing to stop.');
  return json(await findJob(ctx, actor.workspaceId, params.id));
});
