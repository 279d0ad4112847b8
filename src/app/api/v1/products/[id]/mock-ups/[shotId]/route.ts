import { notFound } from '@/core/errors';
import { planMockup } from '@/core/listing/pictures';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { derivePicture, ensurePicture } from '@/server/pictures/pictures';
import { readPictureFormat } from '@/server/pictures/read-format';
import { loadDesign } from '@/server/products/bundle';

/** The product as it is now on one shot: `?color=estuary&size=proof`. With the current `revision` in the address
 * the answer may be kept; with `format` and the like it is made in that form, and not kept. */
export const GET = route<{ id: string; shotId: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const { product, blank, shots, sources } = await loadDesign(ctx, actor.workspaceId, params.id);
  const shot = shots.find((s) => s.id === params.shotId);
  const plan = shot && planMockup(product.document, blank, shot, query.get('color'), sources);
  if (!plan) throw notFound('mock-up', params.shotId);
  const size = query.get('size') === 'full' ? 'full' : 'proof';
  if (query.has('format')) {
    const { bytes, mediaType } = await derivePicture(ctx, actor.workspaceId, plan, readPictureFormat(query), {
      size,
      signal: request.signal,
    });
    return new Response(new Uint8Array(bytes), { headers: { 'content-type': mediaType, 'cache-control': 'no-store' } });
  }
  const { sha256 } = await ensurePicture(ctx, { workspaceId: actor.workspaceId, signal: request.signal }, plan, size);
  return blobResponse(ctx, request, sha256, { immutable: query.get('revision') === String(product.revision) });
});
