import { invalid } from '@/core/errors';
import { isEnding, WAYS } from '@/core/pricing/rounding';
import { PRICE_KINDS, RAISE_LEAST_PPM, RAISE_MOST_PPM, type ManyKind } from '@/core/range-changes';
import type { Context } from '../../context';
import { loadBlank } from '../../catalog/blanks';
import { newId } from '../../db/ids';
import type { Database } from '../../db/pool';
import { enqueue } from '../../jobs/jobs';
import type { SignedIn } from '../../people/people';
import { need } from '../../people/scopes';
import { listRules } from '../../pricing/rules';
import { oneLine } from '../../products/products';
import { refuseOver } from '../../quotas/quotas';
import { askedNow, foundInRange } from '../found';
import { readFilter } from '../query';
import type { AskedChange } from './change-row';
import { KINDS } from './kinds';

/** Which products: by their ids, by cells (products in stores), or whatever a filter of the range finds. */
export interface ChangeSelection {
  readonly productIds?: readonly string[];
  readonly listings?: readonly { readonly productId: string; readonly storeId: string }[];
  readonly found?: { readonly query: string };
}

/** Products that one change can be of. */
const MAX_PRODUCTS = 25_000;
const MAX_TAG = 200;

const marksOf = (ids: readonly unknown[]) => ids.map(() => '?').join(',');

/** What a change of a kind has to be told, and its name. Throws `change-asked` and `not-found`. */
async function titleOf(ctx: Context, workspaceId: string, kind: ManyKind, asked: AskedChange): Promise<string> {
  const wrong = (says: string) => invalid('change-asked', says, { kind });
  switch (kind) {
    case 'tag-add':
    case 'tag-remove': {
      const tag = oneLine(asked.tag);
      if (tag === '' || tag.length > MAX_TAG) throw wrong(`tag is the words of a tag, up to ${MAX_TAG} characters.`);
      return kind === 'tag-add' ? `Add the tag “${tag}”` : `Remove the tag “${tag}”`;
    }
    case 'price-rule': {
      const rule = (await listRules(ctx, workspaceId)).find(({ id }) => id === asked.ruleId);
      if (!rule) throw wrong('ruleId is the id of a price rule that is kept; this one is not there.');
      return `Price by ${rule.name}`;
    }
    case 'raise': {
      const { ppm } = asked;
      if (ppm === undefined || ppm === 0 || ppm < RAISE_LEAST_PPM || ppm > RAISE_MOST_PPM)
        throw wrong('ppm is the share by which prices rise, from −900,000 to 9,000,000 and not 0; below 0 they fall.');
      return `${ppm > 0 ? 'Raise' : 'Lower'} prices by ${Math.abs(ppm) / 10_000} %`;
    }
    case 'ending': {
      if (!isEnding(asked.ending)) throw wrong('ending is none, ladder, or up to four digits such as .99, 4.99 or 80.');
      if (asked.way !== undefined && !WAYS.includes(asked.way)) throw wrong(`way is one of ${WAYS.join(', ')}.`);
      return asked.ending === 'none' ? 'Prices without an ending' : `Prices end in ${asked.ending}`;
    }
    case 'duplicate':
      if (!asked.blankId) throw wrong('blankId is the blank onto which they are duplicated.');
      return `Duplicate onto ${(await loadBlank(ctx, asked.blankId)).name}`;
    case 'archive':
      return 'Archive';
    case 'delete':
      return 'Delete';
    case 'check':
      return 'Look into the shops';
  }
}

async function insertItems(db: Database, workspaceId: string, changeId: string, selection: ChangeSelection) {
  const { productIds, listings, found } = selection;
  if (listings) {
    const ids = [...new Set(listings.map(({ productId }) => productId))];
    const rows = await db.rows<{ id: string }>(
      `SELECT id FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id IN (${marksOf(ids)})`,
      [workspaceId, ...ids],
    );
    const there = new Set(rows.map(({ id }) => id));
    const own = listings.filter(({ productId }) => there.has(productId));
    await db.insertMany(
      'range_change_item',
      ['change_id', 'product_id', 'store_id'],
      own.map(({ productId, storeId }) => [changeId, productId, storeId]),
      'ON DUPLICATE KEY UPDATE store_id = VALUES(store_id)',
    );
    return own.length;
  }
  const { where, values } = found
    ? foundInRange(await askedNow(db, workspaceId, readFilter(new URLSearchParams(found.query))))
    : {
        where: `workspace_id = ? AND archived_at IS NULL AND id IN (${marksOf(productIds!)})`,
        values: [workspaceId, ...productIds!],
      };
  const { affectedRows } = await db.run(
    `INSERT IGNORE INTO range_change_item (change_id, product_id) SELECT ?, id FROM product WHERE ${where} LIMIT ${MAX_PRODUCTS + 1}`,
    [changeId, ...values],
  );
  return affectedRows;
}

function refuseSelection({ productIds, listings, found }: ChangeSelection, kind: ManyKind): void {
  if ([productIds, listings, found].filter((one) => one !== undefined).length !== 1)
    throw invalid('change-selection', 'Say which products in one way: productIds, listings, or found.');
  if (listings && kind !== 'check')
    throw invalid('change-selection', 'Only looking into shops is done listing by listing; name products instead.');
  if (productIds?.length === 0 || listings?.length === 0)
    throw invalid('change-empty', 'Nothing is selected: name at least one product.');
}

/**
 * Plans a change of many products: what it would do to each is looked at by a job, and nothing is done yet. Gives its id. Throws `change-selection`,
 * `change-empty`, `change-asked`, `change-too-many`, `scope-missing`.
 */
export async function planChange(
  ctx: Context,
  actor: SignedIn,
  kind: ManyKind,
  asked: AskedChange,
  selection: ChangeSelection,
): Promise<string> {
  need(actor.credential, KINDS[kind].scope);
  refuseSelection(selection, kind);
  const title = await titleOf(ctx, actor.workspaceId, kind, asked);
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const id = newId('c');
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO range_change (id, workspace_id, kind, asked, title, person_id) VALUES (?, ?, ?, ?, ?, ?)',
      [id, actor.workspaceId, kind, JSON.stringify(asked), title.slice(0, 200), actor.personId],
    );
    const n = await insertItems(db, actor.workspaceId, id, selection);
    if (n === 0) throw invalid('change-empty', 'Nothing is selected that is in the range.');
    if (n > MAX_PRODUCTS)
      throw invalid(
        'change-too-many',
        `One change can be of ${MAX_PRODUCTS.toLocaleString('en')} products; select fewer.`,
      );
    await enqueueFor(db, { id, workspaceId: actor.workspaceId, title, kind }, 'look', actor.personId);
  });
  return id;
}

/** Has a change looked at, done or undone by a job. */
export async function enqueueFor(
  db: Database,
  change: { readonly id: string; readonly workspaceId: string; readonly title: string; readonly kind: ManyKind },
  step: 'look' | 'do' | 'undo',
  personId: string,
): Promise<string> {
  const jobId = await enqueue(db, {
    workspaceId: change.workspaceId,
    kind: PRICE_KINDS.has(change.kind) ? 'change-prices' : 'change-range',
    title: step === 'undo' ? `Undo: ${change.title}` : change.title,
    payload: { changeId: change.id, step, personId },
    subject: `change:${change.id}`,
    priority: 5,
  });
  await db.run('UPDATE range_change SET job_id = ? WHERE id = ?', [jobId, change.id]);
  return jobId;
}
