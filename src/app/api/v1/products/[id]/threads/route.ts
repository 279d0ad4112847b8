import { notFound } from '@/core/errors';
import { planSheet } from '@/core/print/plan';
import { json, route } from '@/server/http/route';
import { readBlob } from '@/server/blobs/blobs';
import { sewnOf } from '@/server/images/compose';
import { loadBundle } from '@/server/products/bundle';

/** The threads that an embroidered area is sewn in: `?area=main.front&geometry=g…&color=estuary`. */
export const GET = route<{ id: string }>(async ({ ctx, actor, params, query }) => {
  const { product, blank, sources } = await loadBundle(ctx, actor.workspaceId, params.id);
  const area = blank.areas.find((one) => one.key === query.get('area'));
  const geometryId = query.get('geometry') ?? area?.geometries[0]?.geometryId ?? '';
  if (!area || !blank.geometries[geometryId]) throw notFound('print area of this product', query.get('area') ?? '');
  const sheet = planSheet(product.document, blank, area.key, geometryId, query.get('color'), sources);
  const { threads, thinShare } = sheet
    ? await sewnOf((sha256) => readBlob(ctx, sha256), sheet)
    : { threads: [], thinShare: 0 };
  return json({
    threads: threads.map(({ thread, from, share }) => ({ ...thread, from: from.code, share })),
    thinShare,
  });
});
