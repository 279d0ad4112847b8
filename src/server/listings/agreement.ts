import { canonicalJson, contentHash } from '@/core/listing/canonical';
import type { ListingForm } from '@/core/listing/form';
import type { ChannelClient } from '@/ports/channel';
import type { Context } from '../context';
import { noteHistory, type ListingRow } from './listings';
import { ownEntry } from '@/core/own-entry';

/**
 * Reads the listing back and keeps what both sides agree on. The agreed form is what we sent, since the shop took it; where the shop
 * shows something else, that is kept beside it and comes out as `behind`.
 */
export async function keepAgreement(
  ctx: Context,
  client: ChannelClient,
  row: ListingRow,
  sent: ListingForm,
  pictureIds: Record<string, string>,
): Promise<void> {
  const there = await client.read(row.externalId!, sent, pictureIds);
  await ctx.db.run(
    `UPDATE listing SET agreed_form = ?, agreed_hash = ?, there_form = ?, there_hash = ?, visibility = ?, url = COALESCE(?, url), refusal = NULL, refused_hash = NULL,
     answered_at = UTC_TIMESTAMP(3), picture_ids = ? WHERE id = ?`,
    [
      canonicalJson(sent),
      contentHash(sent),
      there && canonicalJson(there.form),
      there && contentHash(there.form),
      there?.visibility ?? 'draft',
      there?.url ?? null,
      JSON.stringify(onlyWanted(pictureIds, sent)),
      row.id,
    ],
  );
}

/** Forgets pictures that the form no longer shows, so that the list does not grow for ever. */
const onlyWanted = (pictureIds: Record<string, string>, form: ListingForm): Record<string, string> =>
  Object.fromEntries(
    form.pictures.flatMap(({ key }): [string, string][] => {
      const id = ownEntry(pictureIds, key);
      return id ? [[key, id]] : [];
    }),
  );

/** Notes what the shop shows now, without sending anything; a listing that is gone there is no longer listed. */
export async function keepWhatIsThere(
  ctx: Context,
  client: ChannelClient,
  row: ListingRow,
): Promise<'same' | 'changed' | 'gone'> {
  const known = JSON.parse(row.agreedForm!) as ListingForm;
  const there = await client.read(row.externalId!, known, JSON.parse(row.pictureIds ?? '{}') as Record<string, string>);
  if (!there) {
    await ctx.db.run(
      `UPDATE listing SET external_id = NULL, url = NULL, send_key = NULL, sent_at = NULL, agreed_form = NULL, agreed_hash = NULL, there_form = NULL, there_hash = NULL, picture_ids = NULL WHERE id = ?`,
      [row.id],
    );
    await noteHistory(ctx.db, row, 'gone', 'The listing is no longer in the shop; someone deleted it there.');
    return 'gone';
  }
  const hash = contentHash(there.form);
  await ctx.db.run('UPDATE listing SET there_form = ?, there_hash = ?, visibility = ?, url = ? WHERE id = ?', [
    canonicalJson(there.form),
    hash,
    there.visibility,
    there.url,
    row.id,
  ]);
  if (hash === row.agreedHash) return 'same';
  if (hash !== row.thereHash)
    await noteHistory(ctx.db, row, 'changed-there', 'Someone changed the listing in the shop.');
  return 'changed';
}
