import { Readable } from 'node:stream';
import { route } from '@/server/http/route';
import { exportPriceList } from '@/server/price-lists/export';
import { findPartner } from '@/server/price-lists/price-lists';

/** The price list in force, as CSV in the form that is read in. */
export const GET = route<{ id: string }>(async ({ ctx, actor, params }) => {
  const partner = await findPartner(ctx, params.id);
  const text = Readable.from(exportPriceList(ctx, actor.workspaceId, partner.id));
  return new Response(Readable.toWeb(text.map((part: string) => Buffer.from(part))) as never, {
    headers: {
      'content-type': 'text/csv; charset=utf-8; header=present',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${partner.name} price list.csv`)}`,
      'cache-control': 'no-store',
    },
  });
});
