import { csvResponse } from '@/server/http/csv';
import { route } from '@/server/http/route';
import { sheetRoute } from '@/server/http/sheet';
import { exportCodes } from '@/server/pricing/sheet';
import { loadBundle } from '@/server/products/bundle';

type Params = { id: string };

/** SKUs and GTINs of the chosen variants as CSV; `?bom=true` with a byte order mark. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  return csvResponse(exportCodes(bundle), `codes-${params.id}.csv`, query);
});

/** Reads such a file: says what it would change, or with `?apply=true` changes it. */
export const POST = sheetRoute('design', 'codes');
