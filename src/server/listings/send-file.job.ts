import { TypicaError } from '@/core/errors';
import type { BatchClient, BatchRow, RowAnswer } from '@/ports/channel';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { channelOf, findStore, type Store } from '../stores/stores';

interface OutRow {
  readonly id: number;
  readonly listingId: string;
  readonly content: string;
}

/** A file waits so long for more rows, after the first, ms: what is sent together goes together. */
const GATHER_MS = 1_500;
/** Longest pause between two looks for answers, ms. */
const LOOK_MS = 5_000;

const goOn = (retryAfterMs: number) =>
  new TypicaError('unavailable', 'file-going-on', 'Files and answers are still on their way.', {
    retryAfterMs: Math.max(50, Math.ceil(retryAfterMs)),
    costsNoTry: true,
  });

/** Sends a store's rows in files, as often as the shop takes one, and takes the answers to earlier ones; goes on until no row is left. */
export async function sendFiles(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const store = await findStore(ctx, job.workspaceId, String(job.payload.storeId));
  const client = await openStore(ctx, store, control);
  const { batches } = channelOf(ctx, store.channel).about;
  if (!client.batch || !batches) return { files: 0 };
  await takeAnswers(ctx, control, store, client.batch);
  await dropStopped(ctx, store.id);
  const waitMs = await fileWaitMs(ctx, store, batches);
  if (waitMs === 0) await sendOne(ctx, control, store, client.batch, batches.rowsMax);
  const left = await ctx.db.row<{ ready: number; sent: number }>(
    "SELECT COALESCE(SUM(state = 'ready'), 0) AS ready, COALESCE(SUM(state = 'sent'), 0) AS sent FROM batch_row WHERE store_id = ?",
    [store.id],
  );
  if (Number(left!.sent) > 0) throw goOn(Math.min(LOOK_MS, batches.everyMs / 4));
  if (Number(left!.ready) > 0) throw goOn(waitMs || batches.everyMs);
  return { files: 0 };
}

/** Rows whose listing's job was stopped go in no file. */
const dropStopped = (ctx: Context, storeId: string) =>
  ctx.db.run(
    `DELETE b FROM batch_row b JOIN listing l ON l.id = b.listing_id LEFT JOIN job j ON j.id = l.job_id
     WHERE b.store_id = ? AND b.state = 'ready' AND COALESCE(j.state, 'cancelled') NOT IN ('queued', 'running', 'waiting')`,
    [storeId],
  );

/** How long until a file may go: when the shop takes the next one, and others have had their moment to come along. Null: there is nothing to send. */
async function fileWaitMs(
  ctx: Context,
  store: Store,
  { rowsMax, everyMs }: { readonly rowsMax: number; readonly everyMs: number },
): Promise<number | null> {
  const ready = await ctx.db.row<{ n: number; ageMs: number | null }>(
    "SELECT COUNT(*) AS n, TIMESTAMPDIFF(MICROSECOND, MIN(made_at), UTC_TIMESTAMP(3)) / 1000 AS ageMs FROM batch_row WHERE store_id = ? AND state = 'ready'",
    [store.id],
  );
  const n = Number(ready!.n);
  if (n === 0) return null;
  const last = await ctx.db.row<{ agoMs: number | null }>(
    'SELECT TIMESTAMPDIFF(MICROSECOND, file_at, UTC_TIMESTAMP(3)) / 1000 AS agoMs FROM store_rate WHERE store_id = ?',
    [store.id],
  );
  const untilShop = last?.agoMs == null ? 0 : everyMs - Number(last.agoMs);
  const gather = Math.min(GATHER_MS, everyMs / 4);
  const untilGathered = n >= rowsMax ? 0 : gather - Number(ready!.ageMs ?? gather);
  return Math.max(0, untilShop, untilGathered);
}

/** Sends one file. Its rows are marked before it goes: if its answer is lost, they are known to be in doubt. */
async function sendOne(
  ctx: Context,
  control: JobControl,
  store: Store,
  batch: BatchClient,
  rowsMax: number,
): Promise<void> {
  const rows = await control.write(async (db) => {
    const found = await db.rows<OutRow>(
      "SELECT id, listing_id AS listingId, content FROM batch_row WHERE store_id = ? AND state = 'ready' ORDER BY id LIMIT ? FOR UPDATE",
      [store.id, rowsMax],
    );
    if (found.length === 0) return found;
    await db.run(
      `UPDATE batch_row SET state = 'lost', sent_at = UTC_TIMESTAMP(3) WHERE id IN (${found.map(() => '?').join(',')})`,
      found.map(({ id }) => id),
    );
    await db.run('INSERT IGNORE INTO store_rate (store_id) VALUES (?)', [store.id]);
    await db.run('UPDATE store_rate SET file_at = UTC_TIMESTAMP(3) WHERE store_id = ?', [store.id]);
    return found;
  });
  if (rows.length === 0) return;
  const { ticket } = await submit(ctx, control, store, batch, rows);
  await control.write((db) =>
    db.run(
      `UPDATE batch_row SET state = 'sent', ticket = ? WHERE state = 'lost' AND id IN (${rows.map(() => '?').join(',')})`,
      [ticket, ...rows.map(({ id }) => id)],
    ),
  );
}

