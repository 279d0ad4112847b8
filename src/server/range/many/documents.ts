import type { ProductDocument } from '@/core/document/document';
import { diff } from '@/core/document/patch';
import { notFound, TypicaError } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import { PRICE_KINDS, raised, withEnding, withoutTag, type PricedAt } from '@/core/range-changes';
import { baseOutlet, type Outlet } from '@/core/pricing/outlet';
import { roundingFor } from '@/core/pricing/plan';
import { withRule } from '@/core/pricing/rule';
import { withTags } from '@/core/words/tags';
import type { Context } from '../../context';
import { newId } from '../../db/ids';
import type { Database } from '../../db/pool';
import type { Actor } from '../../people/people';
import { allPriced, viewBulk, type BulkLine } from '../../pricing/bulk';
import { listRules } from '../../pricing/rules';
import { loadBundles, type ProductBundle } from '../../products/bundle';
import { patchIn } from '../../products/patch';
import { productsById } from '../../products/products';
import { writeVariantRowsSoon } from '../../products/variant-rows';
import { listStores, outletOf } from '../../stores/stores';
import type { ChangeRow, Done, ItemRow, Keep, Planned } from './change-row';

/** Changes of documents: each is a revision of its product like any other, and undone by giving back the part that it changed. */

type Change = (bundle: ProductBundle, outlets: readonly Outlet[]) => ProductDocument;

const pricesAt = (bundle: ProductBundle, outlet: Outlet): PricedAt => ({
  storeId: outlet.id,
  currency: outlet.currency,
  rounding: roundingFor(bundle.product.document, { ...bundle, outlet }),
  prices: new Map(
    [...allPriced(bundle, bundle.product.document, outlet)].map(([key, { retailMinor }]) => [key, retailMinor]),
  ),
});

/** What a change makes of a product. Throws `not-found` for a rule that is gone. */
async function changeOf(ctx: Context, { workspaceId, kind, asked }: ChangeRow): Promise<Change> {
  switch (kind) {
    case 'tag-add':
      return ({ product: { document } }) => {
        const { base } = document.words;
        const tags = withTags(base.tags, asked.tag!, () => newId('t'));
        return { ...document, words: { ...document.words, base: { ...base, tags } } };
      };
    case 'tag-remove':
      return ({ product }) => withoutTag(product.document, asked.tag!);
    case 'price-rule': {
      const rule = (await listRules(ctx, workspaceId)).find(({ id }) => id === asked.ruleId);
      if (!rule) throw notFound('price rule', asked.ruleId!);
      return ({ product }) => withRule(product.document, rule.rule);
    }
    case 'ending':
      return ({ product }) => withEnding(product.document, asked.ending!, asked.way ?? 'up');
    case 'raise':
      return (bundle, outlets) =>
        raised(
          bundle.product.document,
          asked.ppm!,
          outlets.map((outlet) => pricesAt(bundle, outlet)),
        );
    default:
      throw new TypicaError('bug', 'change-kind', `No document is changed by ${kind}.`);
  }
}

async function outletsFor(ctx: Context, workspaceId: string): Promise<(bundle: ProductBundle) => readonly Outlet[]> {
  const stores = (await listStores(ctx, workspaceId)).map((store) => outletOf(ctx, store));
  return ({ product, home, settings }) => [baseOutlet(product.document.price.currency, home, settings), ...stores];
}

/** The part of a document that a kind changes. */
const partOf = (kind: ChangeRow['kind'], document: ProductDocument): unknown =>
  PRICE_KINDS.has(kind) ? document.price : document.words.base.tags;

const withPart = (kind: ChangeRow['kind'], document: ProductDocument, part: unknown): ProductDocument =>
  PRICE_KINDS.has(kind)
    ? { ...document, price: part as ProductDocument['price'] }
    : {
        ...document,
        words: {
          ...document.words,
          base: { ...document.words.base, tags: part as ProductDocument['words']['base']['tags'] },
        },
      };

/** Lines of one product that are kept. */
const MAX_LINES = 8;

/** What a change would make of products. */
export async function lookAtDocuments(
  ctx: Context,
  change: ChangeRow,
  productIds: readonly string[],
): Promise<ReadonlyMap<string, Planned>> {
  const [make, outletsOf] = await Promise.all([changeOf(ctx, change), outletsFor(ctx, change.workspaceId)]);
  const bundles = await loadBundles(
    ctx,
    change.workspaceId,
    await productsById(ctx.db, change.workspaceId, productIds),
  );
  return new Map(
    bundles.map((bundle): [string, Planned] => {
      const after = make(bundle, outletsOf(bundle));
      if (sameJson(partOf(change.kind, after), partOf(change.kind, bundle.product.document)))
        return [bundle.product.id, { what: 'same', says: null }];
      const prices: readonly BulkLine[] = PRICE_KINDS.has(change.kind)
        ? viewBulk([{ bundle, after }], outletsOf).lines.slice(0, MAX_LINES)
        : [];
      return [bundle.product.id, { what: 'change', says: null, prices }];
    }),
  );
}

/** Changes one product as it is now, in a revision of its own. */
export async function changeDocument(
  ctx: Context,
  actor: Actor,
  change: ChangeRow,
  productId: string,
  keep: Keep,
): Promise<Done> {
  const [make, outletsOf] = await Promise.all([changeOf(ctx, change), outletsFor(ctx, change.workspaceId)]);
  const [bundle] = await loadBundles(
    ctx,
    change.workspaceId,
    await productsById(ctx.db, change.workspaceId, [productId]),
  );
  if (!bundle) return { what: 'left', says: 'It is no longer in the range.' };
  const { document } = bundle.product;
  const after = make(bundle, outletsOf(bundle));
  const [was, made] = [partOf(change.kind, document), partOf(change.kind, after)];
  if (sameJson(was, made)) return { what: 'same', says: 'It was so already.' };
  const done: Done = { what: 'done', says: null, was, made };
  await patch(ctx, actor, bundle, after, change.title, (db) => keep(db, done));
  return done;
}

async function patch(
  ctx: Context,
  actor: Actor,
  { product, blank }: ProductBundle,
  after: ProductDocument,
  label: string,
  also: (db: Database) => Promise<void> = async () => {},
) {
  const operations = diff(product.document, after);
  await ctx.pools.transaction(async (db) => {
    await patchIn(db, actor, { id: product.id, blank }, product.revision, operations, { label: label.slice(0, 120) });
    await also(db);
  });
  await writeVariantRowsSoon(ctx, product.id);
}

/** Gives a product back what it had before, unless that was changed since. */
export async function giveBackDocument(ctx: Context, actor: Actor, change: ChangeRow, item: ItemRow): Promise<Done> {
  const [bundle] = await loadBundles(
    ctx,
    change.workspaceId,
    await productsById(ctx.db, change.workspaceId, [item.productId]),
  );
  if (!bundle) return { what: 'kept', says: 'It is no longer in the range.' };
  const { document } = bundle.product;
  if (!sameJson(partOf(change.kind, document), JSON.parse(item.made!)))
    return { what: 'kept', says: 'It was changed since, and stays as it is.' };
  const before = withPart(change.kind, document, JSON.parse(item.was!));
  await patch(ctx, actor, bundle, before, `Undo: ${change.title}`);
  return { what: 'undone', says: null };
}
