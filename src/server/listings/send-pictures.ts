import { contentHash } from '@/core/canonical/canonical';
import { formatAt } from '@/core/listing/picture-format';
import type { PicturePlan } from '@/core/listing/pictures';
import { putEntry } from '@/core/own-entry';
import type { ChannelDemands } from '@/core/rules/demands';
import type { ChannelClient, RemoteListing } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import type { JobControl } from '../jobs/worker';
import { derivePicture } from '../pictures/pictures';
import type { ListingRow } from './listings';
import { uploadOnce } from './picture-uploads';

/** What the shop holds already of some pictures, by key and form. */
async function heldBy(ctx: Context, storeId: string, keys: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (keys.length === 0) return new Map();
  const rows = await ctx.db.rows<{ key: string; format: string; remoteId: string }>(
    `SELECT picture_key AS \`key\`, format_hash AS format, remote_id AS remoteId FROM store_picture WHERE store_id = ? AND picture_key IN (${keys.map(() => '?').join(',')})`,
    [storeId, ...keys],
  );
  return new Map(rows.map(({ key, format, remoteId }) => [`${key}/${format}`, remoteId]));
}

/**
 * Uploads the pictures that the shop does not hold yet in the form that it wants; each is written down as soon as it is there, for whichever listing
 * shows it next. Gives the shop's ids by our keys.
 */
export async function sendPictures(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  pictures: readonly PicturePlan[],
  demands: ChannelDemands,
  steps: number,
): Promise<Record<string, string>> {
  const held = await heldBy(
    ctx,
    row.storeId,
    pictures.map(({ key }) => key),
  );
  const ids: Record<string, string> = {};
  let done = 1;
  for (const [index, picture] of pictures.entries()) {
    const format = formatAt(demands, index);
    const formatHash = contentHash(format);
    let remoteId = held.get(`${picture.key}/${formatHash}`);
    if (remoteId === undefined) {
      remoteId = await uploadOnce(ctx, control, { storeId: row.storeId, key: picture.key, formatHash }, async () => {
        // In the shop's own form, made for this and not kept.
        const { bytes, mediaType } = await derivePicture(ctx, control.job.workspaceId, picture, format, {
          signal: control.signal,
        });
        await control.progress(done + 1, steps, `Picture ${index + 1} of ${pictures.length} is made`);
        const key = contentHash({ picture: picture.key, format: formatHash });
        return client.uploadPicture({ key, mediaType, bytes });
      });
    }
    done += 1;
    putEntry(ids, picture.key, remoteId);
    await control.progress((done += 1), steps, `Picture ${index + 1} of ${pictures.length} is there`);
  }
  return ids;
}

/** Pictures that the shop refused after it took them are not held by it: the next sending uploads what stands in their place. */
export async function forgetRefused(
  db: Database,
  storeId: string,
  { refusedPictures }: Pick<RemoteListing, 'refusedPictures'>,
): Promise<void> {
  const keys = refusedPictures.map(({ key }) => key);
  if (keys.length === 0) return;
  await db.run(`DELETE FROM store_picture WHERE store_id = ? AND picture_key IN (${keys.map(() => '?').join(',')})`, [
    storeId,
    ...keys,
  ]);
}
