import { invalid, notFound } from '@/core/errors';
import { checkCode } from '@/core/pricing/code';
import { checkSaleTerms, type SaleTerms } from '@/core/pricing/sale';
import { checkScope, type SaleScope } from '@/core/pricing/sale-scope';
import { note } from '../activity/note';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { enqueue } from '../jobs/jobs';
import type { Actor } from '../people/people';

/** What became of listings at one turn of a sale; of stores, at one of a code. */
export interface SaleReport {
  readonly sent: number;
  /** What was left as it is, and why; the first hundred. `productId` null: a whole store. */
  readonly left: readonly { readonly productId: string | null; readonly storeId: string; readonly why: string }[];
}

export interface SaleRow {
  readonly id: string;
  readonly workspaceId: string;
  readonly name: string;
  /** What buyers type; null for a sale, which changes prices. */
  readonly code: string | null;
  readonly terms: SaleTerms;
  readonly scope: SaleScope;
  readonly startsAt: Date;
  readonly endsAt: Date;
  readonly state: 'planned' | 'running' | 'ended' | 'stopped';
  readonly report: { readonly begun?: SaleReport; readonly ended?: SaleReport } | null;
  readonly by: string;
}

const COLUMNS = `s.id, s.workspace_id AS workspaceId, s.name, s.code, s.terms, s.scope, s.starts_at AS startsAt, s.ends_at AS endsAt, s.state, s.report, p.name AS \`by\``;
const FROM = 'FROM sale s JOIN person p ON p.id = s.person_id';

/** Sales of a workspace that are told: the newest. */
const MAX_TOLD = 200;
/** Sales that may be planned or run at once. */
const MAX_OPEN = 50;
/** A sale cannot be planned further ahead, or be longer. */
const MAX_DAYS = 366;

export const listSales = (ctx: Context, workspaceId: string): Promise<SaleRow[]> =>
  ctx.db.rows<SaleRow>(`SELECT ${COLUMNS} ${FROM} WHERE s.workspace_id = ? ORDER BY s.created_at DESC, s.id LIMIT ?`, [
    workspaceId,
    MAX_TOLD,
  ]);

export async function findSale(ctx: Context, workspaceId: string, id: string): Promise<SaleRow> {
  const sale = await ctx.db.row<SaleRow>(`SELECT ${COLUMNS} ${FROM} WHERE s.id = ? AND s.workspace_id = ?`, [
    id,
    workspaceId,
  ]);
  if (!sale) throw notFound('sale', id);
  return sale;
}

/** Sales and codes that hold at some time in a span, of those planned and running. */
export const salesDuring = (
  ctx: Context,
  workspaceId: string,
  { startsAt, endsAt }: Pick<SalePlan, 'startsAt' | 'endsAt'>,
): Promise<SaleRow[]> =>
  ctx.db.rows<SaleRow>(
    `SELECT ${COLUMNS} ${FROM} WHERE s.workspace_id = ? AND s.state IN ('planned', 'running') AND s.starts_at < ? AND s.ends_at > ? ORDER BY s.id LIMIT ?`,
    [workspaceId, endsAt, startsAt, MAX_OPEN],
  );

/** Sales in which a workspace is just now, by the clock: whether their listings were sent already does not matter. */
export const salesNow = (ctx: Context, workspaceId: string): Promise<SaleRow[]> =>
  ctx.db.rows<SaleRow>(
    `SELECT ${COLUMNS} ${FROM} WHERE s.workspace_id = ? AND s.code IS NULL AND s.state IN ('planned', 'running') AND s.starts_at <= ? AND s.ends_at > ?
     ORDER BY s.id LIMIT ?`,
    [workspaceId, ctx.clock.now(), ctx.clock.now(), MAX_OPEN],
  );

export interface SalePlan {
  readonly name: string;
  /** Absent or null: a sale. */
  readonly code?: string | null;
  /** A code can lose money on a price, which stays as it is: it is planned then where that was said. */
  readonly acceptLosses?: boolean;
  readonly terms: SaleTerms;
  readonly scope: SaleScope;
  readonly startsAt: Date;
  readonly endsAt: Date;
}

/** Throws `sale-invalid` with all that is wrong. */
export function refuseSaleFaults(ctx: Context, { name, code, terms, scope, startsAt, endsAt }: SalePlan): void {
  const faults = [...checkSaleTerms(terms), ...checkScope(scope)];
  const now = ctx.clock.now().getTime();
  const day = 86_400_000;
  if (code != null && faults.length === 0) faults.push(...checkCode(code, terms));
  if (name.trim() === '') faults.push('A sale needs a name.');
  if (!(endsAt > startsAt)) faults.push('A sale ends after it begins.');
  if (endsAt.getTime() <= now) faults.push('This sale would be over already.');
  if (startsAt.getTime() > now + MAX_DAYS * day || endsAt.getTime() - startsAt.getTime() > MAX_DAYS * day)
    faults.push('A sale begins within a year and lasts no longer than one.');
  if (faults.length > 0)
    throw invalid('sale-invalid', faults.join(' '), { faults: faults.map((says) => ({ path: '/', says })) });
}