/** A file that the shop surely did not take leaves its rows as they were. */
async function submit(
  ctx: Context,
  control: JobControl,
  store: Store,
  batch: BatchClient,
  rows: readonly OutRow[],
): Promise<{ readonly ticket: string }> {
  try {
    return await batch.submit(
      rows.map(({ id, content }) => ({ ...(JSON.parse(content) as BatchRow), row: String(id) })),
    );
  } catch (error) {
    const surelyNot = error instanceof TypicaError && error.code !== 'shop-unreachable';
    if (surelyNot)
      await control.write((db) =>
        db.run(
          `UPDATE batch_row SET state = 'ready', sent_at = NULL WHERE state = 'lost' AND id IN (${rows.map(() => '?').join(',')})`,
          rows.map(({ id }) => id),
        ),
      );
    else await wake(ctx, store.id, "b.state = 'lost'");
    throw error;
  }
}

/** Takes what the shop has answered by now, and wakes the listings that waited for it. */
async function takeAnswers(ctx: Context, control: JobControl, store: Store, batch: BatchClient): Promise<void> {
  const tickets = await ctx.db.rows<{ ticket: string }>(
    "SELECT DISTINCT ticket FROM batch_row WHERE store_id = ? AND state = 'sent' ORDER BY ticket",
    [store.id],
  );
  for (const { ticket } of tickets) {
    const { done, rows } = await batch.answers(ticket);
    await control.write(async (db) => {
      for (const { row, outcome } of rows)
        await db.run(
          "UPDATE batch_row SET state = 'answered', outcome = ? WHERE id = ? AND store_id = ? AND ticket = ? AND state = 'sent'",
          [JSON.stringify({ outcome }), Number(row), store.id, ticket],
        );
      // A file that is done and says nothing of a row has not done it.
      if (done)
        await db.run(
          "UPDATE batch_row SET state = 'answered', outcome = ? WHERE store_id = ? AND ticket = ? AND state = 'sent'",
          [JSON.stringify({ outcome: { kind: 'not-done' } }), store.id, ticket],
        );
    });
  }
  await wake(ctx, store.id, "b.state = 'answered'");
  await keepUnawaited(ctx, store);
}

interface Unawaited {
  readonly id: number;
  readonly listingId: string;
  readonly productId: string;
  readonly outcome: string;
}

/** What a shop made of a row whose job was stopped meanwhile: the listing is there, and known here. */
async function keepUnawaited(ctx: Context, store: Store): Promise<void> {
  const rows = await ctx.db.rows<Unawaited>(
    `SELECT b.id, b.listing_id AS listingId, l.product_id AS productId, b.outcome FROM batch_row b JOIN listing l ON l.id = b.listing_id LEFT JOIN job j ON j.id = l.job_id
     WHERE b.store_id = ? AND b.state = 'answered' AND COALESCE(j.state, 'cancelled') NOT IN ('queued', 'running', 'waiting')`,
    [store.id],
  );
  for (const { id, listingId, productId, outcome } of rows) {
    const { outcome: told } = JSON.parse(outcome) as Pick<RowAnswer, 'outcome'>;
    await ctx.pools.transaction(async (db) => {
      if (told.kind === 'taken')
        await db.run('UPDATE listing SET external_id = ?, url = ? WHERE id = ? AND external_id IS NULL', [
          told.listing.externalId,
          told.listing.url,
          listingId,
        ]);
      await db.run("DELETE FROM batch_row WHERE id = ? AND state = 'answered'", [id]);
      await emit(db, store.workspaceId, 'listing', { productId, storeId: store.id });
    });
  }
}

/** Lets the jobs of listings go on at once whose rows are in a state. */
const wake = (ctx: Context, storeId: string, where: "b.state = 'answered'" | "b.state = 'lost'") =>
  ctx.db.run(
    `UPDATE job j JOIN listing l ON l.job_id = j.id JOIN batch_row b ON b.listing_id = l.id
     SET j.run_after = UTC_TIMESTAMP(3) WHERE b.store_id = ? AND ${where} AND j.state = 'queued' AND j.run_after > UTC_TIMESTAMP(3)`,
    [storeId],
  );
