import type { RangeFilter } from '@/core/range';
import type { SyncState } from '@/core/sync/state';
import type { Context } from '../context';
import { countFound } from '../products/product-page';
import {
  askedNow,
  both,
  foundInRange,
  foundProductsAlone,
  listingConditions,
  stateNow,
  type Asked,
  type Condition,
  type Facet,
} from './found';

/** Something that the range can be filtered by, and how many products would be found with it. */
export interface Counted {
  readonly value: string;
  readonly n: number;
}

/** How many products a filter finds, and how many each value of each of its lists would, with all else as it is. */
export interface RangeCounts {
  readonly total: number;
  readonly states: readonly (Counted & { readonly value: SyncState })[];
  readonly stores: readonly Counted[];
  readonly rules: readonly Counted[];
  readonly findings: readonly Counted[];
  readonly partners: readonly (Counted & { readonly name: string })[];
  readonly kinds: readonly Counted[];
  readonly tags: readonly Counted[];
  readonly underFloor: number;
}

/** Values of one list that are told, those with most products first. */
const MAX_VALUES = 100;

const counted = (rows: readonly Line[]): Counted[] => rows.map(({ value, n }) => ({ value, n: Number(n) }));

interface Line {
  readonly value: string;
  readonly n: number;
}

/** Products by something of their listings: `of` is what it is, of the outcome `o`. */
async function byListing(ctx: Context, asked: Asked, facet: Facet | null, of: Condition): Promise<Counted[]> {
  const alone = foundProductsAlone(asked, facet);
  const { sql, values } = both([
    { sql: 'o.workspace_id = ?', values: [asked.workspaceId] },
    ...listingConditions(asked, facet),
    ...(alone ? [{ sql: `o.product_id IN (SELECT id FROM product WHERE ${alone.where})`, values: alone.values }] : []),
  ]);
  return counted(
    await ctx.db.rows<Line>(
      `SELECT ${of.sql} AS value, COUNT(DISTINCT o.product_id) AS n FROM listing_outcome o WHERE ${sql} GROUP BY value`,
      [...of.values, ...values],
    ),
  );
}

/** Products by what is in a table of theirs with one row for each value. */
async function byTable(ctx: Context, asked: Asked, facet: 'rules' | 'findings' | 'tags'): Promise<Counted[]> {
  const { table, column } = TABLES[facet];
  const conditions = listingConditions(asked, facet);
  const ofListing = facet === 'rules' && conditions.length > 0;
  const alone = ofListing || conditions.length === 0;
  const found = alone ? foundProductsAlone(asked, facet) : foundInRange(asked, facet);
  const { sql, values } = both([
    { sql: 't.workspace_id = ?', values: [asked.workspaceId] },
    ...(ofListing ? conditions : []),
    ...(found ? [{ sql: `t.product_id IN (SELECT id FROM product WHERE ${found.where})`, values: found.values }] : []),
  ]);
  const join = ofListing
    ? 'JOIN listing_outcome o ON o.product_id = t.product_id AND o.store_id = t.store_id AND o.number = t.number'
    : '';
  // A rule can be broken in several listings of a product; a tag or a finding is there once.
  const n = facet === 'rules' ? 'COUNT(DISTINCT t.product_id)' : 'COUNT(*)';
  return counted(
    await ctx.db.rows<Line>(
      `SELECT t.${column} AS value, ${n} AS n FROM ${table} t ${join} WHERE ${sql} GROUP BY t.${column} ORDER BY n DESC, value LIMIT ${MAX_VALUES}`,
      values,
    ),
  );
}

const TABLES = {
  rules: { table: 'outcome_rule', column: 'rule_id' },
  findings: { table: 'product_finding', column: 'finding' },
  tags: { table: 'product_tag', column: 'tag' },
} as const;

interface OfBlank {
  readonly kind: string;
  readonly partnerId: string;
  readonly partner: string;
  readonly n: number;
}

const sums = (rows: readonly { readonly value: string; readonly n: number }[]): Counted[] => {
  const all = new Map<string, number>();
  for (const { value, n } of rows) all.set(value, (all.get(value) ?? 0) + n);
  return [...all].map(([value, n]) => ({ value, n })).sort((a, b) => b.n - a.n || (a.value < b.value ? -1 : 1));
};

/** Products by print partner and kind of good: counted by blank, of which there are few. Each is counted as if nothing were asked of it. */
async function byBlank(ctx: Context, asked: Asked) {
  const { filter } = asked;
  const { where, values } = foundInRange(asked, 'blanks');
  const rows = await ctx.db.rows<OfBlank>(
    `SELECT g.kind, b.partner_id AS partnerId, p.name AS partner, c.n FROM
       (SELECT blank_id, COUNT(*) AS n FROM product WHERE ${where} GROUP BY blank_id) c
       JOIN blank b ON b.id = c.blank_id JOIN good g ON g.id = b.good_id JOIN partner p ON p.id = b.partner_id`,
    values,
  );
  const all = rows.map((row) => ({ ...row, n: Number(row.n) }));
  const isAsked = (list: readonly string[], value: string) => list.length === 0 || list.includes(value);
  const names = new Map(all.map(({ partnerId, partner }) => [partnerId, partner]));
  return {
    kinds: sums(
      all.flatMap(({ kind, partnerId, n }) => (isAsked(filter.partners, partnerId) ? [{ value: kind, n }] : [])),
    ),
    partners: sums(
      all.flatMap(({ kind, partnerId, n }) => (isAsked(filter.kinds, kind) ? [{ value: partnerId, n }] : [])),
    ).map((one) => ({ ...one, name: names.get(one.value)! })),
  };
}

/** Products of which some listing is sold at a loss, and is as it is asked beside that. */
async function countUnderFloor(ctx: Context, asked: Asked): Promise<number> {
  const under = { ...asked, filter: { ...asked.filter, underFloor: true } };
  const [of] = await byListing(ctx, under, null, { sql: "''", values: [] });
  return of?.n ?? 0;
}

/** All counts of a filter, each a statement of its own on an index. */
export async function rangeCounts(ctx: Context, workspaceId: string, filter: RangeFilter): Promise<RangeCounts> {
  const asked = await askedNow(ctx.db, workspaceId, filter);
  const [total, states, stores, rules, findings, tags, blanks, underFloor] = await Promise.all([
    countFound(ctx, foundInRange(asked)),
    byListing(ctx, asked, 'states', stateNow(asked)),
    byListing(ctx, asked, 'stores', { sql: 'o.store_id', values: [] }),
    byTable(ctx, asked, 'rules'),
    byTable(ctx, asked, 'findings'),
    byTable(ctx, asked, 'tags'),
    byBlank(ctx, asked),
    countUnderFloor(ctx, asked),
  ]);
  return { total, states: states as RangeCounts['states'], stores, rules, findings, tags, ...blanks, underFloor };
}
