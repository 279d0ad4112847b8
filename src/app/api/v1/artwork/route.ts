import { listArtworks, publicArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { declaredBytes } from '@/server/blobs/upload';
import { json, route } from '@/server/http/route';

export const GET = route(async ({ ctx, actor }) =>
  json({ artwork: (await listArtworks(ctx, actor.workspaceId)).map(publicArtwork) }),
);

/** The file itself is the body; its name comes as `?name=`. */
export const POST = route(async ({ ctx, actor, request, query }) =>
  json(await uploadArtwork(ctx, actor, request.body, query.get('name'), declaredBytes(request)), 202),
);
