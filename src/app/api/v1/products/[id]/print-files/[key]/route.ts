import { notFound } from '@/core/errors';
import { planPrintFiles } from '@/core/print/plan';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { ensurePrintFile } from '@/server/prints/print-files';
import { loadBundle } from '@/server/products/bundle';

/** One print file; made now when it is not there yet. `?show=1` to look at it instead of keeping it. */
export const GET = route<{ id: string; key: string }>(async ({ ctx, actor, request, params, query }) => {
  const { product, blank, sources } = await loadBundle(ctx, actor.workspaceId, params.id);
  const plan = planPrintFiles(product.document, blank, sources).find((p) => p.key === params.key);
  if (!plan) throw notFound('print file (the design may have changed; list them again)', params.key);
  const { sha256 } = await ensurePrintFile(ctx, actor.workspaceId, plan);
  return blobResponse(ctx, request, sha256, {
    immutable: true,
    ...(query.get('show') ? {} : { fileName: `${product.title} ${plan.slug}.png` }),
  });
});
