import type { RangeFilter } from '@/core/range';
import { groupBy } from '@/core/group';
import { worstState, type SyncState } from '@/core/sync/state';
import type { Severity } from '@/core/findings/finding';
import type { VariantTrouble } from '@/core/variants/trouble';
import type { Context } from '../context';
import { pageOf, type ProductSort } from '../products/product-page';
import { askedNow, foundInRange } from './found';

/** Where a product stands in a store, over all its listings there. */
export interface RangeCell {
  /** The worst of theirs. */
  readonly state: SyncState;
  readonly listings: number;
  /** Of all where they are alike, else null; null too where none is in the shop. */
  readonly visibility: 'draft' | 'live' | null;
  /** Rules that are broken, and the first in a sentence. */
  readonly broken: number;
  readonly says: string | null;
  /** Kinds of fields that changed here since both sides agreed. */
  readonly changed: readonly string[];
  /** Lowest and highest price, and what is left of the worst variant; minor units of the store's currency, null without a price. */
  readonly lowMinor: number | null;
  readonly highMinor: number | null;
  readonly leftMinor: number | null;
  readonly leftPpm: number | null;
  readonly underFloor: boolean;
}

export interface RangeRow {
  readonly id: string;
  readonly title: string;
  readonly blank: string;
  readonly partner: string;
  readonly variants: number;
  readonly troubles: readonly Pick<VariantTrouble, 'kind' | 'says' | 'remedy'>[];
  readonly picture: { readonly shotId: string; readonly color: string | null; readonly revision: number } | null;
  readonly findings: number;
  /** The worst that the checks say and nobody accepted; null where there is nothing. */
  readonly finding: { readonly severity: Severity; readonly says: string } | null;
  /** It changed a moment ago, and what is told of it is of before that. */
  readonly isDue: boolean;
  readonly updatedAt: Date;
  /** By store; a store where it was not judged yet has none. */
  readonly cells: { readonly [storeId: string]: RangeCell };
}

export interface RangePage {
  readonly rows: readonly RangeRow[];
  /** Where the next page begins; null on the last. */
  readonly next: string | null;
}

interface ProductLine {
  readonly id: string;
  readonly title: string;
  readonly blankId: string;
  readonly createdAt: Date;
  readonly updatedAt: Date;
}

interface FactsLine {
  readonly id: string;
  readonly blank: string;
  readonly partner: string;
  readonly revision: number | null;
  readonly variants: number | null;
  readonly troubles: string | null;
  readonly shotId: string | null;
  readonly color: string | null;
  readonly findings: number | null;
  readonly finding: Severity | null;
  readonly findingSays: string | null;
  readonly isDue: number;
}

interface OutcomeLine {
  readonly productId: string;
  readonly storeId: string;
  readonly state: SyncState;
  readonly broken: number;
  readonly says: string | null;
  readonly changed: string;
  readonly lowMinor: number | null;
  readonly highMinor: number | null;
  readonly leftMinor: number | null;
  readonly leftPpm: number | null;
  readonly underFloor: number;
  readonly visibility: 'draft' | 'live' | null;
  readonly isOpen: number;
}

const marksOf = (list: readonly unknown[]) => list.map(() => '?').join(',');

const readFacts = (ctx: Context, ids: readonly string[]): Promise<FactsLine[]> =>
  ctx.db.rows<FactsLine>(
    `SELECT p.id, b.name AS blank, r.name AS partner, f.revision, f.variants, f.troubles, f.shot_id AS shotId, f.color, f.findings, f.finding,
       f.finding_says AS findingSays, d.product_id IS NOT NULL AS isDue
     FROM product p JOIN blank b ON b.id = p.blank_id JOIN partner r ON r.id = b.partner_id
       LEFT JOIN product_facts f ON f.product_id = p.id LEFT JOIN judge_due d ON d.product_id = p.id WHERE p.id IN (${marksOf(ids)})`,
    ids,
  );

const readOutcomes = (ctx: Context, ids: readonly string[]): Promise<OutcomeLine[]> =>
  ctx.db.rows<OutcomeLine>(
    `SELECT o.product_id AS productId, o.store_id AS storeId, o.state, o.broken, o.first_says AS says, o.changed, o.low_minor AS lowMinor,
       o.high_minor AS highMinor, o.left_minor AS leftMinor, o.left_ppm AS leftPpm, o.under_floor AS underFloor,
       IF(l.external_id IS NULL, NULL, l.visibility) AS visibility, COALESCE(j.state IN ('queued', 'running', 'waiting'), FALSE) AS isOpen
     FROM listing_outcome o LEFT JOIN listing l ON l.product_id = o.product_id AND l.store_id = o.store_id AND l.number = o.number
       LEFT JOIN job j ON j.id = l.job_id WHERE o.product_id IN (${marksOf(ids)}) ORDER BY o.number`,
    ids,
  );

