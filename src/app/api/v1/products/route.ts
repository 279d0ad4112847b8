import { invalid } from '@/core/errors';
import { readBody } from '@/server/http/body';
import { NewProductDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { PRODUCT_SORTS, productPage, type ProductSort } from '@/server/products/product-page';
import { createProduct } from '@/server/products/products';
import { SHELVES, type ProductShelf } from '@/server/products/shelving';

const MAX = 200;

/** `?q=` words of titles or beginnings of SKUs, `?in=` range, archived or deleted, `?store=` only what was sent there, `?sort=`, `?limit=` (200 at most), and `?after=` the `next` of the page before. */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const sort = query.get('sort') ?? 'changed';
  if (!PRODUCT_SORTS.includes(sort as ProductSort))
    throw invalid('sort-wrong', `sort is one of ${PRODUCT_SORTS.join(', ')}; “${sort.slice(0, 40)}” is none of them.`);
  const shelf = query.get('in') ?? 'range';
  if (!SHELVES.includes(shelf as ProductShelf))
    throw invalid('shelf-wrong', `in is one of ${SHELVES.join(', ')}; “${shelf.slice(0, 40)}” is none of them.`);
  const limit = query.get('limit') ?? String(MAX);
  if (!/^[1-9]\d{0,2}$/.test(limit) || Number(limit) > MAX)
    throw invalid('limit-wrong', `limit is a whole number from 1 to ${MAX}.`);
  return json(
    await productPage(ctx, actor.workspaceId, {
      words: query.get('q') ?? '',
      sort: sort as ProductSort,
      shelf: shelf as ProductShelf,
      storeId: query.get('store'),
      limit: Number(limit),
      after: query.get('after'),
    }),
  );
});

export const POST = route('design', async ({ ctx, actor, request }) =>
  json(await createProduct(ctx, actor, await readBody(request, NewProductDto)), 201),
);
