import { SplitDto } from '@/server/http/dto/pricing';
import { readBody } from '@/server/http/body';
import { json, route } from '@/server/http/route';
import { splitProduct } from '@/server/products/split';

/** Moves some variants to a new product with the same design, prices and words. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, params, request }) => {
  const { first, second } = await splitProduct(ctx, actor, params.id, await readBody(request, SplitDto));
  return json(
    { first: { id: first.id, revision: first.revision }, second: { id: second.id, title: second.title } },
    201,
  );
});
