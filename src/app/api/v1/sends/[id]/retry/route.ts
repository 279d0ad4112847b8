import { json, route } from '@/server/http/route';
import { findSend } from '@/server/sends/send-row';
import { retrySend } from '@/server/sends/sends';

/** Tries again what failed, up to 200 at once; tells how many are left. */
export const POST = route<{ id: string }>('send', async ({ ctx, actor, params }) =>
  json(await retrySend(ctx, await findSend(ctx, actor.workspaceId, params.id))),
);
