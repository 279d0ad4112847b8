import { generateKeyBetween } from 'fractional-indexing';
import { sha256Hex } from '../canonical/canonical';
import { colorOption, parseVariantKey, type Blank } from '../catalog/blank';
import { wordsFor, type Picture, type ProductDocument, type Tag, type Words } from '../document/document';
import { leaveOut, leftOutOf, setOffered } from '../document/offered';
import { nameColors } from '../document/own-shades';
import { setWords, type HoldsWhere } from '../document/own-words';
import { asListed } from '../document/split';
import { parsePointer } from '../document/pointer';
import type { ListingForm } from '../listing/form';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import { splitBundled } from '../pricing/bundle';
import { setAims } from '../pricing/fixing';
import { compare, type Choice, type Difference } from './merge';
import { followingWords } from '../listing/form-words';
import { treeOf } from './tree';

/** A picture that the listing has here, under the key of its form: a shot on a color, or a photograph of the seller's own. */
export interface TakePicture {
  readonly key: string;
  /** In the product, where it was chosen there. */
  readonly id: string;
  readonly shotId: string | null;
  readonly color: string | null;
  readonly imageId: string | null;
}

/** What is to be known of a product to take into it what a shop shows. */
export interface TakeWorld {
  readonly blank: Blank;
  readonly storeId: string;
  /** Of the product's listings in the store. */
  readonly number: number;
  readonly pictures: readonly TakePicture[];
}

/** A field that a product cannot take, and why. */
export interface NotTaken {
  readonly field: string;
  readonly why: string;
}

export interface Taken {
  readonly doc: ProductDocument;
  readonly notTaken: readonly NotTaken[];
}

const WHY: { readonly [field: string]: string } = {
  options: 'Options and their values are called as the blank calls them.',
  shipping: 'Shipping follows from the shipping profiles under Money.',
  partner: 'Who makes it follows from the blank.',
  category: 'The category is an answer in the store’s settings.',
  attributes: 'What the category asks is answered in the store’s settings.',
  terms: 'What the shop asks of every listing is answered in the store’s settings.',
  collections: 'Collections follow from the tags, by the store’s settings.',
  currency: 'The currency is the store’s.',
};
const WHY_OF_VARIANT: { readonly [field: string]: string } = {
  sku: 'A SKU that a shop has seen stays: orders are told apart by it.',
  inStock: 'Whether it can be had is the print partner’s to say.',
  compareAtMinor: 'The price to compare with follows from a sale.',
  pictureKey: 'A variant shows a picture of its own color.',
  grams: 'The weight is the blank’s.',
};
const ONLY_FOR_ALL = 'It is the same in all stores: it can be taken for all of them.';
const UNKNOWN_PICTURE =
  'Typica does not have this picture: save it from the shop, put it in as a photograph of your own, and choose it.';
const UNKNOWN_VARIANT =
  'The product does not have this variant: choose it in the part Variants, where there is one like it.';
const NOT_A_NUMBER = 'A price is a whole number of minor units above 0.';

const WORDS = new Set(['title', 'description', 'tags', 'highlights', 'pageAddress', 'seo']);

interface Parted extends Difference {
  readonly parts: readonly string[];
}

const colorOf = (blank: Blank, variantKey: string): string | null =>
  ownEntry(parseVariantKey(variantKey), colorOption(blank)?.code) ?? null;

/** Why a product cannot take a field as it is to be; null where it can. */
function whyNot(
  { parts, here, there }: Parted,
  doc: ProductDocument,
  { blank, storeId, pictures }: TakeWorld,
  where: HoldsWhere,
  currency: string,
): string | null {
  const [first, name, own] = parts;
  if (first === 'variants') {
    const { variantKey, bundleId } = splitBundled(name!);
    if (own === undefined) {
      if (there === undefined) return bundleId === null ? null : 'A bundle is sold with each variant, or with none.';
      return leftOutOf(doc, storeId).includes(variantKey) && bundleId === null ? null : UNKNOWN_VARIANT;
    }
    if (own === 'priceMinor') {
      if (bundleId !== null) return 'The price of a bundle follows from what is in it.';
      if (where === 'everywhere' && doc.price.currency !== currency)
        return `The prices for all stores are in ${doc.price.currency}: one in ${currency} can be taken for this store alone.`;
      return Number.isSafeInteger(there) && (there as number) > 0 ? null : NOT_A_NUMBER;
    }
    if (
      own === 'pictureKey' &&
      pictures.some(({ key, color }) => key === there && color === colorOf(blank, variantKey))
    )
      return null;
    if (own === 'gtin') return where === 'everywhere' ? null : ONLY_FOR_ALL;
    return own === 'shade' ? null : (ownEntry(WHY_OF_VARIANT, own) ?? 'It follows from the blank.');
  }
  if (first === 'pictures')
    return name !== undefined && own === undefined && here === undefined ? UNKNOWN_PICTURE : null;
  if (first === 'pageAddress' || first === 'seo') return there ? null : 'The shop keeps none.';
  return WORDS.has(first!) ? null : (ownEntry(WHY, first!) ?? 'It does not follow from the product.');
}

