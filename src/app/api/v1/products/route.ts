import { invalid } from '@/core/errors';
import { readBody } from '@/server/http/body';
import { NewProductDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { createProduct, listProducts } from '@/server/products/products';

/** `?offset=`: how many products are passed over; whole, up to a million. */
function readOffset(query: URLSearchParams): number {
  const text = query.get('offset') ?? '0';
  if (!/^\d{1,7}$/.test(text)) throw invalid('offset-wrong', 'offset must be a whole number of products to pass over.');
  return Number(text);
}

/** 200 products at a time, those changed last first; with `?sku=` those of which a SKU begins so. */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const offset = readOffset(query);
  const sku = query.get('sku') ?? '';
  return json({ products: await listProducts(ctx, actor.workspaceId, { offset, sku }) });
});

export const POST = route('design', async ({ ctx, actor, request }) =>
  json(await createProduct(ctx, actor, await readBody(request, NewProductDto)), 201),
);
