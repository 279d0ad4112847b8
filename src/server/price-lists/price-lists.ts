import type { BlankChange, ChangeTotals } from '@/core/partner-file/price-changes';
import type { FaultGroup } from '@/core/partner-file/price-csv';
import { variantName } from '@/core/variants/tiers';
import { conflict, notFound, TypicaError } from '@/core/errors';
import { takeUpload } from '../blobs/upload';
import { listsInForce } from '../catalog/offers';
import { loadBlank } from '../catalog/blanks';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobState } from '../jobs/job-row';
import { enqueue } from '../jobs/jobs';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import type { ProductEffect } from './effects';

/** The largest price list that is read: a million rows have about 80 MB. */
export const MAX_LIST_BYTES = 100 * 1024 * 1024;

/** What reading a file found. */
export interface PriceListReport {
  readonly totals: ChangeTotals | null;
  readonly blanks: readonly BlankChange[];
  readonly faults: readonly FaultGroup[];
  readonly faultCount: number;
  /** Things to know that do not stand in the way. */
  readonly remarks: readonly string[];
  readonly effects: readonly ProductEffect[];
}

export interface PriceListRow {
  readonly id: string;
  readonly workspaceId: string | null;
  readonly partnerId: string;
  readonly partnerName: string;
  readonly currency: string;
  readonly validFrom: string;
  readonly state: 'reading' | 'ready' | 'faulty' | 'taken' | 'dropped' | 'undone';
  readonly baseListId: string | null;
  readonly fileName: string;
  readonly fileSha256: string | null;
  readonly jobId: string | null;
  /** Of the job that reads it: one that failed or was stopped can be tried again. */
  readonly jobState: JobState | null;
  readonly report: PriceListReport | null;
  readonly createdAt: Date;
  readonly takenAt: Date | null;
  readonly by: string | null;
}

const COLUMNS = `l.id, l.workspace_id AS workspaceId, l.partner_id AS partnerId, p.name AS partnerName, l.currency, DATE_FORMAT(l.valid_from, '%Y-%m-%d') AS validFrom, l.state,
  l.base_list_id AS baseListId, l.file_name AS fileName, l.file_sha256 AS fileSha256, l.job_id AS jobId, j.state AS jobState, l.created_at AS createdAt, l.taken_at AS takenAt, w.name AS \`by\``;
const FROM =
  'FROM price_list l JOIN partner p ON p.id = l.partner_id LEFT JOIN person w ON w.id = l.person_id LEFT JOIN job j ON j.id = l.job_id';

export async function findPriceList(ctx: Context, workspaceId: string, id: string): Promise<PriceListRow> {
  const row = await ctx.db.row<PriceListRow>(
    `SELECT ${COLUMNS}, l.report ${FROM} WHERE l.id = ? AND (l.workspace_id = ? OR l.workspace_id IS NULL)`,
    [id, workspaceId],
  );
  if (!row) throw notFound('price list', id);
  return row;
}

/** Names of the blanks that a list changes, by id. */
export async function changedNames(ctx: Context, { report }: PriceListRow): Promise<{ [blankId: string]: string }> {
  const ids = report?.blanks.map((blank) => blank.blankId) ?? [];
  if (ids.length === 0) return {};
  const rows = await ctx.db.rows<{ id: string; name: string }>(
    `SELECT id, name FROM blank WHERE id IN (${ids.map(() => '?').join(',')})`,
    ids,
  );
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]));
}

/** A workspace's own price lists and the shared ones, newest first, without their reports. */
export const listPriceLists = (ctx: Context, workspaceId: string): Promise<Omit<PriceListRow, 'report'>[]> =>
  ctx.db.rows(
    `SELECT ${COLUMNS} ${FROM} WHERE (l.workspace_id = ? OR l.workspace_id IS NULL) AND l.state <> 'dropped' ORDER BY l.created_at DESC, l.id LIMIT 200`,
    [workspaceId],
  );

export interface PartnerView {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly country: string;
  readonly currency: string;
  readonly blanks: number;
  readonly variants: number;
  readonly inForce: { readonly id: string; readonly validFrom: string; readonly own: boolean } | null;
  /** The day of a shared list that is newer than the workspace's own, which lies over it. */
  readonly newerShared: string | null;
}

