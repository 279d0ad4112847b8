import { loadShots } from '@/server/catalog/blanks';
import { MAX_JSON_BYTES, readBody } from '@/server/http/body';
import { OwnShotDto } from '@/server/http/dto/pictures';
import { json, route } from '@/server/http/route';
import { markedShotOf } from '@/server/http/marked-shot';
import { saveOwnShot } from '@/server/shots/own-shots';
import { shotView } from '@/server/shots/about';

/** Shots of a blank: the catalog's, and the workspace's own. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) =>
  json({ shots: (await loadShots(ctx, [params.id], actor.workspaceId)).map(shotView) }),
);

/** Makes a shot out of a photograph and its marks. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, request, params }) =>
  json(
    shotView(
      await saveOwnShot(ctx, actor, params.id, markedShotOf(await readBody(request, OwnShotDto, MAX_JSON_BYTES))),
    ),
    201,
  ),
);
