import type { PictureFormat } from '@/core/listing/picture-format';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { demandsOf, findStore } from '../stores/stores';
import { readPictureFormat } from './read-format';

/** The form that a download asks for, or that of a store's channel with `?store=`. */
export async function pictureFormatFor(ctx: Context, actor: Actor, query: URLSearchParams): Promise<PictureFormat> {
  const storeId = query.get('store');
  if (!storeId) return readPictureFormat(query);
  const store = await findStore(ctx, actor.workspaceId, storeId);
  return demandsOf(ctx, store).pictureFormat;
}
