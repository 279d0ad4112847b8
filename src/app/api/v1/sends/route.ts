import { readBody } from '@/server/http/body';
import { PlanSendDto } from '@/server/http/dto/sends';
import { json, route } from '@/server/http/route';
import { findSend, listSends } from '@/server/sends/send-row';
import { planSend } from '@/server/sends/sends';
import { viewSend } from '@/server/sends/view';

export const GET = route('read', async ({ ctx, actor }) => json({ sends: await listSends(ctx, actor.workspaceId) }));

/** Plans a send of many: says what would be sent, and what not and why. Nothing is sent before it is begun. */
export const POST = route('send', async ({ ctx, actor, request }) => {
  const { visibility, ...selection } = await readBody(request, PlanSendDto);
  const id = await planSend(ctx, actor, selection, visibility);
  return json(await viewSend(ctx, await findSend(ctx, actor.workspaceId, id)), 201);
});
