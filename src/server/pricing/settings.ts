import { TypicaError } from '@/core/errors';
import { PLAIN_SETTINGS, settingsOn, type MoneySettings } from '@/core/pricing/settings';
import { checkMoneySettings } from '@/core/pricing/settings-check';
import { note } from '../activity/note';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Actor } from '../people/people';

/** What holds for all prices of a workspace, and the country it counts from. */
export interface WorkspaceMoney {
  readonly settings: MoneySettings;
  /** ISO 3166 alpha-2. */
  readonly home: string;
}

/** All of a workspace's settings, with what begins on a later day: for whoever edits them. */
export async function allMoneySettings(ctx: Context, workspaceId: string): Promise<WorkspaceMoney> {
  const row = await ctx.db.row<{ country: string; settings: MoneySettings | null }>(
    'SELECT w.country, m.settings FROM workspace w LEFT JOIN money_setting m ON m.workspace_id = w.id WHERE w.id = ?',
    [workspaceId],
  );
  return { settings: { ...PLAIN_SETTINGS, ...row?.settings }, home: row?.country ?? '*' };
}

/** The settings as they hold today. */
export async function loadMoney(ctx: Context, workspaceId: string): Promise<WorkspaceMoney> {
  const { settings, home } = await allMoneySettings(ctx, workspaceId);
  return { settings: settingsOn(settings, ctx.clock.now().toISOString().slice(0, 10)), home };
}

/** Discounts of partners that there are not, as faults. */
async function strangers(ctx: Context, partnerIds: readonly string[]): Promise<string[]> {
  if (partnerIds.length === 0) return [];
  const rows = await ctx.db.rows<{ id: string }>(
    `SELECT id FROM partner WHERE id IN (${partnerIds.map(() => '?').join(',')})`,
    [...partnerIds],
  );
  const known = new Set(rows.map(({ id }) => id));
  return partnerIds
    .filter((id) => !known.has(id))
    .map((id) => `There is no print partner “${id}” to take anything off.`);
}

/** Keeps settings; what is not said is as it is plain. Throws `settings-invalid` with all faults. */
export async function saveMoneySettings(
  ctx: Context,
  actor: Actor,
  said: Partial<MoneySettings>,
): Promise<MoneySettings> {
  const settings = { ...PLAIN_SETTINGS, ...said };
  const faults = checkMoneySettings(settings);
  if (faults.length === 0) faults.push(...(await strangers(ctx, Object.keys(settings.discounts))));
  if (faults.length > 0)
    throw new TypicaError('invalid', 'settings-invalid', faults.join(' '), {
      faults: faults.map((says) => ({ path: '/settings', says })),
    });
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO money_setting (workspace_id, settings) VALUES (?, ?) ON DUPLICATE KEY UPDATE settings = VALUE(settings)',
      [actor.workspaceId, JSON.stringify(settings)],
    );
    const says = 'Changed taxes, duties, discounts or other rules of money.';
    await note(db, actor, { about: 'money', what: 'changed', says, countedAs: 'rules of money' });
    await emit(db, actor.workspaceId, 'money', {});
  });
  return settings;
}