export async function listPartners(ctx: Context, workspaceId: string): Promise<PartnerView[]> {
  const [partners, inForce, own] = await Promise.all([
    ctx.db.rows<Omit<PartnerView, 'inForce' | 'newerShared'> & { sharedFrom: string | null }>(
      `SELECT p.id, p.code, p.name, p.country, p.currency, (SELECT COUNT(*) FROM blank b WHERE b.partner_id = p.id) AS blanks,
       (SELECT COUNT(*) FROM blank_variant v WHERE v.partner_id = p.id AND v.ended_at IS NULL) AS variants,
       (SELECT DATE_FORMAT(MAX(l.valid_from), '%Y-%m-%d') FROM price_list l
        WHERE l.partner_id = p.id AND l.workspace_id IS NULL AND l.state = 'taken' AND l.valid_from <= UTC_DATE()) AS sharedFrom
       FROM partner p ORDER BY p.name`,
    ),
    listsInForce(ctx.db, workspaceId),
    ctx.db.rows<{ id: string }>("SELECT id FROM price_list WHERE workspace_id = ? AND state = 'taken'", [workspaceId]),
  ]);
  const ownIds = new Set(own.map((row) => row.id));
  return partners.map(({ sharedFrom, ...partner }) => {
    const list = inForce.get(partner.id);
    const isOwn = list !== undefined && ownIds.has(list.id);
    return {
      ...partner,
      inForce: list ? { id: list.id, validFrom: list.validFrom, own: isOwn } : null,
      newerShared: isOwn && sharedFrom !== null && sharedFrom > list.validFrom ? sharedFrom : null,
    };
  });
}

export async function findPartner(
  ctx: Context,
  id: string,
): Promise<{ id: string; code: string; name: string; currency: string }> {
  const row = await ctx.db.row<{ id: string; code: string; name: string; currency: string }>(
    'SELECT id, code, name, currency FROM partner WHERE id = ?',
    [id],
  );
  if (!row) throw notFound('print partner', id);
  return row;
}

const today = (ctx: Context): string => ctx.clock.now().toISOString().slice(0, 10);

/** The day from which a list is to hold: today, or a day in the next year. Throws `date-wrong`. */
function validDay(ctx: Context, text: string | null): string {
  if (!text) return today(ctx);
  const time = Date.parse(`${text}T00:00:00Z`);
  const now = Date.parse(`${today(ctx)}T00:00:00Z`);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(time) || new Date(time).toISOString().slice(0, 10) !== text)
    throw new TypicaError('invalid', 'date-wrong', `“${text}” is not a date; write it as ${today(ctx)}.`);
  if (time < now || time > now + 366 * 86_400_000)
    throw new TypicaError(
      'invalid',
      'date-wrong',
      `A price list can hold from today on or from a day within a year, not from ${text}.`,
    );
  return text;
}

/** Takes in a partner's price list as CSV; a job reads it. Nothing changes until it is taken. */
export async function uploadPriceList(
  ctx: Context,
  actor: Actor,
  partnerId: string,
  body: ReadableStream<Uint8Array> | null,
  input: { fileName: string | null; validFrom: string | null; declaredBytes?: number | null },
): Promise<{ id: string; jobId: string }> {
  const partner = await findPartner(ctx, partnerId);
  const validFrom = validDay(ctx, input.validFrom);
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const { sha256 } = await takeUpload(ctx, body, input.declaredBytes ?? null, {
    maxBytes: MAX_LIST_BYTES,
    mediaType: 'text/csv',
    empty: () => new TypicaError('invalid', 'csv-empty', 'The file is empty; export it again.'),
    tooLarge: () =>
      new TypicaError(
        'too-large',
        'csv-too-large',
        `The file is larger than ${MAX_LIST_BYTES / 1024 / 1024} MB, which is more than a million rows. Nothing was read; send the partner’s list in parts.`,
      ),
  });
  const base = (await listsInForce(ctx.db, actor.workspaceId, [partnerId], validFrom)).get(partnerId);
  const id = newId('x');
  const fileName = (input.fileName ?? '').replace(/[\p{Cc}\p{Cf}]/gu, '').slice(-200) || 'price list.csv';
  const jobId = await ctx.pools.transaction(async (db) => {
    await db.run(
      `INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from, state, base_list_id, file_name, file_sha256, person_id)
       VALUES (?, ?, ?, ?, ?, 'reading', ?, ?, ?, ?)`,
      [
        id,
        partnerId,
        actor.workspaceId,
        partner.currency,
        validFrom,
        base?.id ?? null,
        fileName,
        sha256,
        actor.personId,
      ],
    );
    const job = await enqueue(db, {
      workspaceId: actor.workspaceId,
      kind: 'read-price-list',
      title: `Read the price list of ${partner.name}`,
      payload: { priceListId: id },
      priority: 10,
      idempotencyKey: `price-list:${id}`,
      maxAttempts: 3,
    });
    await db.run('UPDATE price_list SET job_id = ? WHERE id = ?', [job, id]);
    return job;
  });
  return { id, jobId };
}

