import { json, route } from '@/server/http/route';
import { pauseStore } from '@/server/stores/pause';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

/** Takes everything of the store off sale for a while. */
export const PUT = route<Params>('send', async ({ ctx, actor, params }) =>
  json(await pauseStore(ctx, await findStore(ctx, actor.workspaceId, params.id), true), 202),
);

/** Ends the pause: what it took off sale is shown again. */
export const DELETE = route<Params>('send', async ({ ctx, actor, params }) =>
  json(await pauseStore(ctx, await findStore(ctx, actor.workspaceId, params.id), false), 202),
);
