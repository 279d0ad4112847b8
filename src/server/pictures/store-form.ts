import type { PictureForm } from '@/core/listing/picture-form';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { channelOf, findStore } from '../stores/stores';
import { readPictureForm } from './read-form';

/** The form that a download asks for, or that of a store's channel with `?store=`. */
export async function formFor(ctx: Context, actor: Actor, query: URLSearchParams): Promise<PictureForm> {
  const storeId = query.get('store');
  if (!storeId) return readPictureForm(query);
  const store = await findStore(ctx, actor.workspaceId, storeId);
  return channelOf(ctx, store.channel).about.demands.pictureForm;
}