async function lockOwn(db: Database, workspaceId: string, id: string): Promise<{ state: PriceListRow['state'] }> {
  const row = await db.row<{ state: PriceListRow['state'] }>(
    'SELECT state FROM price_list WHERE id = ? AND workspace_id = ? FOR UPDATE',
    [id, workspaceId],
  );
  if (!row) throw notFound('price list', id);
  return row;
}

/** Puts a list in force that was read without faults. It was written whole when it was read, so this changes one row. */
export async function takePriceList(ctx: Context, actor: Actor, id: string): Promise<PriceListRow> {
  const list = await findPriceList(ctx, actor.workspaceId, id);
  await ctx.pools.transaction(async (db) => {
    // One list of a partner after the other: what is in force is looked at by one at a time.
    await db.row('SELECT id FROM partner WHERE id = ? FOR UPDATE', [list.partnerId]);
    const base = (await listsInForce(db, actor.workspaceId, [list.partnerId], list.validFrom)).get(list.partnerId);
    const { state } = await lockOwn(db, actor.workspaceId, id);
    if (state === 'taken') return;
    if (state !== 'ready')
      throw conflict(
        'price-list-not-ready',
        state === 'reading'
          ? 'This price list is still being read; apply it when that is done.'
          : 'This price list has errors or was discarded, and cannot be applied. Fix the file and upload it again.',
      );
    if ((base?.id ?? null) !== list.baseListId)
      throw conflict(
        'price-list-overtaken',
        'Another price list of this partner was applied since this one was read, so what is shown no longer holds. Upload the file again.',
      );
    await db.run("UPDATE price_list SET state = 'taken', taken_at = UTC_TIMESTAMP(3) WHERE id = ?", [id]);
    await layLaterOnes(db, actor.workspaceId, list);
    await emit(db, actor.workspaceId, 'catalog', { priceListId: id });
  });
  return findPriceList(ctx, actor.workspaceId, id);
}

/**
 * Lists that were taken already and hold from a later day were written over what was in force before this one: they are laid over it, each by a
 * job, so that they change what their own file says and nothing else.
 */
async function layLaterOnes(db: Database, workspaceId: string, taken: PriceListRow): Promise<void> {
  const later = await db.rows<{ id: string; validFrom: string }>(
    `SELECT id, DATE_FORMAT(valid_from, '%Y-%m-%d') AS validFrom FROM price_list
     WHERE partner_id = ? AND workspace_id = ? AND state = 'taken' AND valid_from > ? AND file_sha256 IS NOT NULL ORDER BY valid_from LIMIT 50`,
    [taken.partnerId, workspaceId, taken.validFrom],
  );
  let before: string | null = null;
  for (const { id, validFrom } of later)
    // One after the other: each lies over the one before it.
    before = await enqueue(db, {
      workspaceId,
      kind: 'lay-price-list',
      title: `Lay the list of ${taken.partnerName} from ${validFrom} over the new one`,
      payload: { priceListId: id },
      priority: 10,
      maxAttempts: 5,
      subject: `price-list:${id}`,
      needs: before ? [before] : [],
    });
}

/**
 * Takes a list back that was taken: what was in force before it holds again, and the list stays for the record. Only the last of a partner can be
 * taken back, since later ones lie over it. Throws `price-list-needed` and `price-list-not-taken`.
 */