const least = (values: readonly (number | null)[]): number | null => {
  const known = values.flatMap((value) => value ?? []);
  return known.length > 0 ? Math.min(...known) : null;
};
const most = (values: readonly (number | null)[]): number | null => {
  const known = values.flatMap((value) => value ?? []);
  return known.length > 0 ? Math.max(...known) : null;
};

function cellOf(lines: readonly OutcomeLine[]): RangeCell {
  const shown = new Set(lines.map(({ visibility }) => visibility));
  const worst = lines.reduce((a, b) => ((b.leftMinor ?? Infinity) < (a.leftMinor ?? Infinity) ? b : a));
  return {
    state: worstState(lines.map(({ state, isOpen }) => (isOpen === 1 ? 'on-its-way' : state))),
    listings: lines.length,
    visibility: shown.size === 1 ? [...shown][0]! : null,
    broken: lines.reduce((sum, { broken }) => sum + broken, 0),
    says: lines.find(({ says }) => says !== null)?.says ?? null,
    changed: [...new Set(lines.flatMap(({ changed }) => JSON.parse(changed) as string[]))],
    lowMinor: least(lines.map(({ lowMinor }) => lowMinor)),
    highMinor: most(lines.map(({ highMinor }) => highMinor)),
    leftMinor: worst.leftMinor,
    leftPpm: worst.leftPpm,
    underFloor: lines.some(({ underFloor }) => underFloor === 1),
  };
}

function rowOf(product: ProductLine, facts: FactsLine | undefined, lines: readonly OutcomeLine[]): RangeRow {
  const cells = [...groupBy(lines, ({ storeId }) => storeId)].map(([storeId, own]) => [storeId, cellOf(own)] as const);
  return {
    id: product.id,
    title: product.title,
    blank: facts?.blank ?? '',
    partner: facts?.partner ?? '',
    variants: facts?.variants ?? 0,
    troubles: facts?.troubles ? (JSON.parse(facts.troubles) as VariantTrouble[]) : [],
    picture: facts?.shotId ? { shotId: facts.shotId, color: facts.color, revision: facts.revision! } : null,
    findings: facts?.findings ?? 0,
    finding: facts?.finding ? { severity: facts.finding, says: facts.findingSays ?? '' } : null,
    isDue: facts?.isDue === 1,
    updatedAt: product.updatedAt,
    cells: Object.fromEntries(cells),
  };
}

const COLUMNS = 'id, title, blank_id AS blankId, created_at AS createdAt, updated_at AS updatedAt';

async function rowsOf(ctx: Context, products: readonly ProductLine[]): Promise<RangeRow[]> {
  if (products.length === 0) return [];
  const ids = products.map(({ id }) => id);
  const [facts, outcomes] = await Promise.all([readFacts(ctx, ids), readOutcomes(ctx, ids)]);
  const factsOf = new Map(facts.map((one) => [one.id, one]));
  const linesOf = groupBy(outcomes, ({ productId }) => productId);
  return products.map((one) => rowOf(one, factsOf.get(one.id), linesOf.get(one.id) ?? []));
}

/** Products of a filter in an order, a page at a time: read as they were written down, whatever their number. Throws `page-wrong`. */
export async function rangePage(
  ctx: Context,
  workspaceId: string,
  filter: RangeFilter,
  how: { readonly sort: ProductSort; readonly limit: number; readonly after: string | null },
): Promise<RangePage> {
  const asked = await askedNow(ctx.db, workspaceId, filter);
  const { rows, next } = await pageOf<ProductLine>(ctx, COLUMNS, foundInRange(asked), how);
  return { rows: await rowsOf(ctx, rows), next };
}

/** Products by their ids, in no order; those that are not in the range are left out. */
export async function rangeRows(ctx: Context, workspaceId: string, ids: readonly string[]): Promise<RangeRow[]> {
  if (ids.length === 0) return [];
  const products = await ctx.db.rows<ProductLine>(
    `SELECT ${COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id IN (${marksOf(ids)})`,
    [workspaceId, ...ids],
  );
  return rowsOf(ctx, products);
}
