import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { findJob, retryJob } from '@/server/jobs/jobs';
import { needForJob } from '@/server/jobs/scopes';

export const POST = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  await needForJob(ctx, actor, params.id);
  if (!(await retryJob(ctx, actor.workspaceId, params.id)))
    throw conflict('job-not-ended', 'Only a job that failed or was stopped can be retried.');
  return json(await findJob(ctx, actor.workspaceId, params.id));
});
