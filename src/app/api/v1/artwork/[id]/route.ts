import { findArtwork, publicArtwork } from '@/server/artwork/artwork';
import { changeArtwork, deleteArtwork } from '@/server/artwork/library';
import { readBody } from '@/server/http/body';
import { ArtworkChangeDto } from '@/server/http/dto/artwork';
import { json, noContent, route } from '@/server/http/route';

type Params = { id: string };

export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(publicArtwork(await findArtwork(ctx, actor.workspaceId, params.id))),
);

/** Another name, other tags. */
export const PATCH = route<Params>('design', async ({ ctx, actor, request, params }) =>
  json(publicArtwork(await changeArtwork(ctx, actor, params.id, await readBody(request, ArtworkChangeDto)))),
);

/** Deletes it when no product prints it; 409 says which do. */
export const DELETE = route<Params>('design', async ({ ctx, actor, params }) => {
  await deleteArtwork(ctx, actor, params.id);
  return noContent();
});
