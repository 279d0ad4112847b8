import { wholeOf } from '@/server/http/query';
import { json, route } from '@/server/http/route';
import { findSend } from '@/server/sends/send-row';
import { sendItems } from '@/server/sends/view';

/** Listings of a send, a page from `from` on: what failed and what is not sent first. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) =>
  json({
    items: await sendItems(
      ctx,
      await findSend(ctx, actor.workspaceId, params.id),
      wholeOf(query, 'from', 1_000_000) ?? 0,
    ),
  }),
);
