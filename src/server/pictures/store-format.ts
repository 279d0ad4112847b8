import { formatAt, type PictureFormat } from '@/core/listing/picture-format';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { demandsOf, findStore } from '../stores/stores';
import { readPictureFormat, readSide } from './read-format';

/** By the place of a picture among those that are shown; 0 is the first. */
export type FormatAt = (place: number) => PictureFormat;

/** The form that a download asks for, or that of a store's channel with `?store=`, no larger than `?side=`. */
export async function pictureFormatFor(ctx: Context, actor: Actor, query: URLSearchParams): Promise<FormatAt> {
  const storeId = query.get('store');
  if (!storeId) {
    const asked = readPictureFormat(query);
    return () => asked;
  }
  const demands = demandsOf(ctx, await findStore(ctx, actor.workspaceId, storeId));
  const side = readSide(query);
  return (place) => {
    const format = formatAt(demands, place);
    return side === null ? format : { ...format, longSideMaxPx: Math.min(side, format.longSideMaxPx ?? side) };
  };
}
