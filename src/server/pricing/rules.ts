import { invalid, notFound, TypicaError } from '@/core/errors';
import { checkRule, type PriceRule } from '@/core/pricing/rule';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Actor } from '../people/people';

export interface KeptRule {
  readonly id: string;
  readonly name: string;
  readonly rule: PriceRule;
  /** Whether new products begin with it. */
  readonly forNew: boolean;
}

const COLUMNS = 'id, name, rule, for_new AS forNew';

export async function listRules(ctx: Pick<Context, 'db'>, workspaceId: string): Promise<KeptRule[]> {
  const rows = await ctx.db.rows<KeptRule>(`SELECT ${COLUMNS} FROM price_rule WHERE workspace_id = ? ORDER BY name`, [
    workspaceId,
  ]);
  return rows.map((row) => ({ ...row, forNew: Boolean(row.forNew) }));
}

/** The rule that new products of a workspace begin with, or null. */
export async function ruleForNew(ctx: Context, workspaceId: string): Promise<PriceRule | null> {
  const row = await ctx.db.row<KeptRule>(
    `SELECT ${COLUMNS} FROM price_rule WHERE workspace_id = ? AND for_new = TRUE LIMIT 1`,
    [workspaceId],
  );
  return row?.rule ?? null;
}

async function findStoreIds(ctx: Context, workspaceId: string, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await ctx.db.rows<{ id: string }>(
    `SELECT id FROM store WHERE workspace_id = ? AND id IN (${ids.map(() => '?').join(',')})`,
    [workspaceId, ...ids],
  );
  return new Set(rows.map((row) => row.id));
}

/** Throws for a name that the database takes for another one that is there: Cafe for Café. */
async function refuseAlike(ctx: Context, workspaceId: string, name: string): Promise<void> {
  const row = await ctx.db.row<{ name: string }>('SELECT name FROM price_rule WHERE workspace_id = ? AND name = ?', [
    workspaceId,
    name,
  ]);
  if (row && row.name !== name)
    throw invalid(
      'rule-invalid',
      `There is a rule “${row.name}” already; choose a name that differs in more than accents or capitals.`,
    );
}

const MAX_RULES = 200;

/** Keeps a rule by its name; one of the same name is replaced. At most one is for new products. Throws `rule-invalid`. */
export async function saveRule(
  ctx: Context,
  actor: Actor,
  input: { readonly name: string; readonly rule: PriceRule; readonly forNew: boolean },
): Promise<KeptRule> {
  const name = input.name.trim();
  if (name === '' || /\p{Cc}/u.test(name)) throw invalid('rule-invalid', 'A rule needs a name, on one line.');
  const faults = checkRule(input.rule);
  if (faults.length > 0) throw new TypicaError('invalid', 'rule-invalid', faults.join(' '), {});
  const storeIds = Object.keys(input.rule.differences);
  const stores = await findStoreIds(ctx, actor.workspaceId, storeIds);
  const missing = storeIds.find((id) => !stores.has(id));
  if (missing !== undefined)
    throw invalid('rule-invalid', `The rule names a store that is not in this workspace: ${missing.slice(0, 40)}.`);
  await refuseAlike(ctx, actor.workspaceId, name);
  const rules = await listRules(ctx, actor.workspaceId);
  if (rules.length >= MAX_RULES && !rules.some((rule) => rule.name === name))
    throw invalid('rule-invalid', `There can be ${MAX_RULES} rules; delete one first.`);
  await ctx.pools.transaction(async (db) => {
    if (input.forNew) await db.run('UPDATE price_rule SET for_new = FALSE WHERE workspace_id = ?', [actor.workspaceId]);
    await db.run(
      `INSERT INTO price_rule (id, workspace_id, name, rule, for_new) VALUES (?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE rule = VALUE(rule), for_new = VALUE(for_new)`,
      [newId('r'), actor.workspaceId, name, JSON.stringify(input.rule), input.forNew],
    );
  });
  return (await listRules(ctx, actor.workspaceId)).find((rule) => rule.name === name)!;
}

export async function deleteRule(ctx: Context, actor: Actor, id: string): Promise<void> {
  const { affectedRows } = await ctx.db.run('DELETE FROM price_rule WHERE id = ? AND workspace_id = ?', [
    id,
    actor.workspaceId,
  ]);
  if (affectedRows === 0) throw notFound('price rule', id);
}
