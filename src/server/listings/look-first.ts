import { formHash, formJson } from '@/core/listing/form-text';
import { TypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import type { ChannelClient } from '@/ports/channel';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import type { Store } from '../stores/stores';
import { recordHistory, type ListingRow } from './listings';
import { readThere } from './read-there';
import { keepSighting, SEEN_COLUMNS, seenValues } from './sightings';
import { BY_RULES, rulesKeepOurs } from './settle-by-rules';

/**
 * Reads what a shop shows before a send writes over it. What is neither what both sides agreed on nor what was sent last was changed there:
 * the listing stops, unless the person who sent it has seen just that (`seenHash`), or the store's rules say that ours holds in all of it. Throws `listing-changed-there`. Gives false where the shop has none any more.
 */
export async function lookFirst(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  store: Store,
  {
    form,
    hash,
    seenHash,
  }: {
    /** What is about to be written over it; null: nothing. */
    readonly form: ListingForm | null;
    readonly hash: string;
    readonly seenHash: string | null;
  },
): Promise<boolean> {
  if (!row.externalId || !row.agreedForm) return true;
  const known = JSON.parse(row.agreedForm) as ListingForm;
  const there = await readThere(client, row, known);
  if (!there) return false;
  const thereHash = formHash(there.form);
  const expected = [row.agreedHash, row.sentHash, hash, seenHash];
  // What the shop showed right after it took our form is how it keeps it: known, and not somebody's change.
  if (expected.includes(thereHash) || (row.settledHash !== null && row.settledHash === thereHash)) return true;
  if (form && rulesKeepOurs(store, { agreed: known, here: form, there: there.form })) {
    await control.write(async (db) => {
      // Where ours holds in all of it, what is there is what both know: another try finds nothing new.
      const known = [formJson(there.form), thereHash];
      await db.run(
        'UPDATE listing SET agreed_form = ?, agreed_hash = ?, there_form = ?, there_hash = ? WHERE id = ? AND external_id = ?',
        [...known, ...known, row.id, row.externalId],
      );
      await recordHistory(db, row, 'settled', `Settled ${BY_RULES}: what the shop had changed is replaced by ours.`);
    });
    return true;
  }
  await control.write(async (db) => {
    await db.run(
      `UPDATE listing SET there_form = ?, there_hash = ?, visibility = ?, ${SEEN_COLUMNS} WHERE id = ? AND external_id = ?`,
      [
        formJson(there.form),
        thereHash,
        there.visibility,
        ...seenValues(ctx, row, there, 'sent'),
        row.id,
        row.externalId,
      ],
    );
    await keepSighting(db, row, there, 'sent');
    await recordHistory(db, row, 'changed-there', 'Someone changed the listing in the shop; nothing was sent over it.');
  });
  throw new TypicaError(
    'conflict',
    'listing-changed-there',
    `Somebody changed this listing in ${store.name}. Look at what differs, then send again if yours is to replace it.`,
    { thereHash },
  );
}