/** Throws for a code that is planned or holds already: shops know them by name. */
async function refuseTaken(db: Database, workspaceId: string, code: string): Promise<void> {
  const row = await db.row(
    "SELECT id FROM sale WHERE workspace_id = ? AND code = ? AND state IN ('planned', 'running') LIMIT 1",
    [workspaceId, code],
  );
  if (row)
    throw invalid('code-taken', `The code ${code} is planned or holds already; end that one first, or take another.`);
}

/** Plans a sale or a code as it is; `preview.ts` looks at what it does. Throws `sale-invalid`, `code-taken`. */
export async function planSale(ctx: Context, actor: Actor, plan: SalePlan): Promise<SaleRow> {
  refuseSaleFaults(ctx, plan);
  const id = newId('s');
  await ctx.pools.transaction(async (db) => {
    // One after the other: of two that are planned at the same time the second sees the first.
    await db.row('SELECT id FROM workspace WHERE id = ? FOR UPDATE', [actor.workspaceId]);
    const open = await db.row<{ n: number }>(
      "SELECT COUNT(*) AS n FROM sale WHERE workspace_id = ? AND state IN ('planned', 'running')",
      [actor.workspaceId],
    );
    if (open!.n >= MAX_OPEN)
      throw invalid('sales-too-many', `There can be ${MAX_OPEN} sales planned or running; stop one first.`);
    if (plan.code != null) await refuseTaken(db, actor.workspaceId, plan.code);
    await db.run(
      'INSERT INTO sale (id, workspace_id, name, code, losses_accepted, terms, scope, starts_at, ends_at, person_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
      [
        id,
        actor.workspaceId,
        plan.name.trim(),
        plan.code ?? null,
        plan.acceptLosses ?? false,
        JSON.stringify(plan.terms),
        JSON.stringify(plan.scope),
        plan.startsAt,
        plan.endsAt,
        actor.personId,
      ],
    );
    const kind = plan.code == null ? 'sale' : 'code';
    await note(db, actor, { about: 'sale', what: 'planned', says: `Planned the ${kind} “${plan.name.trim()}”.` });
    await emit(db, actor.workspaceId, 'sale', { saleId: id });
  });
  return findSale(ctx, actor.workspaceId, id);
}

/** Ends a sale now, whether it runs or is only planned. Repeating it is harmless. */
export async function stopSale(ctx: Context, actor: Actor, id: string): Promise<SaleRow> {
  const sale = await findSale(ctx, actor.workspaceId, id);
  await ctx.pools.transaction(async (db) => {
    const was = await db.row<{ state: SaleRow['state'] }>('SELECT state FROM sale WHERE id = ? FOR UPDATE', [id]);
    if (was?.state !== 'planned' && was?.state !== 'running') return;
    await db.run("UPDATE sale SET state = 'stopped' WHERE id = ?", [id]);
    if (was.state === 'running') await askForTurn(db, sale, 'ended');
    await note(db, actor, { about: 'sale', what: 'stopped', says: `Stopped “${sale.name}”.` });
    await emit(db, actor.workspaceId, 'sale', { saleId: id });
  });
  return findSale(ctx, actor.workspaceId, id);
}

/** A job that sends what a sale changed, when it began or when it ended. */
const askForTurn = (
  db: Database,
  sale: Pick<SaleRow, 'id' | 'workspaceId' | 'name' | 'code'>,
  turn: 'begun' | 'ended',
) =>
  enqueue(db, {
    workspaceId: sale.workspaceId,
    kind: 'turn-sale',
    title: `${turn === 'begun' ? 'Begin' : 'End'} the ${sale.code === null ? 'sale' : 'code'} ${sale.name}`,
    payload: { saleId: sale.id, turn },
    subject: `sale:${sale.id}`,
    priority: 8,
    maxAttempts: 8,
  });

/** Begins and ends sales by the clock. A sale that was over before anybody looked is ended without being sent. */
export async function turnSales(ctx: Context): Promise<void> {
  const now = ctx.clock.now();
  const due = await ctx.db.rows<Pick<SaleRow, 'id' | 'workspaceId' | 'name' | 'code' | 'state' | 'endsAt'>>(
    `SELECT id, workspace_id AS workspaceId, name, code, state, ends_at AS endsAt FROM sale
     WHERE (state = 'planned' AND starts_at <= ?) OR (state = 'running' AND ends_at <= ?) LIMIT 200`,
    [now, now],
  );
  for (const sale of due)
    await ctx.pools.transaction(async (db) => {
      const next = sale.endsAt <= now ? 'ended' : 'running';
      const { affectedRows } = await db.run('UPDATE sale SET state = ? WHERE id = ? AND state = ?', [
        next,
        sale.id,
        sale.state,
      ]);
      if (affectedRows === 0) return;
      if (next === 'running') await askForTurn(db, sale, 'begun');
      else if (sale.state === 'running') await askForTurn(db, sale, 'ended');
      const says = `“${sale.name}” ${next === 'running' ? 'began' : 'ended'}, as planned.`;
      await note(db, { workspaceId: sale.workspaceId, personName: null }, { about: 'sale', what: next, says });
      await emit(db, sale.workspaceId, 'sale', { saleId: sale.id });
    });
}
