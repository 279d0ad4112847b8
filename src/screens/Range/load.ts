import type { RangeFilter } from '@/core/range';
import { loadDesigns } from '@/server/products/bundle';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { productPage, type ProductSort } from '@/server/products/product-page';
import type { ProductShelf } from '@/server/products/shelving';
import { rangeCounts, type RangeCounts } from '@/server/range/counts';
import { rangePage, type RangeCell as Cell, type RangeRow as Row } from '@/server/range/page';
import { PAGE } from '@/server/range/query';
import { listStores } from '@/server/stores/stores';

export type { RangeCounts } from '@/server/range/counts';
export type RangeCell = Cell;
/** A row as the API tells it. */
export type RangeRow = Omit<Row, 'updatedAt'> & { readonly updatedAt: string };

export interface RangeQuery {
  readonly filter: RangeFilter;
  readonly sort: ProductSort;
}

export interface RangeStore {
  readonly id: string;
  readonly name: string;
  readonly channel: string;
  readonly currency: string;
}

/** A page of rows as the API tells it. */
export interface RangeAnswer {
  readonly rows: readonly RangeRow[];
  readonly next: string | null;
}

export interface RangeData {
  readonly stores: readonly RangeStore[];
  readonly asked: RangeQuery;
  readonly first: RangeAnswer;
  readonly counts: RangeCounts;
}

/** Products against stores: the first page, and how many there are of what, as it is stored. */
export async function loadRange(ctx: Context, actor: Actor, asked: RangeQuery): Promise<RangeData> {
  const [page, counts, stores] = await Promise.all([
    rangePage(ctx, actor.workspaceId, asked.filter, { sort: asked.sort, limit: PAGE, after: null }),
    rangeCounts(ctx, actor.workspaceId, asked.filter),
    listStores(ctx, actor.workspaceId),
  ]);
  return {
    asked,
    counts,
    first: {
      next: page.next,
      rows: page.rows.map((row) => ({ ...row, updatedAt: row.updatedAt.toISOString() })),
    },
    stores: stores.map(({ id, name, channel, currency }) => ({
      id,
      name,
      channel: ctx.channels.get(channel)?.about.name ?? channel,
      currency,
    })),
  };
}

export interface ShelvedRow {
  readonly id: string;
  readonly title: string;
  readonly blank: string;
  readonly partner: string;
  readonly changedAt: string;
}

export interface ShelvedData {
  readonly shelf: Exclude<ProductShelf, 'range'>;
  readonly after: string | null;
  /** Where the next page begins; null on the last. */
  readonly next: string | null;
  readonly total: number;
  readonly rows: readonly ShelvedRow[];
}

/** Products on a page of what is not in the range. */
const SHELVED_PAGE = 50;

/** Products that were archived or deleted. */
export async function loadShelved(
  ctx: Context,
  actor: Actor,
  { shelf, after }: Pick<ShelvedData, 'shelf' | 'after'>,
): Promise<ShelvedData> {
  const { total, next, products } = await productPage(ctx, actor.workspaceId, { shelf, after, limit: SHELVED_PAGE });
  const designs = await loadDesigns(ctx, actor.workspaceId, products);
  return {
    shelf,
    after,
    next,
    total,
    rows: designs.map(({ product, blank }) => ({
      id: product.id,
      title: product.title,
      blank: blank.name,
      partner: blank.partner.name,
      changedAt: product.updatedAt.toISOString(),
    })),
  };
}
