import { attachment } from '@/server/http/attachment';
import { route } from '@/server/http/route';
import { pictureArchive } from '@/server/pictures/archive';
import { pictureFormatFor } from '@/server/pictures/store-format';
import { loadDesign } from '@/server/products/bundle';

/** All pictures in one ZIP, or those of `?id=` (several); in the form that is asked for, or `?store=` takes. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const wanted = query.getAll('id');
  const form = await pictureFormatFor(ctx, actor, query);
  return new Response(
    pictureArchive(
      ctx,
      { workspaceId: actor.workspaceId, signal: request.signal },
      design,
      form,
      wanted.length > 0 ? new Set(wanted) : null,
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
