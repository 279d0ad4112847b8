import type { ManyKind } from '@/core/range-changes';
import type { Ending, Way } from '@/core/pricing/rounding';
import { notFound } from '@/core/errors';
import type { Context } from '../../context';
import type { Database } from '../../db/pool';
import type { BulkLine } from '../../pricing/bulk';

/** What a change of many is asked to do: each kind looks at its own. */
export interface AskedChange {
  readonly tag?: string;
  readonly ruleId?: string;
  /** A raise, parts per million of each price; below 0 they are lowered. */
  readonly ppm?: number;
  readonly ending?: Ending;
  readonly way?: Way;
  readonly blankId?: string;
}

export type ChangeState = 'looking' | 'planned' | 'doing' | 'done' | 'undoing' | 'undone';
export const ITEM_WHATS = ['new', 'change', 'same', 'left', 'done', 'undone', 'kept'] as const;
export type ItemWhat = (typeof ITEM_WHATS)[number];

export interface ChangeRow {
  readonly id: string;
  readonly workspaceId: string;
  readonly kind: ManyKind;
  readonly asked: AskedChange;
  /** What it does, in words: `Add the tag “river”`. */
  readonly title: string;
  readonly state: ChangeState;
  readonly jobId: string | null;
  readonly personId: string;
  readonly by: string;
  readonly madeAt: Date;
}

export interface ItemRow {
  readonly productId: string;
  readonly storeId: string;
  readonly what: ItemWhat;
  readonly says: string | null;
  readonly was: string | null;
  readonly made: string | null;
}

/** A product of a change, as it is told. */
export interface ChangeItem extends Pick<ItemRow, 'productId' | 'storeId' | 'what' | 'says'> {
  readonly title: string;
  readonly prices: readonly BulkLine[];
}

/** What a change would do to a product. */
export interface Planned {
  readonly what: 'change' | 'same' | 'left';
  readonly says: string | null;
  readonly prices?: readonly BulkLine[];
}

/** What came of it for one product; `was` and `made` are what it is undone by. */
export interface Done {
  readonly what: 'done' | 'same' | 'left' | 'undone' | 'kept';
  readonly says: string | null;
  readonly was?: unknown;
  readonly made?: unknown;
}

export type Keep = (db: Database, done: Done) => Promise<void>;

const COLUMNS =
  'c.id, c.workspace_id AS workspaceId, c.kind, c.asked, c.title, c.state, c.job_id AS jobId, c.person_id AS personId, p.name AS `by`, c.made_at AS madeAt';

const rowOf = (row: Omit<ChangeRow, 'asked'> & { readonly asked: string }): ChangeRow => ({
  ...row,
  asked: JSON.parse(row.asked) as AskedChange,
});

type Stored = Omit<ChangeRow, 'asked'> & { readonly asked: string };

/** Throws `not-found`. */
export async function findChange(ctx: Context, workspaceId: string, id: string): Promise<ChangeRow> {
  const row = await ctx.db.row<Stored>(
    `SELECT ${COLUMNS} FROM range_change c JOIN person p ON p.id = c.person_id WHERE c.id = ? AND c.workspace_id = ?`,
    [id, workspaceId],
  );
  if (!row) throw notFound('change of many products', id);
  return rowOf(row);
}

/** Changes that are told of in a list. */
const MAX_TOLD = 50;

/** The latest changes of a workspace, newest first. */
export async function listChanges(ctx: Context, workspaceId: string): Promise<ChangeRow[]> {
  const rows = await ctx.db.rows<Stored>(
    `SELECT ${COLUMNS} FROM range_change c JOIN person p ON p.id = c.person_id WHERE c.workspace_id = ? ORDER BY c.made_at DESC, c.id LIMIT ${MAX_TOLD}`,
    [workspaceId],
  );
  return rows.map(rowOf);
}

/** How many products of a change stand where. */
export type ChangeCounts = { readonly [what in ItemWhat]?: number };

export async function countItems(ctx: Context, changeId: string): Promise<ChangeCounts> {
  const rows = await ctx.db.rows<{ what: ItemWhat; n: number }>(
    'SELECT what, COUNT(*) AS n FROM range_change_item WHERE change_id = ? GROUP BY what',
    [changeId],
  );
  return Object.fromEntries(rows.map(({ what, n }) => [what, Number(n)]));
}

/** Products of a change that are told at once. */
const ITEMS_PAGE = 100;

/** Products of a change that stand somewhere, or all of them, after one. */
export async function changeItems(
  ctx: Context,
  changeId: string,
  { what, after }: { readonly what: ItemWhat | null; readonly after: string },
): Promise<ChangeItem[]> {
  const rows = await ctx.db.rows<Omit<ChangeItem, 'prices'> & { readonly prices: string | null }>(
    `SELECT i.product_id AS productId, i.store_id AS storeId, i.what, i.says, i.prices, COALESCE(p.title, '') AS title
     FROM range_change_item i LEFT JOIN product p ON p.id = i.product_id
     WHERE i.change_id = ? AND i.product_id > ? ${what === null ? '' : 'AND i.what = ?'} ORDER BY i.product_id LIMIT ${ITEMS_PAGE}`,
    [changeId, after, ...(what === null ? [] : [what])],
  );
  return rows.map(({ prices, ...row }) => ({ ...row, prices: prices ? (JSON.parse(prices) as BulkLine[]) : [] }));
}
