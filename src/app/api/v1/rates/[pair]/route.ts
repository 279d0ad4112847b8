import { noContent, route } from '@/server/http/route';
import { forgetRates } from '@/server/rates/rates';

/** Takes the workspace's own rates of a pair (`GBP-USD`) away: the shared one holds again. */
export const DELETE = route<{ pair: string }>('money', async ({ ctx, actor, params }) => {
  await forgetRates(ctx, actor, params.pair);
  return noContent();
});
