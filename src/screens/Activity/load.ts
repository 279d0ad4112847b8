import { ownEntry } from '@/core/own-entry';
import { activityPeople, type ActivityLine as Line } from '@/server/activity/activity';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { titlesOf } from '@/server/products/products';
import { listStores } from '@/server/stores/stores';

/** A line as the API tells it. */
export type ActivityLine = Omit<Line, 'at'> & { readonly at: string };

export interface ActivityData {
  readonly stores: readonly { readonly id: string; readonly name: string }[];
  /** Names of people of whom something is told. */
  readonly people: readonly string[];
  /** Of the product that is asked about alone; null where none is, or it is not there. */
  readonly productTitle: string | null;
}

/** What the filters of the page of activity offer; its lines come from the API. */
export async function loadActivity(ctx: Context, actor: Actor, productId: string | null): Promise<ActivityData> {
  const [stores, people, titles] = await Promise.all([
    listStores(ctx, actor.workspaceId),
    activityPeople(ctx, actor.workspaceId),
    titlesOf(ctx.db, actor.workspaceId, productId === null ? [] : [productId]),
  ]);
  return {
    stores: stores.map(({ id, name }) => ({ id, name })),
    people,
    productTitle: productId === null ? null : (ownEntry(titles, productId) ?? null),
  };
}
