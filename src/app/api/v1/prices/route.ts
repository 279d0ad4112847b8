import { csvBytes } from '@/server/csv/body';
import { csvResponse } from '@/server/http/csv';
import { json, route } from '@/server/http/route';
import { reckon } from '@/server/reckoning/reckoners';

/** A file of prices of many products, MB. */
const MAX_MEGABYTES = 16;

/**
 * Prices of all products, or of those of a `?kind=` of good or with a `?tag=`, for all stores and for each, as CSV; `?bom=true` with a byte order mark.
 */
export const GET = route('read', async ({ ctx, actor: { workspaceId }, query }) => {
  const of = { kinds: query.getAll('kind').slice(0, 50), tags: query.getAll('tag').slice(0, 50) };
  return csvResponse(await reckon(ctx, 'export-all-prices', { workspaceId, of }, workspaceId), 'prices.csv', query);
});

/** Reads such a file: says what it would change, product by product, or with `?apply=true` changes it, all or nothing. */
export const POST = route('price', async ({ ctx, actor, request, query }) => {
  const csv = await csvBytes(request.body, MAX_MEGABYTES);
  const { workspaceId } = actor;
  return json(
    query.get('apply') === 'true'
      ? await reckon(ctx, 'apply-all-prices', { actor, csv }, workspaceId)
      : await reckon(ctx, 'preview-all-prices', { workspaceId, csv }, workspaceId),
  );
});
