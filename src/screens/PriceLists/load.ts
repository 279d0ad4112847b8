import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { findJob } from '@/server/jobs/jobs';
import {
  changedNames,
  findPriceList,
  listPartners,
  listPriceLists,
  type PartnerView,
  type PriceListRow,
} from '@/server/price-lists/price-lists';
import type { JobView } from '../Masthead/jobs';

export type { ProductEffect } from '@/server/price-lists/effects';
export type { VariantChange } from '@/server/price-lists/price-lists';

/** A price list as the API tells it. */
export type ListView = Omit<PriceListRow, 'createdAt' | 'takenAt'> & {
  readonly createdAt: string;
  readonly takenAt: string | null;
  readonly blankNames: { readonly [blankId: string]: string };
};

export interface PriceListsData {
  readonly partners: readonly PartnerView[];
  readonly lists: readonly Omit<ListView, 'report' | 'blankNames'>[];
}

export interface PriceListData {
  readonly list: ListView;
  readonly job: JobView | null;
}

/** As it goes through JSON: what a page is given must be what the API gives. */
const asJson = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

/** Partners with the list in force, and all lists that were brought. */
export async function loadPriceLists(ctx: Context, actor: Actor): Promise<PriceListsData> {
  const [partners, lists] = await Promise.all([
    listPartners(ctx, actor.workspaceId),
    listPriceLists(ctx, actor.workspaceId),
  ]);
  return asJson({ partners, lists }) as PriceListsData;
}

/** One list with what it changes. Throws `not-found`. */
export async function loadPriceList(ctx: Context, actor: Actor, id: string): Promise<PriceListData> {
  const list = await findPriceList(ctx, actor.workspaceId, id);
  const [blankNames, job] = await Promise.all([
    changedNames(ctx, list),
    list.jobId ? findJob(ctx, actor.workspaceId, list.jobId) : null,
  ]);
  return asJson({ list: { ...list, blankNames }, job: job ?? null }) as PriceListData;
}
