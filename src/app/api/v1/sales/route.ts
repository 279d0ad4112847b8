import { readBody } from '@/server/http/body';
import { planOf, SaleDto } from '@/server/http/dto/sales';
import { json, route } from '@/server/http/route';
import { planLookedAt } from '@/server/sales/plan';
import { listSales } from '@/server/sales/sales';

export const GET = route('read', async ({ ctx, actor }) => json({ sales: await listSales(ctx, actor.workspaceId) }));

/** Plans a sale, or with `code` a discount code: it begins and ends by the clock. */
export const POST = route('price', async ({ ctx, actor, request }) =>
  json(await planLookedAt(ctx, actor, planOf(await readBody(request, SaleDto))), 201),
);
