import { json, route } from '@/server/http/route';
import { rangeCounts } from '@/server/range/counts';
import { readFilter } from '@/server/range/query';

/** How many products a filter finds, and how many each value of each of its lists would. */
export const GET = route('read', async ({ ctx, actor, query }) =>
  json(await rangeCounts(ctx, actor.workspaceId, readFilter(query))),
);
