import { publicArtwork } from '@/server/artwork/artwork';
import { restoreArtwork } from '@/server/artwork/library';
import { json, route } from '@/server/http/route';

/** Brings a deleted artwork back, within 30 days. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, params }) =>
  json(publicArtwork(await restoreArtwork(ctx, actor, params.id))),
);
