import { count } from '@/core/words/count';
import { note } from '../../activity/note';
import type { Context } from '../../context';
import type { Database } from '../../db/pool';
import type { JobControl } from '../../jobs/worker';
import { actorOfPerson } from '../../people/people';
import { findChange, type ChangeRow, type Done, type ItemRow, type ItemWhat, type Planned } from './change-row';
import { KINDS } from './kinds';

/** Products that are looked at in one go, and that are read at once to be changed one by one. */
const LOOK_PAGE = 40;
const DO_PAGE = 100;
const SAYS_MAX = 400;

const itemsOf = (ctx: Context, changeId: string, what: ItemWhat, most: number): Promise<ItemRow[]> =>
  ctx.db.rows<ItemRow>(
    `SELECT product_id AS productId, store_id AS storeId, what, says, was, made FROM range_change_item
     WHERE change_id = ? AND what = ? ORDER BY product_id, store_id LIMIT ${most}`,
    [changeId, what],
  );

const says = (text: string | null): string | null => text?.slice(0, SAYS_MAX).toWellFormed() ?? null;

const keepPlanned = (db: Database, changeId: string, item: ItemRow, planned: Planned) =>
  db.run(
    'UPDATE range_change_item SET what = ?, says = ?, prices = ? WHERE change_id = ? AND product_id = ? AND store_id = ?',
    [
      ...[planned.what, says(planned.says), planned.prices?.length ? JSON.stringify(planned.prices) : null],
      ...[changeId, item.productId, item.storeId],
    ],
  );

const jsonOf = (value: unknown): string | null => (value === undefined ? null : JSON.stringify(value));

const keepDone = (db: Database, changeId: string, item: ItemRow, done: Done) =>
  db.run(
    'UPDATE range_change_item SET what = ?, says = ?, was = COALESCE(?, was), made = COALESCE(?, made) WHERE change_id = ? AND product_id = ? AND store_id = ?',
    [...[done.what, says(done.says), jsonOf(done.was), jsonOf(done.made)], ...[changeId, item.productId, item.storeId]],
  );

const countOf = async (ctx: Context, changeId: string, what: ItemWhat): Promise<number> => {
  const row = await ctx.db.row<{ n: number }>(
    'SELECT COUNT(*) AS n FROM range_change_item WHERE change_id = ? AND what = ?',
    [changeId, what],
  );
  return Number(row!.n);
};

const GONE: Planned = { what: 'left', says: 'It is no longer in the range.' };

/** Looks at what a change would do, page by page; begun again it goes on where it was. */
async function look(ctx: Context, control: JobControl, change: ChangeRow): Promise<number> {
  const all = await countOf(ctx, change.id, 'new');
  for (let looked = 0; ;) {
    const items = await itemsOf(ctx, change.id, 'new', LOOK_PAGE);
    if (items.length === 0) return looked;
    const planned = await KINDS[change.kind].look(ctx, change, items);
    await control.write(async (db) => {
      for (const item of items) await keepPlanned(db, change.id, item, planned.get(item.productId) ?? GONE);
    });
    looked += items.length;
    await control.progress(looked, all, `${looked} of ${all} looked at`);
  }
}

/** Does a change, or undoes it, product by product: what is done is written down with it, and not done once more. */
async function carryOut(ctx: Context, control: JobControl, change: ChangeRow, step: 'do' | 'undo'): Promise<number> {
  const actor = await actorOfPerson(ctx, String(control.job.payload.personId), change.workspaceId);
  const from: ItemWhat = step === 'do' ? 'change' : 'done';
  const all = await countOf(ctx, change.id, from);
  const { act, undo } = KINDS[change.kind];
  for (let done = 0; ;) {
    const items = await itemsOf(ctx, change.id, from, DO_PAGE);
    if (items.length === 0) return done;
    for (const item of items) {
      await control.mayGoOn();
      const keep = (db: Database, one: Done) => keepDone(db, change.id, item, one).then(() => undefined);
      const came = step === 'do' ? await act(ctx, actor, change, item, keep) : await undo!(ctx, actor, change, item);
      await keep(ctx.db, came);
      done += 1;
      await control.progress(done, all, `${done} of ${all} products`);
    }
  }
}

const ENDS = { look: 'planned', do: 'done', undo: 'undone' } as const;

/** One step of a change of many products: looked at, done, or undone. */
export async function changeMany(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  const change = await findChange(ctx, workspaceId, String(payload.changeId));
  const step = payload.step === 'undo' ? 'undo' : payload.step === 'do' ? 'do' : 'look';
  const n = step === 'look' ? await look(ctx, control, change) : await carryOut(ctx, control, change, step);
  await control.write(async (db) => {
    await db.run('UPDATE range_change SET state = ? WHERE id = ?', [ENDS[step], change.id]);
    if (step === 'look') return;
    const doer = { workspaceId, personName: change.by };
    const told = `${change.title}: ${step === 'do' ? 'done with' : 'undone for'} ${count(n, 'product')}.`;
    await note(db, doer, { about: 'product', what: step === 'do' ? 'many' : 'many-undone', says: told });
  });
  return { products: n };
}
