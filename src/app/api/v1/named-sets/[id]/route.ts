import { readBody } from '@/server/http/body';
import { SetNameDto } from '@/server/http/dto/named-sets';
import { noContent, route } from '@/server/http/route';
import { deleteSet, renameSet } from '@/server/named-sets';

export const PATCH = route<{ id: string }>('design', async ({ ctx, actor, params, request }) => {
  const { name } = await readBody(request, SetNameDto);
  await renameSet(ctx, actor.workspaceId, params.id, name.trim());
  return noContent();
});

export const DELETE = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await deleteSet(ctx, actor.workspaceId, params.id);
  return noContent();
});
