import { json, route } from '@/server/http/route';
import { findSend } from '@/server/sends/send-row';
import { viewSend } from '@/server/sends/view';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) =>
  json(await viewSend(ctx, await findSend(ctx, actor.workspaceId, params.id))),
);
