import type { RangeFilter } from '@/core/range';
import type { Database, Value } from '../db/pool';
import { foundProducts } from '../products/product-page';

/** A condition in SQL with its values. */
export interface Condition {
  readonly sql: string;
  readonly values: readonly Value[];
}

/** What a filter is taken without, where what it leaves out is counted. */
export type Facet = 'states' | 'stores' | 'rules' | 'findings' | 'blanks' | 'tags' | 'underFloor';

const marksOf = (list: readonly unknown[]) => list.map(() => '?').join(',');

const oneOf = (column: string, list: readonly string[]): Condition => ({
  sql: `${column} IN (${marksOf(list)})`,
  values: list,
});

export const both = (conditions: readonly Condition[]): Condition => ({
  sql: conditions.map(({ sql }) => `(${sql})`).join(' AND '),
  values: conditions.flatMap(({ values }) => values),
});

const OPEN = "('queued', 'running', 'waiting')";

/**
 * What is looked for, and the ids of products of which a listing is on its way just now: few, found by the jobs that are open. Where a state is asked for,
 * theirs alone are looked at one by one; all others are as they are stored.
 */
export interface Asked {
  readonly workspaceId: string;
  readonly filter: RangeFilter;
  readonly travelling: readonly string[];
}

/** A filter of a workspace as it is just now. */
export async function askedNow(db: Database, workspaceId: string, filter: RangeFilter): Promise<Asked> {
  const rows = await db.rows<{ id: string }>(
    `SELECT DISTINCT l.product_id AS id FROM job j JOIN listing l ON l.job_id = j.id WHERE j.workspace_id = ? AND j.state IN ${OPEN}`,
    [workspaceId],
  );
  return { workspaceId, filter, travelling: rows.map(({ id }) => id) };
}

/** State of an outcome `o`, with what is on its way told so. */
export const stateNow = ({ travelling }: Pick<Asked, 'travelling'>): Condition =>
  travelling.length === 0
    ? { sql: 'o.state', values: [] }
    : {
        sql: `IF(o.product_id IN (${marksOf(travelling)}) AND EXISTS (SELECT 1 FROM listing l JOIN job j ON j.id = l.job_id
          WHERE l.product_id = o.product_id AND l.store_id = o.store_id AND l.number = o.number AND j.state IN ${OPEN}), 'on-its-way', o.state)`,
        values: travelling,
      };

/** What is asked of one listing, of the outcome `o`; empty where nothing is. */
export function listingConditions(asked: Asked, without: Facet | null): readonly Condition[] {
  const { workspaceId, filter } = asked;
  const { states, stores, rules, marginBelowPpm, underFloor } = filter;
  const conditions: Condition[] = [];
  if (without !== 'states' && states.length > 0) {
    const { sql, values } = stateNow(asked);
    conditions.push({ sql: `${sql} IN (${marksOf(states)})`, values: [...values, ...states] });
  }
  if (without !== 'stores' && stores.length > 0) conditions.push(oneOf('o.store_id', stores));
  if (marginBelowPpm !== null) conditions.push({ sql: 'o.left_ppm < ?', values: [marginBelowPpm] });
  if (without !== 'underFloor' && underFloor) conditions.push({ sql: 'o.under_floor = TRUE', values: [] });
  if (without !== 'rules' && rules.length > 0)
    conditions.push({
      sql: `(o.product_id, o.store_id, o.number) IN (SELECT r.product_id, r.store_id, r.number FROM outcome_rule r WHERE r.workspace_id = ? AND r.rule_id IN (${marksOf(rules)}))`,
      values: [workspaceId, ...rules],
    });
  return conditions;
}

/** Blanks of print partners and of kinds of goods. */
function blankCondition({ partners, kinds }: RangeFilter): Condition[] {
  if (partners.length === 0 && kinds.length === 0) return [];
  const asked = [
    ...(partners.length > 0 ? [oneOf('b.partner_id', partners)] : []),
    ...(kinds.length > 0 ? [oneOf('g.kind', kinds)] : []),
  ];
  const { sql, values } = both(asked);
  return [{ sql: `blank_id IN (SELECT b.id FROM blank b JOIN good g ON g.id = b.good_id WHERE ${sql})`, values }];
}

/** What is asked of products beside their words, of the table `product`; empty where nothing is. */
function productConditions({ workspaceId, filter }: Asked, without: Facet | null): Condition[] {
  const { findings, tags, changedSince } = filter;
  const conditions: Condition[] = without === 'blanks' ? [] : blankCondition(filter);
  if (without !== 'findings' && findings.length > 0)
    conditions.push({
      sql: `id IN (SELECT f.product_id FROM product_finding f WHERE f.workspace_id = ? AND f.finding IN (${marksOf(findings)}))`,
      values: [workspaceId, ...findings],
    });
  if (without !== 'tags' && tags.length > 0)
    conditions.push({
      sql: `id IN (SELECT t.product_id FROM product_tag t WHERE t.workspace_id = ? AND t.tag IN (${marksOf(tags)}))`,
      values: [workspaceId, ...tags],
    });
  if (changedSince !== null)
    conditions.push({ sql: 'updated_at >= ?', values: [new Date(`${changedSince}T00:00:00Z`)] });
  return conditions;
}

/** Products of which a listing is as asked. */
function listedSo(asked: Asked, without: Facet | null): Condition[] {
  const conditions = listingConditions(asked, without);
  if (conditions.length === 0) return [];
  const { sql, values } = both(conditions);
  return [
    {
      sql: `id IN (SELECT o.product_id FROM listing_outcome o WHERE o.workspace_id = ? AND ${sql})`,
      values: [asked.workspaceId, ...values],
    },
  ];
}

/** What finds products in SQL, of the table `product`. */
export interface Found {
  readonly where: string;
  readonly values: Value[];
}

function foundBy({ workspaceId, filter }: Asked, conditions: readonly Condition[]): Found {
  const { where, values } = foundProducts(workspaceId, { words: filter.words });
  const all = both([{ sql: where, values }, ...conditions]);
  return { where: all.sql, values: [...all.values] };
}

/** What finds the products of a filter. */
export const foundInRange = (asked: Asked, without: Facet | null = null): Found =>
  foundBy(asked, [...productConditions(asked, without), ...listedSo(asked, without)]);

/** What is asked of products alone; null where nothing is: products that were put away have no outcomes, and need not be left out. */
export function foundProductsAlone(asked: Asked, without: Facet | null): Found | null {
  const conditions = productConditions(asked, without);
  return conditions.length === 0 && asked.filter.words === '' ? null : foundBy(asked, conditions);
}
