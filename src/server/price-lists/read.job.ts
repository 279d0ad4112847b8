import { Readable } from 'node:stream';
import { ChangeCounter } from '@/core/partner-file/price-changes';
import { FaultBook, PriceChecker, readPriceHeader } from '@/core/partner-file/price-csv';
import type { CsvFault } from '@/core/csv/fault';
import { blobInfo } from '../blobs/blobs';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { readCsv } from '../csv/reader';
import { productEffects } from './effects';
import { loadKnownVariants, type KnownVariants } from './known';
import { clearRows, findPriceList, type PriceListReport, type PriceListRow } from './price-lists';

/** Effects on products that are told singly. */
const MAX_EFFECTS = 5000;

/** Rows between two reports of progress. */
const STEP_BYTES = 2 * 1024 * 1024;

/** What the file says of each known variant; -1 where it says nothing. */
interface Read {
  readonly costMinor: Int32Array;
  readonly stock: Int32Array;
  readonly ended: Uint8Array;
  readonly named: Uint8Array;
}

/**
 * Reads an uploaded price list: every row is checked before anything is written. With faults it ends as `faulty` with all of them; without,
 * the whole new list is written beside the one in force and waits as `ready`. A list that was dropped meanwhile is left alone.
 */
export async function readPriceList(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const list = await findPriceList(ctx, job.workspaceId, String(job.payload.priceListId));
  if (list.state !== 'reading' || !list.fileSha256) return { state: list.state };
  const known = await loadKnownVariants(ctx, list.partnerId, list.baseListId);
  const { read, faults, remarks, rows } = await readRows(ctx, list, known, progress);
  if (faults.count > 0) {
    await note(ctx, list.id, 'faulty', {
      totals: null,
      blanks: [],
      faults: faults.list(),
      faultCount: faults.count,
      remarks,
      effects: [],
    });
    return { state: 'faulty', faults: faults.count };
  }
  await progress(0, rows, `Comparing ${rows.toLocaleString('en')} rows`);
  const { totals, blanks } = compare(known, read);
  await progress(0, rows, `Writing ${rows.toLocaleString('en')} rows`);
  if (!(await writeRows(ctx, list, known, read, 'reading'))) return { state: 'dropped' };
  await progress(rows, rows, 'Looking at your products');
  const workspace = await ctx.db.row<{ id: string; country: string }>(
    'SELECT id, country FROM workspace WHERE id = ?',
    [job.workspaceId],
  );
  const effects = await productEffects(
    ctx,
    workspace!,
    list,
    // Only these can take something from a product.
    blanks.filter(({ up, ends, runsOut }) => up + ends + runsOut > 0).map((blank) => blank.blankId),
  );
  const told = effects.slice(0, MAX_EFFECTS);
  const left = effects.length - told.length;
  const more = left > 0 ? [`${left} more effects on products are not listed; those that matter most come first.`] : [];
  await note(ctx, list.id, 'ready', {
    totals,
    blanks,
    faults: [],
    faultCount: 0,
    remarks: [...remarks, ...more],
    effects: told,
  });
  return { state: 'ready', rows };
}

/**
 * Writes a list that was taken already, and holds from a later day, over what is in force by then: other lists were taken meanwhile. What its file
 * names stays as it says; the rest is theirs.
 */
export async function layPriceList(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const list = await findPriceList(ctx, job.workspaceId, String(job.payload.priceListId));
  if (list.state !== 'taken' || !list.fileSha256) return { state: list.state };
  const base = await ctx.db.row<{ id: string }>(
    `SELECT id FROM price_list WHERE partner_id = ? AND (workspace_id IS NULL OR workspace_id = ?) AND state = 'taken' AND id <> ? AND valid_from <= ?
     ORDER BY workspace_id IS NULL, valid_from DESC, COALESCE(taken_at, created_at) DESC, id LIMIT 1`,
    [list.partnerId, job.workspaceId, list.id, list.validFrom],
  );
  const known = await loadKnownVariants(ctx, list.partnerId, base?.id ?? null);
  const { read, rows } = await readRows(ctx, list, known, progress);
  await progress(rows, rows, `Writing ${rows.toLocaleString('en')} rows`);
  await writeRows(ctx, { ...list, baseListId: base?.id ?? null }, known, read, 'taken');
  await ctx.db.run('UPDATE price_list SET base_list_id = ? WHERE id = ?', [base?.id ?? null, list.id]);
  await emit(ctx.db, job.workspaceId, 'catalog', { priceListId: list.id });
  return { rows };
}

