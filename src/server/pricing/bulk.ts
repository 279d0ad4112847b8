import { count } from '@/core/words/count';
import { andMore } from '@/core/words/and-more';
import type { ProductDocument } from '@/core/document/document';
import { diff } from '@/core/document/patch';
import { conflict, invalid, isTypicaError, notFound } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import type { EditCause } from '@/core/listing/shown-prices';
import { lossesAt } from '@/core/pricing/floor';
import type { Outlet } from '@/core/pricing/outlet';
import { pricer, type PricedVariant } from '@/core/pricing/pricer';
import { loadBlanks } from '../catalog/blanks';
import { note } from '../activity/note';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import type { ProductBundle } from '../products/bundle';
import { patchIn } from '../products/patch';
import { PRODUCT_COLUMNS, type Product } from '../products/products';
import { writeVariantRowsSoon } from '../products/variant-rows';

/** A product whose prices are to change. */
export interface BulkChange {
  readonly bundle: ProductBundle;
  readonly after: ProductDocument;
}

/** What changes of one product at one outlet. Sums in minor units of its currency. */
export interface BulkLine {
  readonly productId: string;
  readonly title: string;
  readonly storeId: string | null;
  readonly storeName: string;
  readonly currency: string;
  /** Variants whose price changes. */
  readonly variants: number;
  readonly before: readonly [least: number, most: number];
  readonly then: readonly [least: number, most: number];
  /** What the worst of them leaves. */
  readonly leftMinor: number;
  /** Variants that would lose money to a destination. */
  readonly losing: number;
}

export interface BulkView {
  readonly products: number;
  readonly losing: number;
  /** The first 500 lines. */
  readonly lines: readonly BulkLine[];
}

/** Products whose prices can be changed in one step: all of it is one transaction. */
export const MAX_CHANGED = 1000;
const MAX_LINES = 500;

/** Prices of a product's variants at an outlet; what cannot be priced is left out. */
export function allPriced({ blank, list, rates, settings, home }: ProductBundle, doc: ProductDocument, outlet: Outlet) {
  const priced = new Map<string, PricedVariant>();
  try {
    const price = pricer(doc, { blank, list, rates, outlet, settings, home });
    for (const key of Object.keys(doc.variants))
      try {
        priced.set(key, price(key));
      } catch (error) {
        if (!isTypicaError(error) || !error.visible) throw error;
      }
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
  }
  return priced;
}

const span = (prices: readonly number[]) => [Math.min(...prices), Math.max(...prices)] as const;

function lineOf({ bundle, after }: BulkChange, outlet: Outlet): BulkLine | null {
  const { product } = bundle;
  const before = allPriced(bundle, product.document, outlet);
  const now = [...allPriced(bundle, after, outlet).values()].filter(
    ({ key, retailMinor }) => before.get(key)?.retailMinor !== retailMinor,
  );
  if (now.length === 0) return null;
  const was = now.flatMap(({ key }) => before.get(key)?.retailMinor ?? []);
  return {
    productId: product.id,
    title: product.title,
    storeId: outlet.id,
    storeName: outlet.name,
    currency: outlet.currency,
    variants: now.length,
    before: was.length > 0 ? span(was) : [0, 0],
    then: span(now.map(({ retailMinor }) => retailMinor)),
    leftMinor: Math.min(...now.map(({ quote }) => quote.profitMinor)),
    losing: now.filter(({ to, retailMinor }) => lossesAt(to, retailMinor).length > 0).length,
  };
}

/** What changes would do, outlet by outlet; nothing is written. */
export function viewBulk(
  changes: readonly BulkChange[],
  outletsOf: (bundle: ProductBundle) => readonly Outlet[],
): BulkView {
  const lines = changes.flatMap((change) => outletsOf(change.bundle).flatMap((outlet) => lineOf(change, outlet) ?? []));
  return {
    products: changes.length,
    losing: lines.reduce((sum, line) => sum + line.losing, 0),
    lines: lines.slice(0, MAX_LINES),
  };
}

/**
 * Changes the prices of many products in one transaction: all of them, or none. Gives the id by which the step is undone. Throws `bulk-empty`,
 * `bulk-too-many`, and what a patch throws where somebody changed the same meanwhile.
 */
