import { json, route } from '@/server/http/route';
import { loadExchangeRates, readRates } from '@/server/rates/rates';

/** Rates from a CSV with the columns from, to, rate and date: all or nothing. */
export const POST = route('money', async ({ ctx, actor, request }) => {
  const taken = await readRates(ctx, actor, request.body);
  return json({ taken, rates: await loadExchangeRates(ctx, actor.workspaceId) }, 201);
});