async function note(ctx: Context, id: string, state: 'ready' | 'faulty', report: PriceListReport): Promise<void> {
  await ctx.db.run("UPDATE price_list SET state = ?, report = ? WHERE id = ? AND state = 'reading'", [
    state,
    JSON.stringify(report),
    id,
  ]);
}

async function readRows(
  ctx: Context,
  list: PriceListRow,
  known: KnownVariants,
  progress: JobControl['progress'],
): Promise<{ read: Read; faults: FaultBook; remarks: string[]; rows: number }> {
  const size = known.count;
  const read: Read = {
    costMinor: new Int32Array(size).fill(-1),
    stock: new Int32Array(size).fill(-1),
    ended: new Uint8Array(size),
    named: new Uint8Array(size),
  };
  const faults = new FaultBook();
  let checker: PriceChecker | null = null;
  let headless = false;
  let rows = 0;
  const variants = { count: size, find: (sku: string) => known.indexOf.get(sku) ?? -1, costMinor: known.costMinor };
  const onRow = (fields: string[], line: number) => {
    if (headless) return;
    if (!checker) {
      const { header, faults: wrong } = readPriceHeader(fields);
      faults.add(wrong.map((fault) => ({ ...fault, line })));
      // Without the columns no row can be understood; what is only doubled or unknown does not hide the rest.
      headless = ['sku', 'cost', 'currency'].some((column) => header[column as 'sku'] === undefined);
      checker = new PriceChecker(header, fields.length, list.currency, variants, list.partnerName);
      return;
    }
    rows += 1;
    const result = checker.check(fields, line);
    if ('index' in result) {
      const { index, row } = result;
      read.named[index] = 1;
      read.costMinor[index] = row.costMinor;
      read.stock[index] = row.stock ?? -1;
      read.ended[index] = row.ended ? 1 : 0;
    } else faults.add(result);
  };
  const total = Number((await blobInfo(ctx, list.fileSha256!))?.sizeBytes ?? 0);
  const stream = Readable.fromWeb((await ctx.files.stream(list.fileSha256!)) as never);
  const notes = await readCsv(
    withProgress(stream, async (bytes) => {
      const share = total > 0 ? bytes / total : 1;
      const about = Math.max(rows, Math.round(rows / Math.max(share, 1e-6)));
      await progress(rows, about, `${rows.toLocaleString('en')} rows read`);
    }),
    onRow,
    (fault: CsvFault) => faults.add([fault]),
  );
  if (!checker && faults.count === 0)
    faults.add([{ line: 1, column: null, code: 'csv-empty', says: 'The file has no rows; export it again.' }]);
  else if (rows === 0 && faults.count === 0)
    faults.add([{ line: 1, column: null, code: 'csv-empty', says: 'The file has headings and no rows.' }]);
  const remarks: string[] = [];
  if (notes.byteOrderMark)
    remarks.push(
      'The file begins with a byte order mark (U+FEFF), which does not belong into CSV. It was passed over.',
    );
  if (!notes.endsWithBreak && faults.count === 0)
    remarks.push('The last line does not end in a line break. Check that the file was not cut off.');
  return { read, faults, remarks, rows };
}

async function* withProgress(
  stream: AsyncIterable<Uint8Array>,
  report: (bytes: number) => Promise<void>,
): AsyncIterable<Uint8Array> {
  let bytes = 0;
  let next = STEP_BYTES;
  for await (const chunk of stream) {
    yield chunk;
    bytes += chunk.length;
    if (bytes >= next) {
      next = bytes + STEP_BYTES;
      await report(bytes);
    }
  }
}

