import { ACTIVITY_ABOUT } from '@/core/activity';
import { ACTIVITY_PAGE, activityPage } from '@/server/activity/activity';
import { cursorAfter, cursorOf } from '@/server/activity/cursor';
import { dayOf, oneOf } from '@/server/http/query';
import { json, route } from '@/server/http/route';

/**
 * What was done and noticed, newest first, a hundred lines a page: `?about=`, `?store=`, `?product=`, `?by=` (a name; `nobody`: what happened without anybody
 * asking), `?until=` (a day, UTC); `?after=` goes on where a page ended.
 */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const by = query.get('by') || null;
  const lines = await activityPage(ctx, actor.workspaceId, {
    about: oneOf(query, 'about', ACTIVITY_ABOUT),
    storeId: query.get('store') || null,
    productId: query.get('product') || null,
    by: by === 'nobody' ? '' : by,
    until: dayOf(query, 'until'),
    after: cursorOf(query.get('after')),
  });
  return json({ lines, after: lines.length === ACTIVITY_PAGE ? cursorAfter(lines.at(-1)!) : null });
});
