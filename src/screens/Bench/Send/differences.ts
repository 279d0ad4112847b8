import { andMore } from '@/core/words/and-more';
import { parseVariantKey, type Blank } from '@/core/catalog/blank';
import { ownEntry } from '@/core/own-entry';
import { splitBundled } from '@/core/pricing/bundle';
import { formatAmount, money } from '@/core/pricing/money';
import { variantName } from '@/core/variants/tiers';

/** One field that differs, as the API tells it. */
export interface Difference {
  readonly field: string;
  readonly change: string;
  readonly here: unknown;
  readonly there: unknown;
}

/** A side of a difference for a person: words, or pictures by their keys. */
export type Shown = { readonly text: string } | { readonly pictures: readonly string[] };

export interface DifferenceRow {
  readonly name: string;
  readonly here: Shown;
  readonly there: Shown;
  readonly changed: string;
}

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
  tags: 'Tags',
  currency: 'Currency',
  options: 'Options and their order',
  pictures: 'Pictures and their order',
  shipping: 'Shipping',
  'partner.name': 'Print partner',
  'partner.country': 'Country of the print partner',
  category: 'Category',
  highlights: 'Highlights',
  collections: 'Collections',
  pageAddress: 'Page address',
  'seo.title': 'Title for search engines',
  'seo.description': 'Description for search engines',
};
const CHANGES: { readonly [change: string]: string } = {
  here: 'here',
  there: 'in the shop',
  both: 'in both, differently',
  'both-alike': 'in both, alike',
};

/** Variants of one field that are told one by one; more are told together. */
const ONE_BY_ONE = 3;
const VARIANT = /^variants\.(.+)\.(\w+)$/;
const NOTHING: Shown = { text: '–' };

/** What differs between here and the shop, with money, names and pictures; the same change of many variants in one row. */
export function differenceRows(
  differences: readonly Difference[],
  { blank, currency }: { readonly blank: Blank; readonly currency: string },
): DifferenceRow[] {
  const groups = new Map<string, Difference[]>();
  for (const one of differences) {
    const leaf = VARIANT.exec(one.field)?.[2];
    const key = leaf ? `${leaf}/${one.change}` : one.field;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].flatMap((group) => {
    const leaf = VARIANT.exec(group[0]!.field)?.[2];
    if (leaf && group.length > ONE_BY_ONE) return [together(leaf, group, currency)];
    return group.map((one) => ({
      name: nameOf(one.field, blank),
      here: shown(one.field, one.here, currency),
      there: shown(one.field, one.there, currency),
      changed: ownEntry(CHANGES, one.change) ?? one.change,
    }));
  });
}

function nameOf(field: string, blank: Blank): string {
  const variant = VARIANT.exec(field);
  if (!variant)
    return ownEntry(FIELDS, field) ?? field.replace(/^(?:attributes|terms)\.(.+)$/, 'What the shop asks: $1');
  const { variantKey: key } = splitBundled(variant[1]!);
  const known = blank.variants.some((one) => one.key === key);
  const name = known ? variantName(blank, key) : Object.values(parseVariantKey(key)).join(', ');
  return `${ownEntry(VARIANT_FIELDS, variant[2]!) ?? variant[2]} of ${name}`;
}

/** The same field of many variants: the least and the most of each side. */
function together(leaf: string, group: readonly Difference[], currency: string): DifferenceRow {
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
    here: side(group.map(({ here }) => here)),
    there: side(group.map(({ there }) => there)),
    changed: ownEntry(CHANGES, group[0]!.change) ?? group[0]!.change,
  };
}

const isText = (value: unknown): value is string => typeof value === 'string';
const plain = (value: unknown): string =>
  value === true ? 'yes' : value === false ? 'no' : value === null ? '–' : String(value);

function shown(field: string, value: unknown, currency: string): Shown {
  if (value === undefined || value === null) return NOTHING;
  const leaf = VARIANT.exec(field)?.[2] ?? field;
  if (leaf === 'pictureKey' && isText(value)) return { pictures: [value] };
  if (leaf.endsWith('Minor') && typeof value === 'number')
    return { text: `${formatAmount(money(value, currency))} ${currency}` };
  if (Array.isArray(value)) return list(leaf, value as readonly Record<string, unknown>[], currency);
  return { text: value === '' ? '(empty)' : plain(value) };
}

function list(field: string, values: readonly Record<string, unknown>[], currency: string): Shown {
  if (field === 'pictures') return { pictures: values.map(({ key }) => String(key)) };
  if (field === 'shipping')
    return {
      text: values
        .map(
          ({ countries, firstMinor }) =>
            `${(countries as string[]).join(', ')}: ${formatAmount(money(Number(firstMinor), currency))}`,
        )
        .join('; '),
    };
  if (field === 'options')
    return {
      text: values
        .map(
          (option) =>
            `${String(option.name)}: ${(option.values as { name: string }[]).map(({ name }) => name).join(', ')}`,
        )
        .join('; '),
    };
  return { text: values.length === 0 ? '(none)' : values.map(String).join(', ') };
}
