import type { ActivityAbout } from '@/core/activity';
import type { ChangedKind } from '@/core/sync/changed';
import type { Context } from '../context';
import type { Value } from '../db/pool';

/** One line of the activity. */
export interface ActivityLine {
  readonly id: number;
  readonly at: Date;
  readonly about: ActivityAbout;
  readonly what: string;
  readonly says: string;
  /** Who did it or asked for it; null for what happened without anybody asking. */
  readonly by: string | null;
  /** How often, within an hour. */
  readonly times: number;
  readonly fields: readonly ChangedKind[] | null;
  readonly product: { readonly id: string; readonly title: string } | null;
  readonly store: { readonly id: string; readonly name: string } | null;
}

export interface ActivityQuery {
  readonly about?: ActivityAbout | null;
  readonly storeId?: string | null;
  readonly productId?: string | null;
  /** A person's name; empty: what happened without anybody asking. */
  readonly by?: string | null;
  /** A day, YYYY-MM-DD, UTC: that and what was before it. */
  readonly until?: string | null;
  /** The last line of the page before. */
  readonly after?: { readonly at: Date; readonly id: number } | null;
}

/** Lines of a page. */
export const ACTIVITY_PAGE = 100;

type Row = Omit<ActivityLine, 'fields' | 'product' | 'store'> & {
  readonly fields: string | null;
  readonly productId: string | null;
  readonly title: string | null;
  readonly storeId: string | null;
  readonly storeName: string | null;
};

/** What was done and noticed in a workspace, newest first: a page, each question read off a key of its own. */
export async function activityPage(ctx: Context, workspaceId: string, query: ActivityQuery): Promise<ActivityLine[]> {
  const { about, storeId, productId, by, until, after } = query;
  const wheres: [string, ...Value[]][] = [['a.workspace_id = ?', workspaceId]];
  if (about) wheres.push(['a.about = ?', about]);
  if (storeId) wheres.push(['a.store_id = ?', storeId]);
  if (productId) wheres.push(['a.product_id = ?', productId]);
  if (by === '') wheres.push(['a.by_name IS NULL']);
  else if (by != null) wheres.push(['a.by_name = ?', by]);
  if (until) wheres.push(['a.at < DATE(?) + INTERVAL 1 DAY', until]);
  if (after) wheres.push(['(a.at < ? OR (a.at = ? AND a.id < ?))', after.at, after.at, after.id]);
  const rows = await ctx.db.rows<Row>(
    `SELECT a.id, a.at, a.about, a.what, a.says, a.by_name AS \`by\`, a.times, a.fields, a.product_id AS productId, p.title, a.store_id AS storeId, s.name AS storeName
     FROM (SELECT * FROM activity a WHERE ${wheres.map(([where]) => where).join(' AND ')} ORDER BY a.at DESC, a.id DESC LIMIT ${ACTIVITY_PAGE}) a
     LEFT JOIN product p ON p.id = a.product_id LEFT JOIN store s ON s.id = a.store_id ORDER BY a.at DESC, a.id DESC`,
    wheres.flatMap(([, ...values]) => values),
  );
  return rows.map(({ productId: product, title, storeId: store, storeName, fields, ...line }) => ({
    ...line,
    fields: fields === null ? null : (JSON.parse(fields) as ChangedKind[]),
    product: product !== null && title !== null ? { id: product, title } : null,
    store: store !== null && storeName !== null ? { id: store, name: storeName } : null,
  }));
}

/** Names of those of whom something is told: people of the workspace. */
export async function activityPeople(ctx: Context, workspaceId: string): Promise<string[]> {
  const rows = await ctx.db.rows<{ name: string }>(
    'SELECT DISTINCT by_name AS name FROM activity WHERE workspace_id = ? AND by_name IS NOT NULL ORDER BY by_name LIMIT 200',
    [workspaceId],
  );
  return rows.map(({ name }) => name);
}
