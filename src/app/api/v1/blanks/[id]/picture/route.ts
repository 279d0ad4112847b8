import { invalid, notFound } from '@/core/errors';
import { newDocument } from '@/core/document/document';
import { planMockup } from '@/core/listing/pictures';
import { loadBlank, loadShots } from '@/server/catalog/blanks';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { blankThumbnail } from '@/server/pictures/blank-thumbnails';
import { ensurePicture } from '@/server/pictures/pictures';

/** Letters of a shot's hash that an address has to name so that it stands for these passes and no others. */
const VERSION_LETTERS = 8;

/**
 * The bare blank on a color: `?color=estuary`, from one of its shots with `&shot=`, as small as a row of a list with `&size=thumbnail`. With
 * `&v=`, the beginning of the shot's hash, the picture at this address never changes.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const size = query.get('size');
  if (size !== null && size !== 'thumbnail')
    throw invalid('size-wrong', 'size is thumbnail, or is left out for a large picture.');
  const [blank, shots] = await Promise.all([loadBlank(ctx, params.id), loadShots(ctx, [params.id], actor.workspaceId)]);
  const wanted = query.get('shot');
  const shot = wanted === null ? shots[0] : shots.find(({ id }) => id === wanted);
  if (!shot) throw notFound('picture of this blank', params.id);
  const color = query.get('color');
  const who = { workspaceId: actor.workspaceId, currency: actor.currency, signal: request.signal };
  const version = query.get('v');
  const immutable = version !== null && version.length >= VERSION_LETTERS && shot.contentHash.startsWith(version);
  if (size === 'thumbnail')
    return blobResponse(ctx, request, await blankThumbnail(ctx, who, blank, shot, color), { immutable });
  const plan = planMockup(newDocument(blank.id, actor.currency, ''), blank, shot, color, new Map());
  if (!plan) throw notFound('picture of this blank', params.id);
  return blobResponse(ctx, request, (await ensurePicture(ctx, who, plan, 'proof')).sha256, { immutable });
});
