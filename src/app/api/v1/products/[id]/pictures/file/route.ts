import { attachment } from '@/server/http/attachment';
import { notFound } from '@/core/errors';
import { route } from '@/server/http/route';
import { pictureFileName } from '@/server/pictures/archive';
import { derivePicture } from '@/server/pictures/pictures';
import { allPlans } from '@/server/pictures/product-pictures';
import { pictureFormatFor } from '@/server/pictures/store-format';
import { loadDesign } from '@/server/products/bundle';

/** One picture as it is now, `?id=`, in the form that is asked for. Ids of pictures that follow by themselves hold a slash. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const plans = allPlans(await loadDesign(ctx, actor.workspaceId, params.id));
  const index = plans.findIndex((plan) => plan.id === query.get('id'));
  if (index < 0) throw notFound('picture', query.get('id') ?? '');
  const form = await pictureFormatFor(ctx, actor, query);
  const { bytes, mediaType } = await derivePicture(ctx, actor.workspaceId, plans[index]!, form, {
    signal: request.signal,
  });
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': mediaType,
      'content-disposition': attachment(pictureFileName(plans[index]!, index, form)),
      'cache-control': 'no-store',
    },
  });
});
