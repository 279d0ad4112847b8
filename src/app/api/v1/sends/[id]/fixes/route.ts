import { json, route } from '@/server/http/route';
import { need } from '@/server/people/scopes';
import { fixSend, sendFixes } from '@/server/sends/fixes';
import { findSend } from '@/server/sends/send-row';

type Params = { id: string };

/** What of a plan is not sent and can be fixed, each with what it was and what it becomes. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json({ items: await sendFixes(ctx, await findSend(ctx, actor.workspaceId, params.id)) }),
);

/** Takes those fixes, each for its store alone, and looks at the listings again. */
export const POST = route<Params>('send', async ({ ctx, actor, params }) => {
  need(actor.credential, 'design');
  return json(await fixSend(ctx, actor, await findSend(ctx, actor.workspaceId, params.id)));
});
