import { conflict } from '@/core/errors';
import type { Context } from '../../context';
import type { SignedIn } from '../../people/people';
import { need } from '../../people/scopes';
import type { JobState } from '../../jobs/job-row';
import { countItems, findChange, type ChangeCounts, type ChangeRow, type ChangeState } from './change-row';
import { KINDS } from './kinds';
import { enqueueFor } from './plan';

/** A change of many as it is told. */
export interface ChangeView extends Omit<ChangeRow, 'workspaceId' | 'personId'> {
  readonly counts: ChangeCounts;
  readonly canUndo: boolean;
  /** Of the job that looks at it or does it; null once that is no longer written down. */
  readonly jobState: JobState | null;
}

export async function viewChange(ctx: Context, change: ChangeRow): Promise<ChangeView> {
  const [counts, job] = await Promise.all([
    countItems(ctx, change.id),
    ctx.db.row<{ state: JobState }>('SELECT state FROM job WHERE id = ?', [change.jobId]),
  ]);
  const { workspaceId: _w, personId: _p, ...told } = change;
  const canUndo = change.state === 'done' && KINDS[change.kind].undo !== undefined && (counts.done ?? 0) > 0;
  return { ...told, counts, canUndo, jobState: job?.state ?? null };
}

const STANDS: { readonly [state in ChangeState]: string } = {
  looking: 'still being worked out',
  planned: 'planned, and nothing is done yet',
  doing: 'being done',
  done: 'done',
  undoing: 'being undone',
  undone: 'undone',
};

/** Moves a change on, if it stands where that can be. */
async function moveOn(
  ctx: Context,
  actor: SignedIn,
  id: string,
  step: 'do' | 'undo',
  [from, to]: readonly [ChangeState, ChangeState],
): Promise<void> {
  const change = await findChange(ctx, actor.workspaceId, id);
  need(actor.credential, KINDS[change.kind].scope);
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run('UPDATE range_change SET state = ? WHERE id = ? AND state = ?', [
      to,
      id,
      from,
    ]);
    if (affectedRows > 0) {
      await enqueueFor(db, change, step, actor.personId);
      return;
    }
    const now = await findChange(ctx, actor.workspaceId, id);
    // Asked for twice it is done once.
    if (now.state === to || (step === 'do' ? now.state === 'done' : now.state === 'undone')) return;
    throw conflict(
      'change-not-ready',
      `This change cannot be ${step === 'do' ? 'begun' : 'undone'} now. It is ${STANDS[now.state]}.`,
    );
  });
}

/** Does what was planned. Throws `not-found`, `scope-missing`, `change-not-ready` while it is still looked at. */
export const beginChange = (ctx: Context, actor: SignedIn, id: string): Promise<void> =>
  moveOn(ctx, actor, id, 'do', ['planned', 'doing']);

/** Undoes what was done. Throws `not-found`, `scope-missing`, `change-not-ready`, `change-final` where it cannot be undone. */
export async function undoChange(ctx: Context, actor: SignedIn, id: string): Promise<void> {
  const { kind } = await findChange(ctx, actor.workspaceId, id);
  if (!KINDS[kind].undo) throw conflict('change-final', 'This cannot be undone: nothing was changed by it.');
  await moveOn(ctx, actor, id, 'undo', ['done', 'undoing']);
}
