import { json, route } from '@/server/http/route';
import { loadExchangeRates, readRates } from '@/server/rates/rates';

/** Rates from a CSV with the columns from, to, rate and date: all or nothing. With `?sure=yes` rates far from those that hold are taken too. */
export const POST = route('money', async ({ ctx, actor, request, query }) => {
  const taken = await readRates(ctx, actor, request.body, query.get('sure') === 'yes');
  return json({ taken, rates: await loadExchangeRates(ctx, actor.workspaceId) }, 201);
});
