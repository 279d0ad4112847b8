import { andMore } from '@/core/words/and-more';
import { parseVariantKey, type Blank } from '@/core/catalog/blank';
import { parsePointer } from '@/core/document/pointer';
import { groupBy } from '@/core/group';
import { ownEntry } from '@/core/own-entry';
import { splitBundled } from '@/core/pricing/bundle';
import { formatAmount, money } from '@/core/pricing/money';
import { markedTexts, shortened, type Piece } from '@/core/sync/marked-text';
import { variantName } from '@/core/variants/tiers';

/** One field that differs, as the API tells it. */
export interface Difference {
  /** JSON pointer into the listing's form, things of a list by their names. */
  readonly field: string;
  readonly change: string;
  readonly agreed?: unknown;
  readonly here?: unknown;
  readonly there?: unknown;
}

/** A side of a difference for a person: words, with what differs in them where that can be told, or pictures by their keys. */
export type Shown =
  { readonly text: string; readonly pieces?: readonly Piece[] } | { readonly pictures: readonly string[] };

type Sides = { readonly [side in Side]: Shown };

export interface DifferenceRow extends Sides {
  readonly name: string;
  readonly changed: string;
  /** The fields that it tells, each a JSON pointer. */
  readonly fields: readonly string[];
  /** Whether the shop changed it: then it is to be settled; what only we changed goes there with the next send. */
  readonly toSettle: boolean;
  /** What somebody may write in place of both; null where only one of the two can hold. */
  readonly writes: 'line' | 'text' | 'amount' | null;
  /** What that begins with. */
  readonly begin: string;
}

type Side = 'agreed' | 'here' | 'there';
const each = (make: (side: Side) => Shown): Sides => ({
  agreed: make('agreed'),
  here: make('here'),
  there: make('there'),
});

const VARIANT_FIELDS: { readonly [field: string]: string } = {
  priceMinor: 'Price',
  compareAtMinor: 'Price outside of a sale',
  sku: 'SKU',
  inStock: 'In stock',
  pictureKey: 'Picture',
  gtin: 'Product code',
  grams: 'Weight, g',
  shade: 'Color in the shop',
};
const FIELDS: { readonly [field: string]: string } = {
  title: 'Title',
  description: 'Description',
  currency: 'Currency',
  shipping: 'Shipping',
  partner: 'Print partner',
  category: 'Category',
  pageAddress: 'Page address',
  seo: 'Words for search engines',
};
const LISTS: { readonly [field: string]: string } = {
  tags: 'Tags',
  highlights: 'Highlights',
  collections: 'Collections',
  pictures: 'Pictures',
  options: 'Options',
  variants: 'Variants',
};
const CHANGES: { readonly [change: string]: string } = {
  here: 'here',
  there: 'in the shop',
  both: 'in both, differently',
  'both-alike': 'in both, alike',
};

/** Variants of one field that are told one by one; more are told together. */
const ONE_BY_ONE = 3;
/** Names of things of a list that are told; of more their number. */
const NAMED = 6;
const NOTHING: Shown = { text: '–' };

interface About {
  readonly blank: Blank;
  readonly currency: string;
}

/** A difference with its field's parts. */
interface Parted extends Difference {
  readonly parts: readonly string[];
}

const isThing = ({ parts: [list, ...rest] }: Parted): boolean =>
  (rest.length === 1 && ownEntry(LISTS, list!) !== undefined) ||
  (list === 'options' && rest.length === 3 && rest[1] === 'values');
const variantField = ({ parts }: Parted): string | null =>
  parts[0] === 'variants' && parts.length === 3 ? parts[2]! : null;

/** Told in one row: things of one list that changed in the same way, and one field of many variants. */
function groupOf(one: Parted): string {
  const leaf = variantField(one);
  if (leaf) return `${leaf}/${one.change}`;
  return isThing(one) ? `${one.parts.slice(0, -1).join('/')}/*/${one.change}` : one.field;
}

/** What differs between here and the shop, with money, names and pictures; the same change of many variants in one row. */
export function differenceRows(differences: readonly Difference[], about: About): DifferenceRow[] {
  const parted = differences.map((one): Parted => ({ ...one, parts: parsePointer(one.field) ?? [one.field] }));
  return [...groupBy(parted, groupOf).values()].flatMap((group) => {
    const first = group[0]!;
    const leaf = variantField(first);
    if (leaf && group.length > ONE_BY_ONE) return [{ ...together(leaf, group, about), ...settling(group) }];
    if (isThing(first)) return [{ ...things(group, about), ...settling(group) }];
    return group.map((one) => ({ name: nameOf(one.parts, about.blank), ...sides(one, about), ...settling([one]) }));
  });
}

const WRITTEN: { readonly [field: string]: DifferenceRow['writes'] } = {
  title: 'line',
  pageAddress: 'line',
  alt: 'line',
  description: 'text',
  priceMinor: 'amount',
};

/** How a group of differences is settled. */
function settling(
  group: readonly Parted[],
): Pick<DifferenceRow, 'changed' | 'fields' | 'toSettle' | 'writes' | 'begin'> {
  const { change, parts, here, there } = group[0]!;
  const isWritable = typeof there === 'string' || typeof there === 'number';
  return {
    changed: ownEntry(CHANGES, change) ?? change,
    fields: group.map(({ field }) => field),
    toSettle: change !== 'here',
    begin: typeof here === 'string' ? here : '',
    writes: isWritable ? (ownEntry(WRITTEN, parts.at(-1)!) ?? null) : null,
  };
}

