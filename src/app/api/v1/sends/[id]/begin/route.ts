import { readBody } from '@/server/http/body';
import { BeginSendDto } from '@/server/http/dto/sends';
import { json, route } from '@/server/http/route';
import { findSend } from '@/server/sends/send-row';
import { beginSend } from '@/server/sends/sends';
import { viewSend } from '@/server/sends/view';

/** Begins a planned send, now or at a moment to come. */
export const POST = route<{ id: string }>('send', async ({ ctx, actor, request, params }) => {
  const { at } = await readBody(request, BeginSendDto);
  const send = await findSend(ctx, actor.workspaceId, params.id);
  await beginSend(ctx, send, at === undefined ? null : new Date(at));
  return json(await viewSend(ctx, await findSend(ctx, actor.workspaceId, params.id)), 202);
});
