import { setTimeout as delay } from 'node:timers/promises';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database, Value } from '../db/pool';
import { EVERY_STORE, markOfEarlierDays } from '../events/due';
import { emit } from '../events/events';
import { log } from '../log';
import { loadDesigns } from '../products/bundle';
import { productsById } from '../products/products';
import { listStores, today } from '../stores/stores';
import { dropFacts, factsOf, keepFacts, type ProductFacts } from './facts';
import { judge, type Outcome } from './outcome';

/** Products that are judged in one go. */
const PAGE = 20;
const LEASE_SECONDS = 60;

interface Mark {
  readonly productId: string;
  /** Where it is to be judged; `EVERY_STORE` for all. */
  readonly storeId: string;
  readonly asked: number;
}

/** Takes marks of one workspace, under a lease: of two that judge a product, only one writes. */
const take = (ctx: Context, workspaceId: string, token: string): Promise<Mark[]> =>
  ctx.pools.transaction(async (db) => {
    const marks = await db.rows<Mark>(
      `SELECT product_id AS productId, store_id AS storeId, asked FROM judge_due WHERE workspace_id = ? AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3))
       LIMIT ${PAGE} FOR UPDATE SKIP LOCKED`,
      [workspaceId],
    );
    if (marks.length > 0)
      await db.run(
        `UPDATE judge_due SET lease_token = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE product_id IN (${marks.map(() => '?').join(',')})`,
        [token, LEASE_SECONDS, ...marks.map(({ productId }) => productId)],
      );
    return marks;
  });

const OUTCOME_COLUMNS = [
  ...[
    'product_id',
    'store_id',
    'number',
    'workspace_id',
    'state',
    'here_hash',
    'broken',
    'rules',
    'changed',
    'variants',
  ],
  ...['low_minor', 'high_minor', 'left_minor', 'left_ppm', 'under_floor', 'first_says'],
];
/** Letters of the first sentence, as the range shows it. */
const SAYS_MAX = 300;

/** A column holds so much: what is lost on a price of almost nothing is more parts of it than that, and no less a loss. */
const MOST = 2_000_000_000;
const inColumn = (value: number | undefined): number | null =>
  value === undefined ? null : Math.max(-MOST, Math.min(MOST, value));

const outcomeRow = (workspaceId: string, one: Outcome): Value[] => [
  ...[one.productId, one.storeId, one.number, workspaceId, one.state, one.hereHash, one.broken.length],
  ...[JSON.stringify(one.broken), JSON.stringify(one.changed), one.variants, one.lowMinor, one.highMinor],
  ...[inColumn(one.left?.minor), inColumn(one.left?.ppm), one.underFloor],
  one.broken[0]?.says.slice(0, SAYS_MAX).toWellFormed() ?? null,
];

const ruleRows = (workspaceId: string, { productId, storeId, number, broken }: Outcome): Value[][] =>
  [...new Set(broken.map(({ id }) => id))].map((id) => [productId, storeId, number, id, workspaceId]);

async function replaceOutcomes(db: Database, workspaceId: string, mark: Mark, outcomes: readonly Outcome[]) {
  for (const table of ['listing_outcome', 'outcome_rule'])
    await db.run(`DELETE FROM ${table} WHERE product_id = ? AND ? IN ('', store_id)`, [mark.productId, mark.storeId]);
  const rows = outcomes.map((one) => outcomeRow(workspaceId, one));
  await db.insertMany('listing_outcome', OUTCOME_COLUMNS, rows);
  await db.insertMany(
    'outcome_rule',
    ['product_id', 'store_id', 'number', 'rule_id', 'workspace_id'],
    outcomes.flatMap((one) => ruleRows(workspaceId, one)),
  );
}

/** What came of a product. */
interface Judged {
  readonly outcomes: readonly Outcome[];
  /** Null: it was put away meanwhile, or was judged in one store alone. */
  readonly facts: ProductFacts | null;
}