/** So many order keys, one after the other. */
function orders(count: number): string[] {
  const keys: string[] = [];
  for (let i = 0; i < count; i += 1) keys.push(generateKeyBetween(keys.at(-1) ?? null, null));
  return keys;
}

type Texts = { readonly [id: string]: Tag };

/** These texts in this order: what was there keeps its id, what is new gets one that is made of it, the same for everybody. */
function textsTo(before: Texts, texts: readonly string[]): Texts {
  const ids = new Map(inOrder(before).map(([id, { text }]) => [text.trim(), id]));
  const keys = orders(texts.length);
  return Object.fromEntries(
    texts.map((text, i) => [ids.get(text) ?? `t${sha256Hex(text).slice(0, 12)}`, { text, order: keys[i]! }]),
  );
}

/** What follows from title and description, and is to stay as it is in this store when they change. */
function pinned(now: Words, { title, description, pageAddress, seo }: ListingForm): Partial<Words> {
  const follows = followingWords({ ...now, title, description });
  return {
    ...(pageAddress !== null && pageAddress !== follows.pageAddress ? { pageAddress } : {}),
    ...(seo !== null && seo.title !== follows.seo.title ? { seoTitle: seo.title } : {}),
    ...(seo !== null && seo.description !== follows.seo.description ? { seoDescription: seo.description } : {}),
  };
}

/**
 * A form that is wanted, with what follows from title and description, where the seller has written none: of what is taken from the shop it is the
 * shop's too (its page address stays), of what is written anew it follows that.
 */
export function withFollowers(
  doc: ProductDocument,
  { storeId, number }: Pick<TakeWorld, 'storeId' | 'number'>,
  wanted: ListingForm,
  there: ListingForm,
  choices: ReadonlyMap<string, Choice>,
): ListingForm {
  const now = wordsFor(asListed(doc, storeId, number), storeId);
  const follows = followingWords(wanted);
  /** Null: it is not for us to say. */
  const from = (field: 'title' | 'description', own: string | undefined, is: string) => {
    const choice = choices.get(`/${field}`);
    if (choice === undefined || choice === 'ours' || own?.trim() || choices.has(is)) return null;
    return choice === 'theirs' ? there : follows;
  };
  const seo = wanted.seo && {
    title: from('title', now.seoTitle, '/seo')?.seo?.title ?? wanted.seo.title,
    description: from('description', now.seoDescription, '/seo')?.seo?.description ?? wanted.seo.description,
  };
  const pageAddress =
    wanted.pageAddress && (from('title', now.pageAddress, '/pageAddress')?.pageAddress ?? wanted.pageAddress);
  return { ...wanted, pageAddress, seo };
}

/** The words that make the listing say what it is to say, of the fields that differ. */
function wordsTo(
  doc: ProductDocument,
  { storeId, number }: TakeWorld,
  here: ListingForm,
  wanted: ListingForm,
  fields: ReadonlySet<string>,
  where: HoldsWhere,
): Partial<Words> {
  if (![...fields].some((field) => WORDS.has(field))) return {};
  const now = wordsFor(asListed(doc, storeId, number), storeId);
  // Sizes stand under the description where the store tells them: they are not the seller's words.
  const own = now.description.trim();
  const sizes = here.description.startsWith(own) ? here.description.slice(own.length) : '';
  const description =
    sizes && wanted.description.endsWith(sizes) ? wanted.description.slice(0, -sizes.length) : wanted.description;
  return {
    ...(where === 'store' ? pinned(now, { ...wanted, description }) : {}),
    ...(fields.has('title') ? { title: wanted.title } : {}),
    ...(fields.has('description') ? { description } : {}),
    ...(fields.has('tags') ? { tags: textsTo(now.tags, wanted.tags) } : {}),
    ...(fields.has('highlights') ? { highlights: textsTo(now.highlights ?? {}, wanted.highlights) } : {}),
    ...(fields.has('pageAddress') && wanted.pageAddress !== null ? { pageAddress: wanted.pageAddress } : {}),
    ...(fields.has('seo') && wanted.seo !== null
      ? { seoTitle: wanted.seo.title, seoDescription: wanted.seo.description }
      : {}),
  };
}

/** One field of a variant, or that it is sold. */
function withVariant(
  doc: ProductDocument,
  { parts, there }: Parted,
  { blank, storeId }: TakeWorld,
  where: HoldsWhere,
): ProductDocument {
  const [, key, own] = parts as [string, string, string | undefined];
  if (own === undefined)
    return there === undefined
      ? leaveOut(doc, where === 'store' ? storeId : null, [key])
      : setOffered(doc, storeId, [key], true);
  if (own === 'priceMinor') {
    const aim = { kind: 'retail', amountMinor: there as number } as const;
    if (where === 'store') return setAims(doc, storeId, [key], aim);
    const base = setAims(doc, null, [key], aim);
    return ownEntry(doc.price.stores, storeId)?.variants ? setAims(base, storeId, [key], null) : base;
  }
  if (own === 'gtin') {
    const { gtin: _before, ...chosen } = ownEntry(doc.variants, key)!;
    const gtin = there === null ? {} : { gtin: String(there) };
    return { ...doc, variants: { ...doc.variants, [key]: { ...chosen, ...gtin } } };
  }
  const code = colorOf(blank, key);
  return own !== 'shade' || code === null
    ? doc
    : nameColors(doc, storeId, { [code]: there === null ? null : String(there) });
}

