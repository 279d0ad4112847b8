import { readBody } from '@/server/http/body';
import { NewProductDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { createProduct, listProducts } from '@/server/products/products';

export const GET = route(async ({ ctx, actor, query }) => {
  const offset = Math.max(0, Number(query.get('offset')) || 0);
  return json({ products: await listProducts(ctx, actor.workspaceId, 200, offset) });
});

export const POST = route(async ({ ctx, actor, request }) =>
  json(await createProduct(ctx, actor, await readBody(request, NewProductDto)), 201),
);
