import { contentHash } from '@/core/canonical/canonical';
import { formatAt } from '@/core/listing/picture-format';
import type { PicturePlan } from '@/core/listing/pictures';
import { putEntry } from '@/core/own-entry';
import type { ChannelDemands } from '@/core/rules/demands';
import type { ChannelClient, RemoteListing } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import type { JobControl } from '../jobs/worker';
import { pictureInForm } from '../pictures/pictures';
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
  let done = 1 + 2 * held.size;
  const say = (index: number, what: string) =>
    control.progress((done += 1), steps, `Picture ${index + 1} of ${pictures.length} is ${what}`);
  const missing = pictures.flatMap((picture, index) => {
    const format = formatAt(demands, index);
    const formatHash = contentHash(format);
    if (held.has(`${picture.key}/${formatHash}`)) return [];
    const upload = async () => {
      const whom = { workspaceId: control.job.workspaceId, signal: control.signal };
      const { bytes, mediaType } = await pictureInForm(ctx, whom, picture, format);
      await say(index, 'made');
      const key = contentHash({ picture: picture.key, format: formatHash });
      const remoteId = await client.uploadPicture({ key, mediaType, bytes });
      await say(index, 'there');
      return remoteId;
    };
    return [{ picture: { storeId: row.storeId, key: picture.key, formatHash }, upload }];
  });
  const came = await uploadOnce(ctx, control, missing);
  const newIds = new Map(missing.map(({ picture }, i) => [`${picture.key}/${picture.formatHash}`, came[i]!]));
  // In the order in which the listing shows them.
  const ids: Record<string, string> = {};
  for (const [index, { key }] of pictures.entries()) {
    const inForm = `${key}/${contentHash(formatAt(demands, index))}`;
    putEntry(ids, key, (held.get(inForm) ?? newIds.get(inForm))!);
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
