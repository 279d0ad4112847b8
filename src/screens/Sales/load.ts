import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { kindsAndTags } from '@/server/products/kinds-and-tags';
import { titlesOf } from '@/server/products/products';
import { listSales, type SaleRow } from '@/server/sales/sales';
import { listStores } from '@/server/stores/stores';

export type { SalePreview } from '@/server/sales/preview';
export type { SaleReport } from '@/server/sales/sales';

export interface SaleView extends Omit<SaleRow, 'startsAt' | 'endsAt' | 'workspaceId'> {
  readonly startsAt: string;
  readonly endsAt: string;
}

export interface SalesData {
  readonly sales: readonly SaleView[];
  readonly stores: readonly { readonly id: string; readonly name: string }[];
  readonly kinds: readonly string[];
  readonly tags: readonly string[];
  /** Titles of products that sales name. */
  readonly titles: { readonly [productId: string]: string };
  readonly currency: string;
}

/** Everything that the page of sales shows. */
export async function loadSales(ctx: Context, actor: Actor): Promise<SalesData> {
  const [sales, stores, { kinds, tags }] = await Promise.all([
    listSales(ctx, actor.workspaceId),
    listStores(ctx, actor.workspaceId),
    kindsAndTags(ctx, actor.workspaceId),
  ]);
  const named = [
    ...new Set(
      sales
        .flatMap(({ report }) => [report?.begun, report?.ended].flatMap((one) => one?.left ?? []))
        .flatMap((one) => one.productId ?? []),
    ),
  ];
  const titles = await titlesOf(ctx.db, actor.workspaceId, named);
  return {
    sales: sales.map(({ workspaceId: _own, startsAt, endsAt, ...sale }) => ({
      ...sale,
      startsAt: startsAt.toISOString(),
      endsAt: endsAt.toISOString(),
    })),
    stores: stores.map(({ id, name }) => ({ id, name })),
    kinds,
    tags,
    titles,
    currency: actor.currency,
  };
}
