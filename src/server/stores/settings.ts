import { invalid } from '@/core/errors';
import { checkAnswers, withAnswers, type AnswersChange, type StoreAnswers } from '@/core/listing/answers';
import type { SizesIn } from '@/core/catalog/size-guide';
import type { Squares } from '@/core/listing/picture-format';
import { checkStoreRule, type StoreRule } from '@/core/pricing/store-rule';
import { checkStandingRules, type StandingRules } from '@/core/sync/standing-rules';
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
export interface SettingsChange extends Partial<
  Pick<StoreSettings, 'expectedSales' | 'aimsAt' | 'renewal' | 'sendsAs'>
> {
  readonly answers?: AnswersChange;
  /** Null takes these back. */
  readonly priceRule?: StoreRule | null;
  readonly language?: string | null;
  readonly sizesIn?: SizesIn | null;
  readonly squares?: Squares | null;
  /** All of them; none takes them back. */
  readonly standing?: { readonly rules: StandingRules; readonly by: string };
}

/** Changes what the seller decides about a store. Throws `answers-invalid`, `price-rule-invalid` or `standing-invalid` with all faults. */
export async function changeSettings(
  ctx: Context,
  store: Store,
  { answers, standing, ...change }: SettingsChange,
): Promise<Store> {
  const faults = change.priceRule ? checkStoreRule(change.priceRule) : [];
  if (faults.length > 0) throw refused('price-rule-invalid', '/priceRule', faults);
  const unruly = standing ? checkStandingRules(standing.rules) : [];
  if (unruly.length > 0) throw refused('standing-invalid', '/standing', unruly);
  return saveSettings(ctx, store, (now) => {
    const next = { ...now, ...change, expectedSales: change.expectedSales ?? now.expectedSales };
    return {
      // What was taken back is no longer there.
      ...(Object.fromEntries(Object.entries(next).filter(([, value]) => value !== null)) as unknown as StoreSettings),
      ...(standing === undefined ? {} : { standing: standing.rules, standingBy: standing.by }),
      ...(answers === undefined ? {} : { answers: changedAnswers(now.answers ?? {}, answers) }),
    };
  });
}

const refused = (code: string, path: string, faults: readonly string[]) =>
  invalid(code, faults.join(' '), { faults: faults.map((says) => ({ path, says })) });

function changedAnswers(own: StoreAnswers, change: AnswersChange): StoreAnswers {
  const given = Object.fromEntries(Object.entries(change).filter(([, answer]) => answer !== null));
  const faults = checkAnswers(given);
  const next = faults.length > 0 ? own : withAnswers(own, change);
  const all = faults.length > 0 ? faults : checkAnswers(next);
  if (all.length > 0) throw refused('answers-invalid', '/answers', all);
  return next;
}
