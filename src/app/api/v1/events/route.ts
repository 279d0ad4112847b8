import { route } from '@/server/http/route';
import { eventStream } from '@/server/http/sse';

export const dynamic = 'force-dynamic';

/** Server-sent events of the workspace: job, product, listing, artwork, store. */
export const GET = route('read', async ({ ctx, actor, request }) =>
  eventStream(ctx, actor.workspaceId, actor.credential, request.signal),
);
