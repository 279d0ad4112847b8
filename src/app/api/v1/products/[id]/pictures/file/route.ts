import { attachment } from '@/server/http/attachment';
import { notFound } from '@/core/errors';
import { route } from '@/server/http/route';
import { pictureFileName } from '@/server/pictures/archive';
import { pictureAs } from '@/server/pictures/pictures';
import { allPlans, plansOf } from '@/server/pictures/product-pictures';
import { pictureFormatFor } from '@/server/pictures/store-format';
import { loadDesign } from '@/server/products/bundle';

/**
 * One picture as it is now, `?id=`, in the form that is asked for, or with `?store=` as that store gets it. Ids of pictures that follow by themselves
 * hold a slash.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const plans = allPlans(design);
  const isAsked = ({ id }: { readonly id: string }) => id === query.get('id');
  const index = plans.findIndex(isAsked);
  if (index < 0) throw notFound('picture', query.get('id') ?? '');
  const forms = await pictureFormatFor(ctx, actor, query);
  const form = forms.at(plansOf(design, query.get('store')).findIndex(isAsked));
  const { bytes, mediaType } = await pictureAs(
    ctx,
    { workspaceId: actor.workspaceId, signal: request.signal },
    plans[index]!,
    form,
    forms.isOfStore,
  );
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': mediaType,
      'content-disposition': attachment(pictureFileName(plans[index]!, index, form)),
      'cache-control': 'no-store',
    },
  });
});
