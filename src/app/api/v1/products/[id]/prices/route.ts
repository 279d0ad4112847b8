import { csvResponse } from '@/server/http/csv';
import { route } from '@/server/http/route';
import { sheetRoute } from '@/server/http/sheet';
import { findProduct } from '@/server/products/products';
import { reckon } from '@/server/reckoning/reckoners';

type Params = { id: string };

/** All prices of a product, for all stores and for each, as CSV; `?bom=true` with a byte order mark. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  await findProduct(ctx, actor.workspaceId, params.id);
  const text = await reckon(
    ctx,
    'export-prices',
    { workspaceId: actor.workspaceId, productId: params.id },
    actor.workspaceId,
  );
  return csvResponse(text, `prices-${params.id}.csv`, query);
});

/** Reads such a file: says what it would change, or with `?apply=true` changes it. */
export const POST = sheetRoute('price', 'prices');
