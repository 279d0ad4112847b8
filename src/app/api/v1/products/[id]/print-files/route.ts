import { planPrintFiles } from '@/core/print/plan';
import { json, route } from '@/server/http/route';
import { refuseOver } from '@/server/quotas/quotas';
import { enqueue } from '@/server/jobs/jobs';
import { findRendering } from '@/server/pictures/renderings';
import { loadDesign } from '@/server/products/bundle';
import { findProduct } from '@/server/products/products';

type Params = { id: string };

/** The print files of the product as it is now, made or not. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const { product, blank, sources } = await loadDesign(ctx, actor.workspaceId, params.id);
  const plans = planPrintFiles(product.document, blank, sources);
  const made = await Promise.all(plans.map((plan) => findRendering(ctx, actor.workspaceId, plan.key)));
  return json({
    revision: product.revision,
    printFiles: plans.map((plan, i) => ({
      key: plan.key,
      name: `${plan.slug}.png`,
      areaKey: plan.sheet.areaKey,
      geometryId: plan.sheet.geometryId,
      widthPx: plan.widthPx,
      heightPx: plan.heightPx,
      widthMm: plan.sheet.geometry.widthMm,
      heightMm: plan.sheet.geometry.heightMm,
      bleedMm: plan.sheet.geometry.bleedMm,
      dpi: plan.sheet.geometry.dpi,
      variantKeys: plan.variantKeys,
      sha256: made[i]?.sha256 ?? null,
      href: `/api/v1/products/${product.id}/print-files/${plan.key}`,
    })),
  });
});

/** Makes them all, in a job. */
export const POST = route<Params>('design', async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const jobId = await enqueue(ctx.db, {
    workspaceId: actor.workspaceId,
    kind: 'make-print-files',
    subject: `print-files:${params.id}`,
    title: `Print files of ${product.title}`,
    payload: { productId: product.id },
    priority: 10,
  });
  return json({ jobId }, 202);
});
