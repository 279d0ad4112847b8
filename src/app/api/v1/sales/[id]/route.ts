import { json, route } from '@/server/http/route';
import { findSale, stopSale } from '@/server/sales/sales';

type Params = { id: string };

export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(await findSale(ctx, actor.workspaceId, params.id)),
);

/** Ends a sale now, or takes a planned one back; it stays for the record. */
export const DELETE = route<Params>('price', async ({ ctx, actor, params }) =>
  json(await stopSale(ctx, actor, params.id)),
);
