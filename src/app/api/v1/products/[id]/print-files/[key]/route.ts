import { notFound } from '@/core/errors';
import { planPrintFiles } from '@/core/print/plan';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { ensurePrintFile, ensurePrintForm, ensurePrintProof, formOf } from '@/server/prints/print-files';
import { readPrintFormat } from '@/server/prints/read-format';
import { loadDesign } from '@/server/products/bundle';

/** One print file; made now when it is not there yet. `?show=1` to look at it instead of keeping it, `?size=proof` for a small picture of it. */
export const GET = route<{ id: string; key: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const { product, blank, sources } = await loadDesign(ctx, actor.workspaceId, params.id);
  const plan = planPrintFiles(product.document, blank, sources).find((p) => p.key === params.key);
  if (!plan) throw notFound('print file (the design may have changed; list them again)', params.key);
  const whom = { workspaceId: actor.workspaceId, signal: request.signal };
  if (query.get('size') === 'proof') {
    const made = await ensurePrintFile(ctx, whom, plan);
    const proof = await ensurePrintProof(ctx, whom, plan, made);
    return blobResponse(ctx, request, proof.sha256, { immutable: true });
  }
  const form = formOf(plan, readPrintFormat(query));
  const { sha256 } = await ensurePrintForm(ctx, whom, plan, form);
  return blobResponse(ctx, request, sha256, {
    immutable: true,
    ...(query.get('show') ? {} : { fileName: `${product.title} ${plan.slug}.${form}` }),
  });
});
