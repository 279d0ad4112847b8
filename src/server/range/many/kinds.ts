import type { ManyKind } from '@/core/range-changes';
import { isTypicaError } from '@/core/errors';
import { count } from '@/core/words/count';
import type { Context } from '../../context';
import type { Scope } from '../../people/scopes';
import type { Actor } from '../../people/people';
import { listingsOf, requestCheck } from '../../listings/listings';
import { copyProduct, previewOnBlank } from '../../products/copies';
import { productsById } from '../../products/products';
import { archiveProduct, deleteProduct, restoreProduct } from '../../products/shelving';
import { listStores } from '../../stores/stores';
import type { ChangeRow, Done, ItemRow, Keep, Planned } from './change-row';
import { changeDocument, giveBackDocument, lookAtDocuments } from './documents';

/** A kind of change: what it would do to products, how it is done to one of them, and how it is undone. */
export interface Kind {
  readonly scope: Scope;
  look(ctx: Context, change: ChangeRow, items: readonly ItemRow[]): Promise<ReadonlyMap<string, Planned>>;
  /** `keep` writes down what came of it: called in the transaction that does it, so that it is not done once more. */
  act(ctx: Context, actor: Actor, change: ChangeRow, item: ItemRow, keep: Keep): Promise<Done>;
  /** Absent: it cannot be undone. */
  undo?(ctx: Context, actor: Actor, change: ChangeRow, item: ItemRow): Promise<Done>;
}

const idsOf = (items: readonly ItemRow[]) => items.map(({ productId }) => productId);

/** What is thrown for a person to read is why a product is left as it is. */
async function orLeft(what: 'left' | 'kept', work: () => Promise<Done>): Promise<Done> {
  try {
    return await work();
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return { what, says: error.message };
  }
}

const documents = (scope: Scope): Kind => ({
  scope,
  look: (ctx, change, items) => lookAtDocuments(ctx, change, idsOf(items)),
  act: (ctx, actor, change, item, keep) =>
    orLeft('left', () => changeDocument(ctx, actor, change, item.productId, keep)),
  undo: (ctx, actor, change, item) => orLeft('kept', () => giveBackDocument(ctx, actor, change, item)),
});

const stillThere = async (ctx: Context, change: ChangeRow, items: readonly ItemRow[]) =>
  new Set((await productsById(ctx.db, change.workspaceId, idsOf(items))).map(({ id }) => id));

/** Products whose listings are in shops, with how many. */
async function listed(ctx: Context, change: ChangeRow, items: readonly ItemRow[]): Promise<Map<string, number>> {
  const counts = new Map<string, number>();
  for (const { productId, externalId } of await listingsOf(ctx.db, change.workspaceId, idsOf(items)))
    if (externalId) counts.set(productId, (counts.get(productId) ?? 0) + 1);
  return counts;
}

const shelving = (put: typeof archiveProduct, refusesListed: boolean): Kind => ({
  scope: 'design',
  async look(ctx, change, items) {
    const [there, inShops] = await Promise.all([stillThere(ctx, change, items), listed(ctx, change, items)]);
    return new Map(
      idsOf(items).map((id): [string, Planned] => {
        const n = inShops.get(id) ?? 0;
        if (!there.has(id)) return [id, { what: 'same', says: null }];
        if (n === 0) return [id, { what: 'change', says: null }];
        return refusesListed
          ? [
              id,
              {
                what: 'left',
                says: `It is still in a shop (${count(n, 'listing')}): delete that first, or archive it.`,
              },
            ]
          : [
              id,
              { what: 'change', says: `${count(n, 'listing')} ${n === 1 ? 'stays' : 'stay'} in shops as they are.` },
            ];
      }),
    );
  },
  act: (ctx, actor, _change, { productId }) =>
    orLeft('left', async () => {
      await put(ctx, actor, productId);
      return { what: 'done', says: null };
    }),
  undo: (ctx, actor, _change, { productId }) =>
    orLeft('kept', async () => {
      await restoreProduct(ctx, actor, productId);
      return { what: 'undone', says: null };
    }),
});

const duplicating: Kind = {
  scope: 'design',
  async look(ctx, change, items) {
    const actor = { workspaceId: change.workspaceId } as Actor;
    const planned = new Map<string, Planned>();
    for (const { productId } of items)
      planned.set(productId, await lookAtCopy(ctx, actor, productId, change.asked.blankId!));
    return planned;
  },
  act: (ctx, actor, { asked }, { productId }, keep) =>
    orLeft('left', async () => {
      const done = (made: string): Done => ({ what: 'done', says: null, made });
      const { product } = await copyProduct(ctx, actor, productId, { blankId: asked.blankId }, (db, madeId) =>
        keep(db, done(madeId)),
      );
      return done(product.id);
    }),
  undo: (ctx, actor, _change, item) =>
    orLeft('kept', async () => {
      await deleteProduct(ctx, actor, JSON.parse(item.made!) as string);
      return { what: 'undone', says: null };
    }),
};

async function lookAtCopy(ctx: Context, actor: Actor, productId: string, blankId: string): Promise<Planned> {
  try {
    const { notes } = await previewOnBlank(ctx, actor, productId, blankId);
    const others = notes.length > 1 ? ` (and ${notes.length - 1} more)` : '';
    return { what: 'change', says: notes[0] ? `${notes[0]}${others}` : null };
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return { what: 'left', says: error.message };
  }
}

/** Has the shops looked into: those of one store, or of all in which the product is. */
const checking: Kind = {
  scope: 'send',
  async look(ctx, change, items) {
    const inShops = await listed(ctx, change, items);
    return new Map(
      idsOf(items).map((id): [string, Planned] => {
        const n = inShops.get(id) ?? 0;
        return [
          id,
          n === 0 ? { what: 'same', says: 'It is in no shop.' } : { what: 'change', says: count(n, 'listing') },
        ];
      }),
    );
  },
  async act(ctx, _actor, { workspaceId }, { productId, storeId }) {
    const names = new Map((await listStores(ctx, workspaceId)).map(({ id, name }) => [id, name]));
    const rows = (await listingsOf(ctx.db, workspaceId, [productId])).filter(
      (row) => row.externalId && names.has(row.storeId) && ['', row.storeId].includes(storeId),
    );
    for (const row of rows) await requestCheck(ctx, row, names.get(row.storeId)!);
    return { what: rows.length > 0 ? 'done' : 'same', says: null };
  },
};

export const KINDS: { readonly [kind in ManyKind]: Kind } = {
  check: checking,
  'tag-add': documents('design'),
  'tag-remove': documents('design'),
  'price-rule': documents('price'),
  raise: documents('price'),
  ending: documents('price'),
  archive: shelving(archiveProduct, false),
  delete: shelving(deleteProduct, true),
  duplicate: duplicating,
};
