import { Readable } from 'node:stream';
import { csvResponse } from '@/server/http/csv';
import { route } from '@/server/http/route';
import { exportPriceList } from '@/server/price-lists/export';
import { findPartner } from '@/server/price-lists/price-lists';

/** The price list in force, as CSV in the form that is read in. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const partner = await findPartner(ctx, params.id);
  const lines = Readable.from(exportPriceList(ctx, actor.workspaceId, partner.id)).map((part: string) =>
    Buffer.from(part),
  );
  return csvResponse(Readable.toWeb(lines) as ReadableStream<Uint8Array>, `${partner.name} price list.csv`, query);
});
