import { kindOfField, type ChangedKind } from '@/core/sync/changed';
import type { Choose } from '@/core/sync/merge';
import { count } from '@/core/words/count';
import type { Context } from '../context';
import { enqueue } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import { actorOfPerson, type Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { findStore, type Store } from '../stores/stores';
import { changedAfter } from './changed-there';
import { settleWhatCan } from './settle-by-rules';

const PAGE = 50;

/** Which side holds in fields of a kind, whichever listing of the store they are of. */
export interface ManySettled {
  readonly kind: ChangedKind;
  readonly hold: 'ours' | 'theirs';
}

/** Asks for fields of a kind to be settled in all listings of a store that its shop changed. */
export async function requestSettleMany(
  ctx: Context,
  actor: Actor,
  store: Store,
  { kind, hold }: ManySettled,
): Promise<{ jobId: string }> {
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const jobId = await enqueue(ctx.db, {
    workspaceId: actor.workspaceId,
    kind: 'settle-listings',
    title: `${hold === 'ours' ? 'Keep ours' : 'Take theirs'} in ${store.name}`,
    payload: { storeId: store.id, kind, hold, personId: actor.personId },
    // Those of other kinds go on beside it: who meets the other at a listing looks at it again.
    subject: `settle:${store.id}:${kind}:${hold}`,
    priority: 4,
  });
  return { jobId };
}

/** Settles listing by listing; one that cannot be settled waits for a person. Begun anew it finds what is left. */
export async function settleListings(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  const store = await findStore(ctx, workspaceId, String(payload.storeId));
  const by = await actorOfPerson(ctx, String(payload.personId), workspaceId);
  const hold = payload.hold === 'theirs' ? 'theirs' : 'ours';
  // What we changed alone goes there with the next send.
  const choose: Choose = ({ field, change }) =>
    change !== 'here' && kindOfField(field) === payload.kind ? hold : 'ask';
  let [after, looked, settled] = ['', 0, 0];
  for (;;) {
    const ids = await changedAfter(ctx, store, after, PAGE);
    if (ids.length === 0) return { looked, settled };
    for (const id of ids) {
      looked += 1;
      if (await settleWhatCan(ctx, store, id, { by, choose, how: 'with others of its store' })) settled += 1;
      await control.progress(looked, looked + 1, `${count(settled, 'listing')} settled`);
    }
    after = ids.at(-1)!;
  }
}
