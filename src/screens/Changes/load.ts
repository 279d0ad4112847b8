import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { changeItems, findChange, listChanges, type ChangeItem, type ChangeRow } from '@/server/range/many/change-row';
import { viewChange, type ChangeView } from '@/server/range/many/changes';

export type { ChangeCounts, ItemWhat } from '@/server/range/many/change-row';
export type Item = ChangeItem;
/** A change as the API tells it. */
export type Change = Omit<ChangeView, 'madeAt'> & { readonly madeAt: string };

export interface ChangesData {
  readonly changes: readonly (Pick<ChangeRow, 'id' | 'title' | 'state' | 'by'> & { readonly madeAt: string })[];
}

export async function loadChanges(ctx: Context, actor: Actor): Promise<ChangesData> {
  const changes = await listChanges(ctx, actor.workspaceId);
  return {
    changes: changes.map(({ id, title, state, by, madeAt }) => ({
      id,
      title,
      state,
      by,
      madeAt: madeAt.toISOString(),
    })),
  };
}

export interface ChangeData {
  readonly change: Change;
  readonly items: readonly Item[];
}

export async function loadChange(ctx: Context, actor: Actor, id: string): Promise<ChangeData> {
  const row = await findChange(ctx, actor.workspaceId, id);
  const [change, items] = await Promise.all([viewChange(ctx, row), changeItems(ctx, id, { what: null, after: '' })]);
  return { change: { ...change, madeAt: change.madeAt.toISOString() }, items };
}
