import { invalid } from '@/core/errors';
import { checkAnswers } from '@/core/listing/answers';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Store, StoreSettings } from './stores';

export async function saveSettings(ctx: Context, store: Store, settings: StoreSettings): Promise<Store> {
  await ctx.db.run('UPDATE store SET settings = ? WHERE id = ?', [JSON.stringify(settings), store.id]);
  await emit(ctx.db, store.workspaceId, 'store', { storeId: store.id });
  return { ...store, settings };
}

/** Changes what the seller decides about a store. Throws `answers-invalid` with all faults. */
export async function changeSettings(
  ctx: Context,
  store: Store,
  change: Partial<Pick<StoreSettings, 'expectedSales' | 'aimsAt' | 'answers'>>,
): Promise<Store> {
  const faults = change.answers === undefined ? [] : checkAnswers(change.answers);
  if (faults.length > 0)
    throw invalid('answers-invalid', faults.join(' '), { faults: faults.map((says) => ({ path: '/answers', says })) });
  return saveSettings(ctx, store, { ...store.settings, ...change });
}
