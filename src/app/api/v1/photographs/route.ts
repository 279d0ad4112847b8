import { publicArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { declaredBytes } from '@/server/blobs/upload';
import { json, route } from '@/server/http/route';
import { listPhotographs } from '@/server/photographs/photographs';

/** The workspace's photographs, the newest first. */
export const GET = route('read', async ({ ctx, actor }) =>
  json({ photographs: (await listPhotographs(ctx, actor.workspaceId)).map(publicArtwork) }),
);

/** The file itself is the body; its name comes as `?name=`. It is looked at as artwork is: `GET /artwork/ID` tells when it is ready. */
export const POST = route('design', async ({ ctx, actor, request, query }) =>
  json(await uploadArtwork(ctx, actor, request.body, query.get('name'), declaredBytes(request), 'photograph'), 202),
);