/** Fills what the file does not say from what is in force, and counts what changes. */
function compare(known: KnownVariants, read: Read): ReturnType<ChangeCounter['result']> {
  const changes = new ChangeCounter();
  let unnamed = 0;
  const before = { costMinor: 0, stock: 0, ended: false };
  const after = { costMinor: 0, stock: 0, ended: false };
  for (let i = 0; i < known.count; i += 1) {
    if (!read.named[i]) {
      unnamed += 1;
      continue;
    }
    before.costMinor = known.costMinor[i]!;
    before.stock = known.stock[i]!;
    before.ended = known.ended[i] === 1;
    after.costMinor = read.costMinor[i]!;
    after.stock = read.stock[i]! >= 0 ? read.stock[i]! : known.stock[i]!;
    after.ended = read.ended[i] === 1 || known.endedInCatalog[i] === 1;
    changes.add(known.blankIds[i]!, before, after);
  }
  return changes.result(unnamed);
}

/**
 * Writes the new list whole: the rows of the file, what it does not name as it is in force, and areas, shipping and inserts of its base.
 * Rows go in through LOAD DATA in the order of their key, which is several times faster than INSERT (measured by `npm run bench
 * price-list`). A try that was cut off left rows behind; they are cleared first. Gives false, and writes nothing, when the list was dropped
 * meanwhile: its row is locked, so that one who drops it now comes after and clears the rows.
 */
async function writeRows(
  ctx: Context,
  list: PriceListRow,
  known: KnownVariants,
  read: Read,
  state: PriceListRow['state'],
): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const now = await db.row<{ state: string }>('SELECT state FROM price_list WHERE id = ? FOR UPDATE', [list.id]);
    if (now?.state !== state) return false;
    await clearRows(db, list.id);
    await db.load(
      `LOAD DATA LOCAL INFILE 'rows' INTO TABLE price_list_variant CHARACTER SET ascii FIELDS TERMINATED BY '\\t' LINES TERMINATED BY '\\n'
       (blank_id, variant_key, base_cost_minor, @stock, ended) SET price_list_id = ?, stock = NULLIF(@stock, '')`,
      [list.id],
      Readable.from(lines(known, read), { objectMode: false }),
    );
    if (list.baseListId) await copyRest(db, list.id, list.baseListId);
    await db.run('UPDATE price_list SET written = written + 1 WHERE id = ?', [list.id]);
    return true;
  });
}

function* lines(known: KnownVariants, read: Read): Generator<string> {
  let part = '';
  for (let i = 0; i < known.count; i += 1) {
    const named = read.named[i] === 1;
    const cost = named ? read.costMinor[i]! : known.costMinor[i]!;
    if (cost < 0) continue;
    const stock = named && read.stock[i]! >= 0 ? read.stock[i]! : known.listStock[i] ? known.stock[i]! : '';
    const ended = named ? read.ended[i]! : known.ended[i]! && !known.endedInCatalog[i] ? 1 : 0;
    part += `${known.blankIds[i]}\t${known.keys[i]}\t${cost}\t${stock}\t${ended}\n`;
    if (part.length > 64 * 1024) {
      yield part;
      part = '';
    }
  }
  if (part) yield part;
}

const COPIED = {
  area: 'blank_id, area_key, extra_minor, technique_minor',
  shipping: 'parcel_class, region, countries, first_minor, further_minor, days_min, days_max, position',
  insert: 'code, name, cost_minor, position',
};

async function copyRest(db: Database, id: string, baseId: string): Promise<void> {
  for (const [table, columns] of Object.entries(COPIED))
    await db.run(
      `INSERT INTO price_list_${table} (price_list_id, ${columns}) SELECT ?, ${columns} FROM price_list_${table} WHERE price_list_id = ?`,
      [id, baseId],
    );
}
