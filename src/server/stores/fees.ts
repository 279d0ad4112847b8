import { invalid } from '@/core/errors';
import { checkFees, feesOn, type Fee } from '@/core/pricing/fees';
import { note } from '../activity/note';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import { channelOf, findStore, today, type Store } from './stores';

/** For what a list of fees holds: one store, or all stores on its channel in its currency. */
export const FEE_SCOPES = ['store', 'channel'] as const;
export type FeeScope = (typeof FEE_SCOPES)[number];

export interface FeesView {
  /** As the channel publishes them. */
  readonly published: readonly Fee[];
  /** As the seller typed them; null where the published ones hold. */
  readonly own: readonly Fee[] | null;
  /** Those of them that are taken today. */
  readonly today: readonly Fee[];
  /** Edits, newest first; `fees` null: given back to what is published. */
  readonly history: readonly {
    readonly scope: FeeScope;
    readonly fees: readonly Fee[] | null;
    readonly by: string;
    readonly at: Date;
  }[];
}

const MAX_TOLD = 50;

export async function viewFees(ctx: Context, store: Store): Promise<FeesView> {
  const published = channelOf(ctx, store.channel).about.fees;
  const rows = await ctx.db.rows<{ storeId: string; fees: string | readonly Fee[] | null; by: string; at: Date }>(
    `SELECT f.store_id AS storeId, f.fees, p.name AS \`by\`, f.noted_at AS at FROM fee_list f JOIN person p ON p.id = f.person_id
     WHERE f.workspace_id = ? AND f.channel = ? AND f.store_id IN (?, '') AND f.currency IN ('', ?) ORDER BY f.id DESC LIMIT ?`,
    [store.workspaceId, store.channel, store.id, store.currency, MAX_TOLD],
  );
  return {
    published,
    own: store.ownFees,
    today: feesOn(store.ownFees ?? published, today(ctx)),
    history: rows.map(({ storeId, fees, by, at }) => ({
      scope: storeId === '' ? 'channel' : 'store',
      fees: typeof fees === 'string' ? (JSON.parse(fees) as Fee[]) : fees,
      by,
      at,
    })),
  };
}

/** Keeps what a store, or every store on its channel in its currency, takes; null gives back to what is published. Throws `fees-invalid` with all faults. */
export async function keepFees(
  ctx: Context,
  actor: Actor,
  store: Store,
  scope: FeeScope,
  fees: readonly Fee[] | null,
): Promise<FeesView> {
  const faults = fees === null ? [] : checkFees(fees);
  if (faults.length > 0)
    throw invalid('fees-invalid', faults.join(' '), { faults: faults.map((says) => ({ path: '/fees', says })) });
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO fee_list (workspace_id, channel, store_id, fees, currency, person_id) VALUES (?, ?, ?, ?, ?, ?)',
      [
        store.workspaceId,
        store.channel,
        scope === 'store' ? store.id : '',
        fees === null ? null : JSON.stringify(fees),
        store.currency,
        actor.personId,
      ],
    );
    const says = fees === null ? 'Took the fees as they are published.' : 'Changed the fees.';
    await note(db, actor, { about: 'store', what: 'fees', says, storeId: store.id });
    await emit(db, store.workspaceId, 'store', { storeId: store.id });
  });
  return viewFees(ctx, await findStore(ctx, store.workspaceId, store.id));
}