/** Keeps what came of a product, unless the lease went to another. A mark that was set again meanwhile stays. */
async function keep(db: Database, workspaceId: string, mark: Mark, token: string, { outcomes, facts }: Judged) {
  const { productId, storeId, asked } = mark;
  const now = await db.row<{ asked: number }>(
    'SELECT asked FROM judge_due WHERE product_id = ? AND lease_token = ? FOR UPDATE',
    [productId, token],
  );
  if (!now) return;
  await emit(db, workspaceId, 'outcome', { productId });
  await replaceOutcomes(db, workspaceId, mark, outcomes);
  if (facts) await keepFacts(db, workspaceId, facts);
  else if (storeId === EVERY_STORE) await dropFacts(db, productId);
  if (now.asked === asked) await db.run('DELETE FROM judge_due WHERE product_id = ?', [productId]);
  else await db.run('UPDATE judge_due SET lease_token = NULL, lease_until = NULL WHERE product_id = ?', [productId]);
}

async function judgePage(ctx: Context, workspaceId: string): Promise<number> {
  const token = newId('lease-').slice(0, 22);
  const marks = await take(ctx, workspaceId, token);
  if (marks.length === 0) return 0;
  const [products, stores] = await Promise.all([
    productsById(
      ctx.db,
      workspaceId,
      marks.map(({ productId }) => productId),
    ),
    listStores(ctx, workspaceId),
  ]);
  const storeOf = new Map(marks.map(({ productId, storeId }) => [productId, storeId]));
  const isMarked = (productId: string, storeId: string) => [EVERY_STORE, storeId].includes(storeOf.get(productId)!);
  const outcomes = await judge(ctx, workspaceId, products, stores, { designs: true, isWanted: isMarked });
  const whole = products.filter(({ id }) => storeOf.get(id) === EVERY_STORE);
  const facts = new Map<string, ProductFacts>();
  for (const design of await loadDesigns(ctx, workspaceId, whole))
    facts.set(design.product.id, await factsOf(ctx, design));
  for (const mark of marks) {
    // What was archived meanwhile has none: its listings stay in the shops as they are.
    const own = outcomes.filter(({ productId }) => productId === mark.productId);
    const judged = { outcomes: own, facts: facts.get(mark.productId) ?? null };
    await ctx.pools.transaction((db) => keep(db, workspaceId, mark, token, judged));
  }
  return marks.length;
}

/** Judges a page of what is marked in every workspace, one after the other, so that nobody's thousand products hold up another's one. Gives how many. */
export async function judgeDue(ctx: Context): Promise<number> {
  const workspaces = await ctx.db.rows<{ id: string }>(
    'SELECT workspace_id AS id FROM judge_due WHERE lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3) GROUP BY workspace_id',
  );
  let judged = 0;
  for (const { id } of workspaces)
    judged += await judgePage(ctx, id).catch((error: unknown) => {
      // Its lease runs out, and it is tried again then.
      log.error({ err: error, workspace: id }, 'products could not be judged');
      return 0;
    });
  return judged;
}

const LOOK_MS = 400;

/** Judges whatever is marked, until `signal` is aborted: beside the jobs, since a mark is no work of its own that a person waits for. */
export async function keepJudged(ctx: Context, signal: AbortSignal): Promise<void> {
  while (!signal.aborted) {
    const judged = await judgeDue(ctx).catch((error: unknown) => {
      log.warn({ err: error }, 'marks could not be read');
      return 0;
    });
    // What happens to one product in several stores at once is judged together.
    if (judged < PAGE) await delay(LOOK_MS, undefined, { signal }).catch(() => undefined);
  }
}

/** Products that a chore marks at once. */
const NEW_DAY_PAGE = 2000;

/** Marks what was judged on an earlier day: what a day begins or ends counts from then on. */
export const judgeNewDay = (ctx: Context): Promise<unknown> => markOfEarlierDays(ctx.db, today(ctx), NEW_DAY_PAGE);