export async function undoPriceList(ctx: Context, actor: Actor, id: string): Promise<PriceListRow> {
  const list = await findPriceList(ctx, actor.workspaceId, id);
  await ctx.pools.transaction(async (db) => {
    await db.row('SELECT id FROM partner WHERE id = ? FOR UPDATE', [list.partnerId]);
    const { state } = await lockOwn(db, actor.workspaceId, id);
    if (state === 'undone') return;
    if (state !== 'taken')
      throw conflict('price-list-not-taken', 'This price list is not in force; there is nothing to undo.');
    const over = await db.row<{ day: string }>(
      `SELECT DATE_FORMAT(valid_from, '%Y-%m-%d') AS day FROM price_list
       WHERE partner_id = ? AND workspace_id = ? AND state = 'taken' AND id <> ? AND (valid_from > ? OR (valid_from = ? AND taken_at > (
         SELECT taken_at FROM price_list WHERE id = ?))) ORDER BY valid_from DESC, taken_at DESC LIMIT 1`,
      [list.partnerId, actor.workspaceId, id, list.validFrom, list.validFrom, id],
    );
    if (over)
      throw conflict(
        'price-list-needed',
        `The list that holds from ${over.day} lies over this one: undo that first, then this one.`,
      );
    await db.run("UPDATE price_list SET state = 'undone' WHERE id = ?", [id]);
    await emit(db, actor.workspaceId, 'catalog', { priceListId: id });
  });
  return findPriceList(ctx, actor.workspaceId, id);
}

/** Throws a list away that was not taken, with its rows. */
export async function dropPriceList(ctx: Context, actor: Actor, id: string): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    const { state } = await lockOwn(db, actor.workspaceId, id);
    if (state === 'taken' || state === 'undone')
      throw conflict('price-list-taken', 'This price list is in force or was; it stays for the record.');
    await db.run("UPDATE price_list SET state = 'dropped', file_sha256 = NULL WHERE id = ?", [id]);
    await clearRows(db, id);
  });
}

/** Takes all rows of a list out again. */
export async function clearRows(db: Database, id: string): Promise<void> {
  for (const table of ['variant', 'area', 'shipping', 'insert'])
    await db.run(`DELETE FROM price_list_${table} WHERE price_list_id = ?`, [id]);
}

export interface VariantChange {
  readonly key: string;
  /** `Estuary, M`. */
  readonly name: string;
  readonly sku: string;
  readonly beforeMinor: number | null;
  readonly afterMinor: number;
  readonly stockBefore: number;
  readonly stockAfter: number;
  readonly endedBefore: boolean;
  readonly endedAfter: boolean;
}

/** Every variant of one blank that a list changes. */
export async function variantChanges(ctx: Context, list: PriceListRow, blankId: string): Promise<VariantChange[]> {
  const blank = await loadBlank(ctx, blankId);
  const rows = await ctx.db.rows<
    Omit<VariantChange, 'name' | 'endedBefore' | 'endedAfter'> & { endedBefore: number; endedAfter: number }
  >(
    `SELECT v.variant_key AS \`key\`, v.sku, o.base_cost_minor AS beforeMinor, n.base_cost_minor AS afterMinor, COALESCE(o.stock, v.stock) AS stockBefore, COALESCE(n.stock, v.stock) AS stockAfter,
     (COALESCE(o.ended, 0) OR v.ended_at IS NOT NULL) AS endedBefore, (n.ended OR v.ended_at IS NOT NULL) AS endedAfter
     FROM price_list_variant n JOIN blank_variant v ON v.blank_id = n.blank_id AND v.variant_key = n.variant_key
     LEFT JOIN price_list_variant o ON o.price_list_id = ? AND o.blank_id = n.blank_id AND o.variant_key = n.variant_key
     WHERE n.price_list_id = ? AND n.blank_id = ? ORDER BY v.position`,
    [list.baseListId ?? '', list.id, blankId],
  );
  return rows
    .map((row) => ({
      ...row,
      name: variantName(blank, row.key),
      beforeMinor: row.beforeMinor === null ? null : Number(row.beforeMinor),
      afterMinor: Number(row.afterMinor),
      endedBefore: row.endedBefore === 1,
      endedAfter: row.endedAfter === 1,
    }))
    .filter(
      (row) =>
        row.beforeMinor !== row.afterMinor || row.endedBefore !== row.endedAfter || row.stockBefore !== row.stockAfter,
    );
}
