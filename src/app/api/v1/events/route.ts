import { route } from '@/server/http/route';
import { eventStream, readAfter } from '@/server/http/sse';

export const dynamic = 'force-dynamic';

/**
 * Server-sent events of the workspace: job, product, listing, artwork, store … Whoever comes back says the last id it saw (`Last-Event-ID`, or
 * `?after=`) and is told what it missed, or `reset` where that is no longer known.
 */
export const GET = route('read', async ({ ctx, actor, request, query }) =>
  eventStream(ctx, actor.workspaceId, actor.credential, request.signal, readAfter(request, query)),
);
