import { attachment } from '@/server/http/attachment';
import { route } from '@/server/http/route';
import { pictureArchive } from '@/server/pictures/archive';
import { pictureFormatFor } from '@/server/pictures/store-format';
import { loadDesign } from '@/server/products/bundle';

/** All pictures in one ZIP, or those of `?id=` (several); in the form that is asked for, or those of `?store=` in the form that it takes. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const ids = query.getAll('id');
  const forms = await pictureFormatFor(ctx, actor, query);
  return new Response(
    pictureArchive(
      ctx,
      { workspaceId: actor.workspaceId, signal: request.signal },
      design,
      forms,
      ids.length > 0 ? { ids } : { storeId: query.get('store') },
    ),
    {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': attachment(`${design.product.title} pictures.zip`),
        'cache-control': 'no-store',
      },
    },
  );
});
