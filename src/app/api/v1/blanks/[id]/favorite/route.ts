import { setFavorite } from '@/server/catalog/own-blanks';
import { noContent, route } from '@/server/http/route';

/** Marks the blank for the workspace. */
export const PUT = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await setFavorite(ctx, actor.workspaceId, params.id, true);
  return noContent();
});

/** Takes the mark off. */
export const DELETE = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await setFavorite(ctx, actor.workspaceId, params.id, false);
  return noContent();
});
