import { MAX_JSON_BYTES, readBody } from '@/server/http/body';
import { OwnShotDto } from '@/server/http/dto/pictures';
import { json, noContent, route } from '@/server/http/route';
import { markedShotOf, ownShotView } from '@/server/http/marked-shot';
import { shotView } from '@/server/shots/about';
import { deleteOwnShot, findOwnShot, saveOwnShot } from '@/server/shots/own-shots';

type Params = { id: string };

/** A shot of one's own, as it is marked. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const { shot, marked } = await findOwnShot(ctx, actor.workspaceId, params.id);
  return json({ id: shot.id, blankId: shot.blankId, ...ownShotView(marked) });
});

/** Marks it anew. */
export const PUT = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const { shot } = await findOwnShot(ctx, actor.workspaceId, params.id);
  const marked = markedShotOf(await readBody(request, OwnShotDto, MAX_JSON_BYTES));
  return json(shotView(await saveOwnShot(ctx, actor, shot.blankId, marked, shot.id)));
});

export const DELETE = route<Params>('design', async ({ ctx, actor, params }) => {
  await deleteOwnShot(ctx, actor, params.id);
  return noContent();
});
