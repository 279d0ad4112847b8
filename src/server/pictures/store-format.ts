import { formatAt, type PictureFormat } from '@/core/listing/picture-format';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { demandsOf, findStore } from '../stores/stores';
import { readPictureFormat, readSide } from './read-format';

/** The form of each picture. */
export interface PictureForms {
  /** By its place among those that are shown; 0 is the first. */
  at(place: number): PictureFormat;
  /** Whether this is just what a store takes: what is made then is kept, and made once. */
  readonly isOfStore: boolean;
}

/** The form that a download asks for, or that of a store's channel with `?store=`, no larger than `?side=`. */
export async function pictureFormatFor(ctx: Context, actor: Actor, query: URLSearchParams): Promise<PictureForms> {
  const storeId = query.get('store');
  if (!storeId) {
    const asked = readPictureFormat(query);
    return { at: () => asked, isOfStore: false };
  }
  const demands = demandsOf(ctx, await findStore(ctx, actor.workspaceId, storeId));
  const side = readSide(query);
  if (side === null) return { at: (place) => formatAt(demands, place), isOfStore: true };
  const smaller = (form: PictureFormat) => ({ ...form, longSideMaxPx: Math.min(side, form.longSideMaxPx ?? side) });
  return { at: (place) => smaller(formatAt(demands, place)), isOfStore: false };
}
