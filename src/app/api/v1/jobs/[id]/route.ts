import { notFound } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { findJob } from '@/server/jobs/jobs';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const job = await findJob(ctx, actor.workspaceId, params.id);
  if (!job) throw notFound('job', params.id);
  return json(job);
});
