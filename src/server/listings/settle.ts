import { diff } from '@/core/document/patch';
import type { ProductDocument } from '@/core/document/document';
import type { HoldsWhere } from '@/core/document/own-words';
import { invalid, isTypicaError, TypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import { formHash, formJson } from '@/core/listing/form-text';
import type { PicturePlan } from '@/core/listing/pictures';
import { CHANGED_KINDS, kindOfField } from '@/core/sync/changed';
import { compare, merge, type Choice, type Difference } from '@/core/sync/merge';
import { takeInto, withFollowers, type NotTaken } from '@/core/sync/take';
import { formOf, treeOf } from '@/core/sync/tree';
import { count } from '@/core/words/count';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import type { ProductBundle } from '../products/bundle';
import { patchIn, refuseFaults } from '../products/patch';
import { writeVariantRowsSoon } from '../products/variant-rows';
import type { Store } from '../stores/stores';
import { isOpen, prepareListed, recordHistory, type ListingRow } from './listings';

/** How one field is settled: by its JSON pointer; null: it stays as it is. */
export type Settles = (difference: Difference) => Exclude<Choice, 'ask'> | null;

/** How a listing's differences are settled. */
export interface Settlement {
  readonly settles: Settles;
  /** Where it holds in the product what is taken or written. */
  readonly where: HoldsWhere;
  /** What the shop shows, as whoever settles has seen it. */
  readonly thereHash: string;
  /** In whose words the log tells of it, such as "by the store’s rules". */
  readonly how?: string;
}

export interface Settled {
  /** Of the product, afterwards. */
  readonly revision: number;
  readonly fields: readonly string[];
}

/** What both sides agreed on, what is here and what is there. */
interface Sides {
  readonly agreed: ListingForm;
  readonly here: ListingForm;
  readonly there: ListingForm;
}

const treesOf = ({ agreed, here, there }: Sides) => ({
  agreed: treeOf(agreed),
  here: treeOf(here),
  there: treeOf(there),
});

/** What differs of a listing between the three; nothing where it has not been in the shop yet, or cannot be made here. */
export function differencesOf(row: ListingRow, here: ListingForm | null): readonly Difference[] {
  const sides = sidesOf(row, here);
  return sides ? compare(treesOf(sides)) : [];
}

function sidesOf(row: ListingRow, here: ListingForm | null): Sides | null {
  if (!row.agreedForm || !here) return null;
  const agreed = JSON.parse(row.agreedForm) as ListingForm;
  return { agreed, here, there: row.thereForm ? (JSON.parse(row.thereForm) as ListingForm) : agreed };
}

const pictureOf = ({
  id,
  key,
  shotId,
  color,
  photograph,
}: PicturePlan & { readonly photograph?: { readonly id: string } }) => ({
  id,
  key,
  shotId,
  color,
  imageId: photograph?.id ?? null,
});

const movedOn = () =>
  new TypicaError(
    'conflict',
    'listing-moved-on',
    'The listing was changed again meanwhile, here or in the shop. Nothing was settled: look at what differs now.',
  );

/** A value that somebody wrote has to be of the kind that the field is of. */
function refuseValue({ field, here, there }: Difference, value: unknown): void {
  const kinds = new Set([typeof here, typeof there]);
  const fits = typeof value === 'string' ? kinds.has('string') : Number.isSafeInteger(value) && kinds.has('number');
  if (fits) return;
  throw invalid(
    'settle-value',
    `${field} cannot be ${JSON.stringify(value)}: it is a text, or a whole number, as it is now.`,
  );
}

const refuseNotTaken = (store: Store, notTaken: readonly NotTaken[]): void => {
  const [first] = notTaken;
  if (!first) return;
  throw new TypicaError(
    'invalid',
    'not-takable',
    `The product cannot take ${first.field} from ${store.name}: ${first.why} Nothing was settled. Keep ours there: the next send puts it back.`,
    { fields: notTaken },
  );
};

/** What comes of settling, before anything is written. */
interface Decided {
  /** What both sides agree on afterwards. */
  readonly agreed: ListingForm;
  /** The product with what is taken or rewritten. */
  readonly doc: ProductDocument;
  readonly chosen: ReadonlyMap<string, Exclude<Choice, 'ask'>>;
}

function decide(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
  { settles, where, thereHash }: Settlement,
): Decided {
  const { product } = bundle;
  const prepared = prepareListed(ctx, bundle, store, row);
  const sides = sidesOf(row, prepared.form);
  if (!sides)
    throw invalid(
      'nothing-differs',
      'There is nothing to settle: the listing is not in the shop yet, or cannot be made here.',
    );
  if (row.thereHash !== thereHash) throw movedOn();
  const chosen = new Map<string, Exclude<Choice, 'ask'>>();
  const merged = merge(treesOf(sides), (difference) => {
    const choice = settles(difference);
    if (choice === null) return 'ask';
    if (typeof choice === 'object') refuseValue(difference, choice.value);
    chosen.set(difference.field, choice);
    return choice;
  });
  if (chosen.size === 0) throw invalid('nothing-differs', 'None of these fields differs between here and the shop.');
  const world = {
    blank: bundle.blank,
    storeId: store.id,
    number: row.number,
    pictures: prepared.pictures.map(pictureOf),
  };
  const both = formOf(merged.here);
  const wanted = where === 'store' ? withFollowers(product.document, world, both, sides.there, chosen) : both;
  const { doc, notTaken } = takeInto(product.document, world, sides.here, wanted, where);
  refuseNotTaken(store, notTaken);
  // Before anything is made of it: what was written can be of any length.
  refuseFaults(doc);
  const taken = { ...bundle, product: { ...product, document: doc } };
  if (doc !== product.document) refuseUnlike(ctx, taken, store, row, wanted, chosen);
  return { agreed: formOf(merged.agreed), doc, chosen };
}

/**
 * Settles fields of a listing in which here and the shop differ. What is kept of ours is known to differ from what is there: the next send writes it over
 * that. What is taken of theirs, or rewritten, changes the product, for that store alone or for all, in one revision that can be undone; both are written
 * together, or neither. Throws `listing-moved-on` where the shop shows something else than `thereHash`, `listing-busy`, `nothing-differs`, `not-takable` with
 * each field and why, `settle-value`, `document-invalid`.
 */
export async function settle(
  ctx: Context,
  actor: Actor,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
  settlement: Settlement,
): Promise<Settled> {
  const { product, blank } = bundle;
  if (isOpen(row.jobState))
    throw new TypicaError('conflict', 'listing-busy', 'It is on its way just now; wait until it is there, or stop it.');
  const { agreed, doc, chosen } = decide(ctx, bundle, store, row, settlement);
  const fields = [...chosen.keys()];
  const changes = diff(product.document, doc);
  const revision = await ctx.pools.transaction(async (db) => {
    await keepAgreed(db, actor, row, agreed, { fields, says: saysOf(chosen, settlement) });
    if (changes.length === 0) return product.revision;
    const label = `Taken from ${store.name}`;
    return (await patchIn(db, actor, { id: product.id, blank }, product.revision, changes, { label })).revision;
  });
  if (revision !== product.revision) await writeVariantRowsSoon(ctx, product.id);
  return { revision, fields };
}

/** What was settled where all of theirs was asked for, and what the product cannot take of it, which stays as it is. */
export interface SettledAll extends Settled {
  readonly left: readonly NotTaken[];
}

/**
 * Settles all that was changed in the shop alike. Where all of theirs is taken, what the product cannot take is left with its reason. Throws what `settle`
 * throws, and `not-takable` where nothing of it can be taken.
 */
export async function settleAll(
  ctx: Context,
  actor: Actor,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
  { hold, ...settlement }: Omit<Settlement, 'settles'> & { readonly hold: 'ours' | 'theirs' },
): Promise<SettledAll> {
  const left = new Map<string, NotTaken>();
  for (;;)
    try {
      const settles: Settles = ({ field, change }) => (change === 'here' || left.has(field) ? null : hold);
      const settled = await settle(ctx, actor, bundle, store, row, { ...settlement, settles });
      return { ...settled, left: [...left.values()] };
    } catch (error) {
      if (isTypicaError(error, 'nothing-differs') && left.size > 0) refuseNotTaken(store, [...left.values()]);
      if (!isTypicaError(error, 'not-takable')) throw error;
      const before = left.size;
      for (const one of error.fields.fields as readonly NotTaken[]) left.set(one.field, one);
      // Each round leaves a field more, or there is no use in another.
      if (left.size === before) throw error;
    }
}

/** A sale, the ends of prices or a limit can stand between what was taken and what the listing says then. */
function refuseUnlike(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
  wanted: ListingForm,
  chosen: ReadonlyMap<string, unknown>,
): void {
  const { form } = prepareListed(ctx, bundle, store, row);
  const says = form
    ? new Map(
        compare({ agreed: treeOf(wanted), here: treeOf(form), there: treeOf(wanted) }).map((one) => [one.field, one]),
      )
    : null;
  const unlike = [...chosen.keys()].flatMap((field): NotTaken[] =>
    says === null || says.has(field)
      ? [
          {
            field,
            why: 'Typica would still say something else there: a sale, the ends of prices, or another part of the product decides it.',
          },
        ]
      : [],
  );
  refuseNotTaken(store, unlike);
}

function saysOf(chosen: Decided['chosen'], { where, how = '' }: Settlement): string {
  const choices = [...chosen.values()];
  const [ours, theirs] = [
    choices.filter((one) => one === 'ours').length,
    choices.filter((one) => one === 'theirs').length,
  ];
  const written = choices.length - ours - theirs;
  const for_ = where === 'everywhere' ? 'for all stores' : 'for this store';
  const parts = [
    ...(ours > 0 ? [`${count(ours, 'field')} kept as here`] : []),
    ...(theirs > 0 ? [`${count(theirs, 'field')} taken from the shop ${for_}`] : []),
    ...(written > 0 ? [`${count(written, 'field')} rewritten ${for_}`] : []),
  ];
  return `Settled${how && ` ${how}`}: ${parts.join(', ')}.`;
}

/** Writes down what both sides agree on now, where nothing else was written in between. */
async function keepAgreed(
  db: Database,
  actor: Actor,
  row: ListingRow,
  agreed: ListingForm,
  { fields, says }: { readonly fields: readonly string[]; readonly says: string },
): Promise<void> {
  const kinds = new Set(fields.map(kindOfField));
  const { affectedRows } = await db.run(
    'UPDATE listing SET agreed_form = ?, agreed_hash = ? WHERE id = ? AND agreed_hash <=> ? AND there_hash <=> ? AND external_id <=> ?',
    [formJson(agreed), formHash(agreed), row.id, row.agreedHash, row.thereHash, row.externalId],
  );
  if (affectedRows === 0) throw movedOn();
  await recordHistory(db, row, 'settled', says, {
    by: actor.personName,
    fields: CHANGED_KINDS.filter((kind) => kinds.has(kind)),
  });
  await emit(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
}

/**
 * Leaves a listing on sale, or off sale, as somebody put it in the shop: that is how it is to stand from now on. `seen`: how it stood there when that was
 * decided. Throws `listing-moved-on`.
 */
export async function leaveAsThere(ctx: Context, actor: Actor, row: ListingRow, seen: 'draft' | 'live'): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      'UPDATE listing SET wanted_visibility = visibility WHERE id = ? AND external_id IS NOT NULL AND visibility = ?',
      [row.id, seen],
    );
    if (affectedRows === 0) throw movedOn();
    const says = `Settled: it stays ${seen === 'live' ? 'on sale' : 'off sale'}, as in the shop.`;
    await recordHistory(db, row, 'settled', says, { by: actor.personName });
    await emit(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
  });
}
