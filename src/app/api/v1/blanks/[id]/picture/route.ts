import { notFound } from '@/core/errors';
import { newDocument } from '@/core/document/document';
import { planMockup } from '@/core/listing/pictures';
import { loadBlank, loadShots } from '@/server/catalog/blanks';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { ensurePicture } from '@/server/pictures/pictures';

/** The bare blank on a color: `?color=estuary`. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const [blank, [shot]] = await Promise.all([
    loadBlank(ctx, params.id),
    loadShots(ctx, [params.id], actor.workspaceId),
  ]);
  const plan =
    shot && planMockup(newDocument(blank.id, actor.currency, ''), blank, shot, query.get('color'), new Map());
  if (!plan) throw notFound('picture of this blank', params.id);
  const { sha256 } = await ensurePicture(
    ctx,
    { workspaceId: actor.workspaceId, signal: request.signal },
    plan,
    'proof',
  );
  return blobResponse(ctx, request, sha256);
});