/** Pictures that variants of their color are to show although another one of it comes first. */
function mainsOf({ blank, pictures }: TakeWorld, { pictures: shown, variants }: ListingForm): ReadonlySet<string> {
  const plans = new Map(pictures.map((one) => [one.key, one]));
  const firsts = new Map<string | null, string>();
  for (const { key } of shown) {
    const color = plans.get(key)?.color;
    if (color !== undefined && !firsts.has(color)) firsts.set(color, key);
  }
  const wanted = Object.entries(variants).flatMap(([key, { pictureKey }]) => {
    const color = colorOf(blank, splitBundled(key).variantKey);
    const isOfColor = pictureKey !== null && plans.get(pictureKey)?.color === color;
    return isOfColor && firsts.get(color) !== pictureKey ? [pictureKey] : [];
  });
  return new Set(wanted);
}

/** The pictures that the listing is to show, chosen one by one. */
function withPictures(
  doc: ProductDocument,
  world: TakeWorld,
  here: ListingForm,
  wanted: ListingForm,
  where: HoldsWhere,
): ProductDocument {
  const { storeId, pictures } = world;
  const own = ownEntry(doc.pictures.stores, storeId) ?? {};
  const before = Object.keys(own).length > 0 ? own : doc.pictures.base;
  const altHere = new Map(here.pictures.map(({ key, alt }) => [key, alt]));
  const mains = mainsOf(world, wanted);
  const shown = wanted.pictures.flatMap(({ key, alt }) => {
    const plan = pictures.find((one) => one.key === key);
    return plan ? [{ plan, alt: alt === altHere.get(key) ? null : alt }] : [];
  });
  const keys = orders(shown.length);
  const set = Object.fromEntries(
    shown.map(({ plan, alt }, i): [string, Picture] => {
      const { main: _before, ...known } = ownEntry(before, plan.id) ?? asChosen(plan);
      const id = Object.hasOwn(before, plan.id) ? plan.id : `p${sha256Hex(plan.id).slice(0, 12)}`;
      const main = mains.has(plan.key) ? { main: true } : {};
      return [id, { ...known, ...(alt === null ? {} : { alt }), ...main, order: keys[i]! }];
    }),
  );
  if (where === 'store')
    return { ...doc, pictures: { ...doc.pictures, stores: { ...doc.pictures.stores, [storeId]: set } } };
  const { [storeId]: _own, ...others } = doc.pictures.stores;
  return { ...doc, pictures: { base: set, stores: others } };
}

/** A picture of automatic set, chosen. */
const asChosen = ({ shotId, color, imageId }: TakePicture): Omit<Picture, 'order'> => ({
  shotId,
  color,
  ...(imageId === null ? {} : { imageId }),
});

/**
 * Takes into a product what its listing in a store is to say (`wanted`) and does not say now (`here`): for that store alone, or for all that follows the
 * product. What a product cannot take is told with why, and left as it is. Whether the listing then says it is for the caller to see: a sale, a rule for
 * the ends of prices or a limit of the shop can stand between.
 */
export function takeInto(
  doc: ProductDocument,
  world: TakeWorld,
  here: ListingForm,
  wanted: ListingForm,
  where: HoldsWhere,
): Taken {
  const [before, after] = [treeOf(here), treeOf(wanted)];
  const all = compare({ agreed: before, here: before, there: after }).map((one): Parted => ({
    ...one,
    parts: parsePointer(one.field) ?? [one.field],
  }));
  const notTaken = all.flatMap((one): NotTaken[] => {
    const why = whyNot(one, doc, world, where, here.currency);
    return why === null ? [] : [{ field: one.field, why }];
  });
  const left = new Set(notTaken.map(({ field }) => field));
  const fields = all.filter(({ field }) => !left.has(field));
  const firsts = new Set(fields.map(({ parts }) => parts[0]!));
  const words = wordsTo(doc, world, here, wanted, firsts, where);
  const worded = Object.keys(words).length > 0 ? setWords(doc, world, where, words) : doc;
  const sold = fields
    .filter(({ parts }) => parts[0] === 'variants')
    .reduce((now, one) => withVariant(now, one, world, where), worded);
  const isPicture = ({ parts }: Parted) => parts[0] === 'pictures' || parts.at(-1) === 'pictureKey';
  return { doc: fields.some(isPicture) ? withPictures(sold, world, here, wanted, where) : sold, notTaken };
}
