import { notFound } from '@/core/errors';
import { diff } from '@/core/document/patch';
import { money } from '@/core/pricing/money';
import { brokenRules } from '@/core/rules/evaluate';
import type { HoldsWhere } from '@/core/document/own-words';
import type { Fix } from '@/core/rules/fix';
import { firstOfEach, fixesFor } from '@/core/rules/fixes';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { loadBundle, type ProductBundle } from '../products/bundle';
import { patchProduct } from '../products/patch';
import { demandsOf, type Store } from '../stores/stores';
import { listingsOf, prepareListed } from './listings';

/** A fix as it is looked at before it is taken. */
export type FixView = Omit<Fix, 'apply'>;

const viewOf = ({ apply: _, ...view }: Fix): FixView => view;

/** Ways to keep what a product breaks in a listing of a store. */
async function find(ctx: Context, bundle: ProductBundle, store: Store, number: number): Promise<Fix[]> {
  const { product, rates } = bundle;
  const rows = await listingsOf(ctx.db, product.workspaceId, [product.id]);
  const row = rows.find((one) => one.storeId === store.id && one.number === number);
  const broken = brokenRules(prepareListed(ctx, bundle, store, row, number).rules).map(({ id }) => id);
  if (broken.length === 0) return [];
  return fixesFor(
    {
      doc: product.document,
      blank: bundle.blank,
      storeId: store.id,
      number,
      demands: demandsOf(ctx, store),
      shades: store.settings.answers?.shades,
      shopName: store.shopName,
      sizesIn: store.settings.sizesIn,
      currency: store.currency,
      sumHere: ({ minor, currency }) =>
        currency === null || currency === store.currency
          ? minor
          : rates.convert(money(minor, currency), store.currency).amountMinor,
    },
    broken,
  );
}

export async function listFixes(ctx: Context, bundle: ProductBundle, store: Store, number: number): Promise<FixView[]> {
  return (await find(ctx, bundle, store, number)).map(viewOf);
}

/** Which fixes are taken, and where they hold. */
interface FixChoice {
  readonly rules?: readonly string[];
  readonly ids?: readonly string[];
  readonly where: HoldsWhere;
  /** Which of the product's listings in the store. */
  readonly number: number;
}

/**
 * Takes fixes in one revision that can be undone: for the store alone, or for all that follows the product. Those that are named, else the first
 * for each of these rules, else the first for each rule. Throws `not-found` where there is none.
 */
export async function takeFixes(
  ctx: Context,
  actor: Actor,
  productId: string,
  store: Store,
  { rules, ids, where, number }: FixChoice,
): Promise<{ revision: number; fixes: FixView[] }> {
  const bundle = await loadBundle(ctx, actor.workspaceId, productId);
  const found = await find(ctx, bundle, store, number);
  const fixes = ids
    ? found.filter(({ id }) => ids.includes(id))
    : firstOfEach(found.filter((fix) => !rules || fix.rules.some((rule) => rules.includes(rule))));
  if (fixes.length === 0) throw notFound('fix for what is broken there', (ids ?? rules)?.join(', ') ?? 'any rule');
  const { document, revision } = bundle.product;
  const fixed = fixes.reduce((now, fix) => fix.apply(now, where), document);
  const label = where === 'store' ? `Fixed for ${store.name}` : `Fixed for all stores, as ${store.name} wants it`;
  const result = await patchProduct(ctx, actor, productId, revision, diff(document, fixed), { label });
  return { revision: result.revision, fixes: fixes.map(viewOf) };
}
