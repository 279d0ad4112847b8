import { notFound } from '@/core/errors';
import { planSheet } from '@/core/print/plan';
import { json, route } from '@/server/http/route';
import { ownEntry } from '@/core/own-entry';
import { inStudio } from '@/server/pictures/painters';
import { loadDesign } from '@/server/products/bundle';

/** The threads that an embroidered area is sewn in: `?area=main.front&geometry=g…&color=estuary`. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const { product, blank, sources } = await loadDesign(ctx, actor.workspaceId, params.id);
  const area = blank.areas.find((one) => one.key === query.get('area'));
  const geometryId = query.get('geometry') ?? area?.geometries[0]?.geometryId ?? '';
  if (!area || !ownEntry(blank.geometries, geometryId))
    throw notFound('print area of this product', query.get('area') ?? '');
  const sheet = planSheet(product.document, blank, area.key, geometryId, query.get('color'), sources);
  const { threads, thinShare } = sheet
    ? await inStudio(ctx, { kind: 'threads', sheet }, { owner: actor.workspaceId, signal: request.signal })
    : { threads: [], thinShare: 0 };
  return json({
    threads: threads.map(({ thread, from, share, color, difference }) => ({
      ...thread,
      from: from.code,
      share,
      color,
      difference: Math.round(difference * 10) / 10,
    })),
    thinShare,
  });
});
