import { json, route } from '@/server/http/route';
import { listJobs } from '@/server/jobs/jobs';

export const GET = route('read', async ({ ctx, actor }) => json({ jobs: await listJobs(ctx, actor.workspaceId) }));
