import { RateDto } from '@/server/http/dto/pricing';
import { readBody } from '@/server/http/body';
import { json, route } from '@/server/http/route';
import { viewRateFeed } from '@/server/rates/feed';
import { saveRates, loadExchangeRates } from '@/server/rates/rates';

export const GET = route('read', async ({ ctx, actor }) =>
  json({ rates: await loadExchangeRates(ctx, actor.workspaceId), feed: await viewRateFeed(ctx) }),
);

/** A rate of the workspace's own: it lies over the shared ones until it is taken away. */
export const POST = route('money', async ({ ctx, actor, request }) => {
  const { from, to, rate, date, sure } = await readBody(request, RateDto);
  await saveRates(ctx, actor, [{ from, to, rate, date }], { source: 'typed in', sure });
  return json({ rates: await loadExchangeRates(ctx, actor.workspaceId) }, 201);
});
