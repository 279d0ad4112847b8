import { ownEntry } from '@/core/own-entry';
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
  /** Products that a sale is planned for; empty: by kind and tag. */
  readonly chosen: readonly { readonly id: string; readonly title: string }[];
}

/** Products that an address can choose for a sale. */
export const MAX_CHOSEN = 100;

/** Everything that the page of sales shows. */
export async function loadSales(ctx: Context, actor: Actor, productIds: readonly string[]): Promise<SalesData> {
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
  const asked = productIds.slice(0, MAX_CHOSEN);
  const titles = await titlesOf(ctx.db, actor.workspaceId, [...new Set([...named, ...asked])]);
  return {
    chosen: asked.flatMap((id) => {
      const title = ownEntry(titles, id);
      return title === undefined ? [] : [{ id, title }];
    }),
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
