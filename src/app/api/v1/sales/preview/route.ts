import { readBody } from '@/server/http/body';
import { planOf, SaleDto } from '@/server/http/dto/sales';
import { json, route } from '@/server/http/route';
import { previewSale } from '@/server/sales/preview';

/** What a sale would do, product by product in each of its stores; nothing is planned. */
export const POST = route('read', async ({ ctx, actor, request }) =>
  json(await previewSale(ctx, actor, planOf(await readBody(request, SaleDto)))),
);
