import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { findJob, retryJob } from '@/server/jobs/jobs';

export const POST = route<{ id: string }>(async ({ ctx, actor, params }) => {
  if (!(await retryJob(ctx, actor.workspaceId, params.id)))
    throw conflict('job-not-ended', 'Only a job that was given up or stopped can be tried again.');
  return json(await findJob(ctx, actor.workspaceId, params.id));
});
