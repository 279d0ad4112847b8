import { note } from '@/server/activity/note';
import { json, route } from '@/server/http/route';
import { pauseStore } from '@/server/stores/pause';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

const pausing = (paused: boolean) =>
  route<Params>('send', async ({ ctx, actor, params }) => {
    const store = await pauseStore(ctx, await findStore(ctx, actor.workspaceId, params.id), paused);
    const says = paused
      ? `Paused ${store.name}: its listings are taken off sale.`
      : `Ended the pause of ${store.name}.`;
    await note(ctx.db, actor, { about: 'store', what: paused ? 'paused' : 'resumed', says, storeId: store.id });
    return json(store, 202);
  });

/** Takes everything of the store off sale for a while. */
export const PUT = pausing(true);

/** Ends the pause: what it took off sale is shown again. */
export const DELETE = pausing(false);
