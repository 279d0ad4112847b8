import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { cancelJob, findJob } from '@/server/jobs/jobs';

export const POST = route<{ id: string }>(async ({ ctx, actor, params }) => {
  if (!(await cancelJob(ctx, actor.workspaceId, params.id)))
    throw conflict('job-ended', 'This job has ended already or does not exist; there is nothing to stop.');
  return json(await findJob(ctx, actor.workspaceId, params.id));
});