/** Fields that are texts: what differs is marked in them. */
const TEXTS = new Set(['title', 'description', 'seo', 'alt']);

function sides(one: Parted, about: About): Sides {
  const { parts, here, there } = one;
  const all = each((side) => shown(parts, one[side], about));
  const [ours, theirs] = [all.here, all.there];
  if (!TEXTS.has(parts.at(-1)!) || !('text' in ours && 'text' in theirs) || !here || !there) return all;
  const marked = markedTexts(ours.text, theirs.text);
  return {
    agreed: all.agreed,
    here: { ...ours, pieces: shortened(marked.here) },
    there: { ...theirs, pieces: shortened(marked.there) },
  };
}

function nameOf(parts: readonly string[], blank: Blank): string {
  const [first, name, own] = parts;
  if (first === 'variants' && own) return `${ownEntry(VARIANT_FIELDS, own) ?? own} of ${variantTitle(name!, blank)}`;
  if (first === 'attributes' || first === 'terms') return `What the shop asks: ${name}`;
  if (first === 'pictures' && own) return 'Alternative text of a picture';
  if (first === 'options' && own === 'values' && parts.length === 3) return `Order of the values of ${name}`;
  if (first === 'options' && name) return `Name of ${parts.length > 3 ? `${parts[3]}, a value of ${name}` : name}`;
  const list = ownEntry(LISTS, first!);
  return list ? `Order of the ${list.toLowerCase()}` : (ownEntry(FIELDS, first!) ?? first!);
}

function variantTitle(variantKey: string, blank: Blank): string {
  const { variantKey: key } = splitBundled(variantKey);
  const known = blank.variants.some((one) => one.key === key);
  return known ? variantName(blank, key) : Object.values(parseVariantKey(key)).join(', ');
}

/** Things that are in a list on one side alone: on each side those that it has. */
function things(group: readonly Parted[], { blank }: About): Sides & { readonly name: string } {
  const { parts } = group[0]!;
  const [list, option] = parts;
  const side = (which: Side): Shown => {
    const there = group.filter((one) => one[which] !== undefined);
    if (there.length === 0) return NOTHING;
    if (list === 'pictures') return { pictures: there.map((one) => one.parts[1]!) };
    return {
      text: andMore(
        there.map((one) => thingName(one, one[which], blank)),
        NAMED,
      ),
    };
  };
  const name = parts.length > 2 ? `Values of ${option}` : ownEntry(LISTS, list!)!;
  return { name, ...each(side) };
}

function thingName({ parts }: Parted, value: unknown, blank: Blank): string {
  const name = parts.at(-1)!;
  if (parts[0] === 'variants') return variantTitle(name, blank);
  const own = value as { readonly name?: string; readonly values?: readonly { readonly name: string }[] };
  if (own.values) return `${own.name}: ${own.values.map((one) => one.name).join(', ')}`;
  return own.name ?? name;
}

/** The same field of many variants: the least and the most of each side. */
function together(leaf: string, group: readonly Parted[], { currency }: About): Sides & { readonly name: string } {
  const side = (values: readonly unknown[]): Shown => {
    if (leaf === 'pictureKey') return { pictures: [...new Set(values.filter(isText))] };
    const numbers = values.filter((value): value is number => typeof value === 'number');
    if (numbers.length === 0) {
      const texts = [...new Set(values.map((value) => (value === undefined ? '–' : plain(value))))];
      return { text: andMore(texts, 2) };
    }
    const ends = [...new Set([Math.min(...numbers), Math.max(...numbers)])];
    return { text: `${ends.map((minor) => formatAmount(money(minor, currency))).join(' – ')} ${currency}` };
  };
  return {
    name: `${ownEntry(VARIANT_FIELDS, leaf) ?? leaf} of ${group.length} variants`,
    ...each((which) => side(group.map((one) => one[which]))),
  };
}

const isText = (value: unknown): value is string => typeof value === 'string';
const plain = (value: unknown): string =>
  value === true ? 'yes' : value === false ? 'no' : value === null ? '–' : String(value);

function shown(parts: readonly string[], value: unknown, { currency }: About): Shown {
  if (value === undefined || value === null) return NOTHING;
  const leaf = parts.at(-1)!;
  if (leaf === 'pictureKey' && isText(value)) return { pictures: [value] };
  if (leaf.endsWith('Minor') && typeof value === 'number')
    return { text: `${formatAmount(money(value, currency))} ${currency}` };
  if (Array.isArray(value)) return list(leaf, value as readonly unknown[], currency);
  if (typeof value === 'object') return { text: wordsOf(value) };
  return { text: value === '' ? '(empty)' : plain(value) };
}

/** Of what the shop asks the answer, of the partner and of search engines the words: what it is called first, whatever the order in which it came. */
function wordsOf(value: object): string {
  const { title, name, ...rest } = value as { readonly title?: string; readonly name?: string };
  const others = Object.entries(rest).sort(([a], [b]) => (a < b ? -1 : 1));
  return [title, name, ...others.map(([, own]) => plain(own))].filter((text) => text !== undefined).join(', ');
}

function list(field: string, values: readonly unknown[], currency: string): Shown {
  if (field === 'pictures') return { pictures: values.map(String) };
  if (field === 'shipping')
    return {
      text: (values as readonly { countries: string[]; firstMinor: number }[])
        .map(({ countries, firstMinor }) => `${countries.join(', ')}: ${formatAmount(money(firstMinor, currency))}`)
        .join('; '),
    };
  return { text: values.length === 0 ? '(none)' : values.map(String).join(', ') };
}
