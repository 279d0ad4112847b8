import type { Context } from '../context';
import { findSend, type SendRow } from '../sends/send-row';
import { viewSend } from '../sends/view';
import { json, route } from './route';

/** A route that does something about a send, and tells how it stands then. */
export const sendAct = (act: (ctx: Context, send: SendRow, by: string) => Promise<void>) =>
  route<{ id: string }>('send', async ({ ctx, actor, params }) => {
    await act(ctx, await findSend(ctx, actor.workspaceId, params.id), actor.personName);
    return json(await viewSend(ctx, await findSend(ctx, actor.workspaceId, params.id)));
  });
