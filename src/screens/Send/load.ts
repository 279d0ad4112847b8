import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { findSend, listSends, type SendRow } from '@/server/sends/send-row';
import { ITEMS_PAGE, sendItems, viewSend, type SendItemView, type SendView } from '@/server/sends/view';

export type { ItemFixes } from '@/server/sends/fixes';
export type { SendItemView, SendProgress, SendStoreView } from '@/server/sends/view';

export interface SendData {
  readonly send: Omit<SendView, 'startsAt' | 'begunAt' | 'madeAt'> & {
    readonly startsAt: string | null;
    readonly madeAt: string;
  };
  readonly items: readonly SendItemView[];
  /** Where this page of listings begins, and the next one; null on the last. */
  readonly from: number;
  readonly next: number | null;
}

export async function loadSend(ctx: Context, actor: Actor, id: string, from: number): Promise<SendData> {
  const row = await findSend(ctx, actor.workspaceId, id);
  const [{ startsAt, begunAt: _, madeAt, ...view }, items] = await Promise.all([
    viewSend(ctx, row),
    sendItems(ctx, row, from),
  ]);
  return {
    send: { ...view, startsAt: startsAt?.toISOString() ?? null, madeAt: madeAt.toISOString() },
    items,
    from,
    next: from + ITEMS_PAGE < view.total ? from + ITEMS_PAGE : null,
  };
}

export interface SendsData {
  readonly sends: readonly {
    readonly id: string;
    readonly by: string;
    readonly state: SendRow['state'];
    readonly paused: boolean;
    readonly visibility: SendRow['visibility'];
    readonly madeAt: string;
  }[];
}

export async function loadSends(ctx: Context, actor: Actor): Promise<SendsData> {
  const sends = await listSends(ctx, actor.workspaceId);
  return {
    sends: sends.map(({ id, by, state, paused, visibility, madeAt }) => ({
      ...{ id, by, state, visibility },
      paused: Boolean(paused),
      madeAt: madeAt.toISOString(),
    })),
  };
}
