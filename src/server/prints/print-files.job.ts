import { planPrintFiles } from '@/core/print/plan';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { loadDesign } from '../products/bundle';
import { ensurePrintFile } from './print-files';

/** Makes all print files of a product as it is now; what is there already is not made again. */
export async function makePrintFiles(ctx: Context, { job, progress, signal }: JobControl): Promise<unknown> {
  const design = await loadDesign(ctx, job.workspaceId, String(job.payload.productId));
  const plans = planPrintFiles(design.product.document, design.blank, design.sources);
  for (const [index, plan] of plans.entries()) {
    await progress(index, plans.length, `${plan.slug}, ${plan.widthPx} × ${plan.heightPx} px`);
    await ensurePrintFile(ctx, { workspaceId: job.workspaceId, signal }, plan);
  }
  await progress(plans.length, plans.length, 'All made');
  return { keys: plans.map((plan) => plan.key) };
}
