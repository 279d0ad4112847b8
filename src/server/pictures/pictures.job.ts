import { isTypicaError } from '@/core/errors';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { loadDesign } from '../products/bundle';
import { findProduct } from '../products/products';
import { ensurePicture } from './pictures';
import { recordPicture, recordPictureProblem, allPlans, oncePerSlot } from './product-pictures';

/** Pictures that are painted at a time: while one is packed the next is composed. */
const AT_ONCE = 3;

/**
 * Makes the pictures of a product as it is now, the first ones first. When the design changes meanwhile it stops: another job is there for
 * that. A picture that cannot be made is named, and the rest goes on.
 */
export async function makePictures(ctx: Context, { job, progress, signal }: JobControl): Promise<unknown> {
  const design = await loadDesign(ctx, job.workspaceId, String(job.payload.productId));
  const plans = oncePerSlot(allPlans(design));
  const failed: string[] = [];
  let done = 0;
  await progress(0, plans.length, 'Begins');
  for (let i = 0; i < plans.length; i += AT_ONCE) {
    const now = await findProduct(ctx, job.workspaceId, design.product.id);
    if (now.revision !== design.product.revision && i > 0) {
      const newer = await ctx.db.row('SELECT 1 AS one FROM job WHERE workspace_id = ? AND waiting_subject = ?', [
        job.workspaceId,
        `make-pictures:product:${design.product.id}`,
      ]);
      if (newer) return { made: done, failed, newer: true };
    }
    await Promise.all(
      plans.slice(i, i + AT_ONCE).map(async (plan) => {
        try {
          await recordPicture(
            ctx,
            design,
            plan,
            await ensurePicture(ctx, { workspaceId: job.workspaceId, signal }, plan, 'proof'),
          );
          done += 1;
        } catch (error) {
          // Only what is wrong with the picture is told of it; a fault of ours is tried again, and told when that was of no use.
          if (!isTypicaError(error) || !error.visible) throw error;
          if (error.kind !== 'invalid' && job.attempts < job.maxAttempts) throw error;
          await recordPictureProblem(ctx, design, plan, error.message);
          failed.push(`${plan.alt}: ${error.message}`);
        }
      }),
    );
    await progress(Math.min(plans.length, i + AT_ONCE), plans.length, `${done} of ${plans.length} pictures`);
  }
  return { made: done, failed };
}
