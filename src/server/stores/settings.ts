import { invalid } from '@/core/errors';
import { checkAnswers, withAnswers, type AnswersChange, type StoreAnswers } from '@/core/listing/answers';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Store, StoreSettings } from './stores';

/** Settings that were written just now take what is decided from the newest: whoever read the store earlier takes nothing of it back. */
export async function saveSettings(
  ctx: Context,
  store: Store,
  decide: (now: StoreSettings) => StoreSettings,
): Promise<Store> {
  const settings = await ctx.pools.transaction(async (db) => {
    const row = await db.row<{ settings: StoreSettings | string }>(
      'SELECT settings FROM store WHERE id = ? FOR UPDATE',
      [store.id],
    );
    const now = typeof row!.settings === 'string' ? (JSON.parse(row!.settings) as StoreSettings) : row!.settings;
    const next = decide(now);
    await db.run('UPDATE store SET settings = ? WHERE id = ?', [JSON.stringify(next), store.id]);
    await emit(db, store.workspaceId, 'store', { storeId: store.id });
    return next;
  });
  return { ...store, settings };
}

/** What a seller can change of a store's settings. */
export interface SettingsChange extends Partial<Pick<StoreSettings, 'expectedSales' | 'aimsAt' | 'renewal'>> {
  readonly answers?: AnswersChange;
}

/** Changes what the seller decides about a store. Throws `answers-invalid` with all faults. */
export const changeSettings = (ctx: Context, store: Store, { answers, ...change }: SettingsChange): Promise<Store> =>
  saveSettings(ctx, store, (now) => ({
    ...now,
    ...change,
    ...(answers === undefined ? {} : { answers: changedAnswers(now.answers ?? {}, answers) }),
  }));

function changedAnswers(own: StoreAnswers, change: AnswersChange): StoreAnswers {
  const given = Object.fromEntries(Object.entries(change).filter(([, answer]) => answer !== null));
  const faults = checkAnswers(given);
  const next = faults.length > 0 ? own : withAnswers(own, change);
  const all = faults.length > 0 ? faults : checkAnswers(next);
  if (all.length > 0)
    throw invalid('answers-invalid', all.join(' '), { faults: all.map((says) => ({ path: '/answers', says })) });
  return next;
}
