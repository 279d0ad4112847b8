import { declaredBytes } from '@/server/blobs/upload';
import { json, route } from '@/server/http/route';
import { uploadPriceList } from '@/server/price-lists/price-lists';

/** The CSV itself is the body; `?name=` is its name, `?from=` the day from which it is to hold. */
export const POST = route<{ id: string }>('money', async ({ ctx, actor, request, params, query }) =>
  json(
    await uploadPriceList(ctx, actor, params.id, request.body, {
      fileName: query.get('name'),
      validFrom: query.get('from'),
      declaredBytes: declaredBytes(request),
    }),
    202,
  ),
);
