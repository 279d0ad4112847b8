import { findArtwork, publicArtwork } from '@/server/artwork/artwork';
import { json, route } from '@/server/http/route';

export const GET = route<{ id: string }>(async ({ ctx, actor, params }) =>
  json(publicArtwork(await findArtwork(ctx, actor.workspaceId, params.id))),
);
