import { soldListings } from '@/core/document/split';
import type { Context } from '../context';
import type { Product } from '../products/products';
import { listingsOf, type ListingRow } from './listings';

/** A listing of a product in a store, by its number there; its row is null where it was never sent. */
export interface ListingPlace {
  readonly number: number;
  readonly row: ListingRow | null;
}

/** The listings of a product in a store, of these rows: those in which it is sold there, and what the shop still has of others. */
export function listingPlaces(
  { id, document }: Pick<Product, 'id' | 'document'>,
  storeId: string,
  rows: readonly ListingRow[],
): ListingPlace[] {
  const own = rows.filter((row) => row.productId === id && row.storeId === storeId);
  const left = own.filter(({ externalId }) => externalId !== null).map(({ number }) => number);
  const numbers = [...new Set([...soldListings(document, storeId), ...left])].sort((a, b) => a - b);
  return numbers.map((number) => ({ number, row: own.find((row) => row.number === number) ?? null }));
}

/** What is written down of one listing; null where it was never sent. */
export async function listingAt(
  ctx: Context,
  workspaceId: string,
  productId: string,
  storeId: string,
  number: number,
): Promise<ListingRow | null> {
  const rows = await listingsOf(ctx.db, workspaceId, [productId]);
  return rows.find((row) => row.storeId === storeId && row.number === number) ?? null;
}