export async function applyBulk(
  ctx: Context,
  actor: Actor,
  changes: readonly BulkChange[],
  label: string,
  cause: EditCause,
): Promise<{ batchId: string; products: number }> {
  if (changes.length === 0) throw invalid('bulk-empty', 'Nothing was changed: no price would be another one.');
  if (changes.length > MAX_CHANGED)
    throw invalid(
      'bulk-too-many',
      `Nothing was changed: this changes ${changes.length} products, and ${MAX_CHANGED} can be changed in one step. Do it in parts.`,
    );
  const batchId = newId('b');
  const ordered = changes.toSorted((a, b) => (a.bundle.product.id < b.bundle.product.id ? -1 : 1));
  await ctx.pools.transaction(async (db) => {
    await db.run('INSERT INTO price_batch (id, workspace_id, label, products, person_id) VALUES (?, ?, ?, ?, ?)', [
      batchId,
      actor.workspaceId,
      label.slice(0, 120),
      changes.length,
      actor.personId,
    ]);
    for (const { bundle, after } of ordered) {
      const { product, blank } = bundle;
      const operations = diff(product.document, after);
      await patchIn(db, actor, { id: product.id, blank }, product.revision, operations, { label, cause });
      await db.run('INSERT INTO price_batch_product (batch_id, product_id, was, now) VALUES (?, ?, ?, ?)', [
        batchId,
        product.id,
        JSON.stringify(product.document.price),
        JSON.stringify(after.price),
      ]);
    }
    const says = `Changed prices of ${count(changes.length, 'product')}: ${label}.`;
    await note(db, actor, { about: 'prices', what: 'changed', says });
    await emit(db, actor.workspaceId, 'money', {});
  });
  for (const { bundle } of ordered) await writeVariantRowsSoon(ctx, bundle.product.id);
  return { batchId, products: changes.length };
}

export interface BatchRow {
  readonly id: string;
  readonly label: string;
  readonly products: number;
  readonly by: string;
  readonly madeAt: Date;
  readonly undoneAt: Date | null;
}

const MAX_TOLD = 100;

export const listBatches = (ctx: Context, workspaceId: string): Promise<BatchRow[]> =>
  ctx.db.rows<BatchRow>(
    `SELECT b.id, b.label, b.products, p.name AS \`by\`, b.made_at AS madeAt, b.undone_at AS undoneAt FROM price_batch b JOIN person p ON p.id = b.person_id
     WHERE b.workspace_id = ? ORDER BY b.made_at DESC, b.id LIMIT ?`,
    [workspaceId, MAX_TOLD],
  );

/**
 * Takes such a step back, all of it or nothing: where a price was changed since, nothing is. Repeating it is harmless. Throws `bulk-changed-since`
 * with the products.
 */
export async function undoBulk(ctx: Context, actor: Actor, batchId: string): Promise<void> {
  const rows = await ctx.db.rows<{ productId: string; blankId: string; was: string; now: string }>(
    `SELECT c.product_id AS productId, p.blank_id AS blankId, c.was, c.now FROM price_batch_product c
     JOIN price_batch b ON b.id = c.batch_id JOIN product p ON p.id = c.product_id WHERE b.id = ? AND b.workspace_id = ? ORDER BY c.product_id`,
    [batchId, actor.workspaceId],
  );
  const blanks = new Map(
    (await loadBlanks(ctx, [...new Set(rows.map(({ blankId }) => blankId))])).map((blank) => [blank.id, blank]),
  );
  const found = await ctx.db.row('SELECT id FROM price_batch WHERE id = ? AND workspace_id = ?', [
    batchId,
    actor.workspaceId,
  ]);
  if (!found) throw notFound('change of prices', batchId);
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      'UPDATE price_batch SET undone_at = UTC_TIMESTAMP(3) WHERE id = ? AND undone_at IS NULL',
      [batchId],
    );
    if (affectedRows === 0) return;
    const changed: string[] = [];
    for (const { productId, blankId, was, now } of rows) {
      const product = await db.row<Product>(
        `SELECT ${PRODUCT_COLUMNS} FROM product WHERE id = ? AND archived_at IS NULL FOR UPDATE`,
        [productId],
      );
      if (!product) continue;
      if (!sameJson(product.document.price, JSON.parse(now))) {
        changed.push(product.title);
        continue;
      }
      const before = { ...product.document, price: JSON.parse(was) as ProductDocument['price'] };
      await patchIn(
        db,
        actor,
        { id: productId, blank: blanks.get(blankId)! },
        product.revision,
        diff(product.document, before),
        {
          label: 'Undo prices of many',
        },
      );
    }
    if (changed.length > 0)
      throw conflict('bulk-changed-since', `Nothing was undone: prices of ${andMore(changed, 3)} were changed since.`, {
        products: changed.slice(0, 100),
      });
    await note(db, actor, { about: 'prices', what: 'undone', says: 'Undid a change of many prices.' });
    await emit(db, actor.workspaceId, 'money', {});
  });
  for (const { productId } of rows) await writeVariantRowsSoon(ctx, productId);
}
