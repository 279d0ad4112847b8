import { attachment } from '@/server/http/attachment';
import { route } from '@/server/http/route';
import { printArchive } from '@/server/prints/archive';
import { readPrintFormat } from '@/server/prints/read-format';
import { loadDesign } from '@/server/products/bundle';

/** All print files in one ZIP, with a manifest as CSV and JSON. `?form=pdf`: goods with bleed as PDF. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const { stream } = await printArchive(
    ctx,
    { workspaceId: actor.workspaceId, signal: request.signal },
    design,
    readPrintFormat(query),
  );
  return new Response(stream, {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': attachment(`${design.product.title} print files.zip`),
      'cache-control': 'no-store',
    },
  });
});
