import { refusedByShop } from './refusal';
import { TypicaError } from '@/core/errors';
import type { BatchRow, ChannelClient, RemoteRef, RowAnswer } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { enqueue } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import type { Store } from '../stores/stores';
import type { ListingRow } from './listings';

/** How long a listing waits before it asks again by itself; the file's own job wakes it as soon as its row is answered. */
const ASK_AGAIN_MS = 60_000;

type PutRow = Extract<BatchRow, { kind: 'put' }>;
type RemoveRow = Extract<BatchRow, { kind: 'remove' }>;

interface OutRow {
  readonly id: number;
  readonly content: string;
  readonly state: 'ready' | 'sent' | 'lost' | 'answered';
  readonly sentAt: Date | null;
  readonly outcome: string | null;
}

export const fileWaiting = (says: string, retryAfterMs = ASK_AGAIN_MS) =>
  new TypicaError('unavailable', 'file-waiting', says, { retryAfterMs, costsNoTry: true });

/**
 * Sends a listing to a shop that takes files of rows: its row is put where the next file is made from, and this job waits until it is answered.
 * Each call goes on from what is written down. Gives what the shop made of it, and whether that is what is
 * wanted now: a product can change while its row is away. Throws `file-waiting` while there is no answer, `shop-refused`.
 */
export async function sendByFile(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  store: Store,
  wanted: Omit<PutRow, 'row'> | Omit<RemoveRow, 'row'>,
): Promise<{ readonly listing: RemoteRef; readonly current: boolean }> {
  const content = JSON.stringify(wanted);
  const out = await ctx.db.row<OutRow>(
    'SELECT id, content, state, sent_at AS sentAt, outcome FROM batch_row WHERE listing_id = ?',
    [row.id],
  );
  if (out?.state === 'answered')
    return { listing: await takeAnswer(control, store, out, content), current: out.content === content };
  if (out?.state === 'lost') await settleLost(control, client, row, out, content);
  else if (!out || (out.state === 'ready' && out.content !== content))
    await control.write((db) => putRow(db, store, row, content));
  throw fileWaiting(
    out?.state === 'sent' ? `${store.name} has it in a file and answers later.` : 'Waits for the next file.',
  );
}

async function putRow(db: Database, store: Store, row: ListingRow, content: string): Promise<void> {
  await db.run(
    `INSERT INTO batch_row (workspace_id, store_id, listing_id, content) VALUES (?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE content = IF(state = 'ready', VALUE(content), content)`,
    [row.workspaceId, store.id, row.id, content],
  );
  await enqueueFile(db, store);
}

/** Has the store's next file made, by one job at a time. */
export const enqueueFile = (db: Database, store: Pick<Store, 'id' | 'name' | 'workspaceId'>): Promise<string> =>
  enqueue(db, {
    workspaceId: store.workspaceId,
    kind: 'send-file',
    title: `Files for ${store.name}`,
    payload: { storeId: store.id },
    subject: `file:${store.id}`,
    storeId: store.id,
    priority: 6,
    maxAttempts: 20,
  });

/** What the shop said to a row. One that was answered for another content than is wanted now is followed by the next. */
async function takeAnswer(control: JobControl, store: Store, out: OutRow, content: string): Promise<RemoteRef> {
  const { outcome } = JSON.parse(out.outcome!) as Pick<RowAnswer, 'outcome'>;
  if (outcome.kind === 'not-done') {
    await control.write(async (db) => {
      await db.run("UPDATE batch_row SET state = 'ready', ticket = NULL, outcome = NULL, content = ? WHERE id = ?", [
        content,
        out.id,
      ]);
      await enqueueFile(db, store);
    });
    throw fileWaiting(`${store.name} did not come to it; it goes with the next file.`);
  }
  await control.write((db) => db.run('DELETE FROM batch_row WHERE id = ?', [out.id]));
  if (outcome.kind === 'refused') throw refusedByShop(store.name, outcome.words, outcome.fields);
  return outcome.listing;
}

/**
 * A file whose answer never came may have been taken. A row that changes a listing is sent again without harm; one that makes a listing waits until
 * the shop can say whether it did.
 */
async function settleLost(
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  out: OutRow,
  content: string,
): Promise<void> {
  const sent = JSON.parse(out.content) as BatchRow;
  const settled =
    sent.kind === 'put' && sent.externalId === null
      ? await client.settle({
          key: row.id,
          reference: row.id,
          sentAt: out.sentAt!,
          skus: Object.values(sent.form.variants).map(({ sku }) => sku),
        })
      : ({ kind: 'make' } as const);
  if (settled.kind === 'wait')
    throw fileWaiting(
      'It is not known yet whether the shop took the last file; it is looked for.',
      settled.retryAfterMs,
    );
  const outcome =
    settled.kind === 'made' ? JSON.stringify({ outcome: { kind: 'taken', listing: settled.listing } }) : null;
  await control.write(async (db) => {
    await db.run(
      "UPDATE batch_row SET state = ?, ticket = NULL, outcome = ?, content = ? WHERE id = ? AND state = 'lost'",
      [outcome === null ? 'ready' : 'answered', outcome, outcome === null ? content : out.content, out.id],
    );
    await enqueueFile(db, { id: row.storeId, name: 'the store', workspaceId: row.workspaceId });
  });
  if (outcome !== null) throw fileWaiting('An earlier file had made it; its answer was lost on the way.', 50);
}
