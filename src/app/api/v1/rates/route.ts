import { json, route } from '@/server/http/route';
import { loadExchangeRates } from '@/server/rates/rates';

export const GET = route(async ({ ctx, actor }) => json({ rates: await loadExchangeRates(ctx, actor.workspaceId) }));
