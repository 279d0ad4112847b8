import { invalid } from '@/core/errors';
import type { Context } from '../context';
import { likely } from '../db/like';
import type { Value } from '../db/pool';
import { PRODUCT_COLUMNS, type Product } from './products';
import { SHELF_WHERE, type ProductShelf } from './shelving';

/** What of a product it can be sorted by. */
interface Sorted {
  readonly id: string;
  readonly title: string;
  readonly createdAt: Date;
  readonly updatedAt: Date;
}

/** In which order products are given, and by what a page goes on where the one before ended. Each is read off a key, forwards or backwards. */
const SORTS = {
  changed: { column: 'updated_at', way: 'DESC', of: (product: Sorted) => product.updatedAt.toISOString() },
  made: { column: 'created_at', way: 'DESC', of: (product: Sorted) => product.createdAt.toISOString() },
  title: { column: 'title', way: 'ASC', of: (product: Sorted) => product.title },
} as const;
export type ProductSort = keyof typeof SORTS;
export const PRODUCT_SORTS = Object.keys(SORTS) as ProductSort[];

export interface ProductQuery {
  readonly limit?: number;
  /** Words that all have to be in the title, or to be how a SKU begins, in small or large letters; empty for all. */
  readonly words?: string;
  readonly sort?: ProductSort;
  /** Which of them: those in the range unless another is named. */
  readonly shelf?: ProductShelf;
  /** Only those that were sent to this store; absent: all. */
  readonly storeId?: string | null;
  /** `next` of the page before. */
  readonly after?: string | null;
}

export interface ProductPage {
  /** All that are found, on whatever page. */
  readonly total: number;
  readonly products: readonly Product[];
  /** Goes on after this page; null on the last. */
  readonly next: string | null;
}

const MAX_WORDS = 8;
const MAX_LETTERS = 64;

/** A place between two products: the value that they are sorted by, and the id of the one before. */
interface Place {
  readonly value: string;
  readonly id: string;
}

const writePlace = (place: Place): string => Buffer.from(JSON.stringify([place.value, place.id])).toString('base64url');

function readPlace(text: string): Place {
  try {
    const [value, id] = JSON.parse(Buffer.from(text, 'base64url').toString('utf8')) as unknown[];
    if (typeof value === 'string' && typeof id === 'string' && /^\w{1,24}$/.test(id)) return { value, id };
  } catch {
    // Told below.
  }
  throw invalid('page-wrong', 'This page of products does not exist; begin with the first one again.');
}

/** What finds products in SQL, of the table `product`, with its values. */
export function foundProducts(
  workspaceId: string,
  { words = '', shelf = 'range', storeId = null }: Pick<ProductQuery, 'words' | 'shelf' | 'storeId'>,
): { where: string; values: Value[] } {
  const asked = words.slice(0, 500).split(/\s+/).filter(Boolean).slice(0, MAX_WORDS);
  const where = [
    `workspace_id = ? AND ${SHELF_WHERE[shelf]}`,
    ...(storeId === null ? [] : ['id IN (SELECT l.product_id FROM listing l WHERE l.store_id = ?)']),
    ...asked.map(
      () =>
        '(title LIKE ? OR id IN (SELECT v.product_id FROM product_variant v WHERE v.workspace_id = ? AND v.sku LIKE ?))',
    ),
  ].join(' AND ');
  const values: Value[] = [
    workspaceId,
    ...(storeId === null ? [] : [storeId]),
    ...asked.flatMap((word) => {
      const text = likely(word.slice(0, MAX_LETTERS));
      return [`%${text}%`, workspaceId, `${text}%`];
    }),
  ];
  return { where, values };
}

/** One page of whatever is found in the table `product`, in an order. Throws `page-wrong` for a place that no page gave. */
export async function pageOf<T extends Sorted>(
  ctx: Context,
  columns: string,
  found: { readonly where: string; readonly values: readonly Value[] },
  { sort, limit, after }: { readonly sort: ProductSort; readonly limit: number; readonly after: string | null },
): Promise<{ readonly rows: readonly T[]; readonly next: string | null }> {
  const { column, way, of } = SORTS[sort];
  const beyond = way === 'ASC' ? '>' : '<';
  const place = after === null ? null : readPlace(after);
  const at = place && (column === 'title' ? place.value : dateOf(place.value));
  // The first condition says nothing new: by it the key is entered where the page begins.
  const goesOn = place ? `AND ${column} ${beyond}= ? AND (${column} ${beyond} ? OR id ${beyond} ?)` : '';
  const rows = await ctx.db.rows<T>(
    `SELECT ${columns} FROM product WHERE ${found.where} ${goesOn} ORDER BY ${column} ${way}, id ${way} LIMIT ?`,
    [...found.values, ...(place ? [at!, at!, place.id] : []), limit + 1],
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    rows: shown,
    next: rows.length > limit && last ? writePlace({ value: of(last), id: last.id }) : null,
  };
}

/** How many there are of what is found in the table `product`. */
export async function countFound(
  ctx: Context,
  { where, values }: { readonly where: string; readonly values: readonly Value[] },
): Promise<number> {
  const count = await ctx.db.row<{ total: number }>(`SELECT COUNT(*) AS total FROM product WHERE ${where}`, values);
  return Number(count!.total);
}

/** One page of a workspace's products, with how many there are. Throws `page-wrong` for a place that no page gave. */
export async function productPage(
  ctx: Context,
  workspaceId: string,
  { limit = 200, words = '', sort = 'changed', shelf = 'range', storeId = null, after = null }: ProductQuery = {},
): Promise<ProductPage> {
  const found = foundProducts(workspaceId, { words, shelf, storeId });
  const [{ rows, next }, total] = await Promise.all([
    pageOf<Product>(ctx, PRODUCT_COLUMNS, found, { sort, limit, after }),
    countFound(ctx, found),
  ]);
  return { total, products: rows, next };
}

function dateOf(text: string): Date {
  const date = new Date(text);
  if (Number.isNaN(date.getTime()))
    throw invalid('page-wrong', 'This page of products does not exist; begin with the first one again.');
  return date;
}
