import type { ListingForm, ListingVariant } from '../listing/form';
import { FORM_FORMAT } from '../listing/form';

/**
 * A listing form as it is compared: values by name, and lists of named things that have values and lists of their own. Things of a list are told apart
 * by what they are, not by where they stand: a picture by its content, a tag by its text, an option and its values by their codes, a variant by its key.
 */
export interface Branch {
  readonly values: ReadonlyMap<string, unknown>;
  readonly lists: ReadonlyMap<string, List>;
}

export interface List {
  /** Whether the order of its things says something. */
  readonly ordered: boolean;
  readonly things: ReadonlyMap<string, Branch>;
}

const NO_LISTS: Branch['lists'] = new Map();
const values = (object: object): Branch['values'] => new Map(Object.entries(object));
const leaf = (object: object): Branch => ({ values: values(object), lists: NO_LISTS });

/** A list of these; of two that are called the same the second is another one. */
function listOf<T>(items: readonly T[], nameOf: (item: T) => string, branchOf: (item: T) => Branch): List {
  const things = new Map<string, Branch>();
  for (const item of items) {
    let name = nameOf(item);
    for (let n = 2; things.has(name); n += 1) name = `${nameOf(item)} (${n})`;
    things.set(name, branchOf(item));
  }
  return { ordered: true, things };
}

const textsOf = (texts: readonly string[]): List => listOf(texts, String, (text) => leaf({ text }));
/** Answers by the shop's own keys, in no order. */
const answersOf = (answers: { readonly [key: string]: string }): List => ({
  ordered: false,
  things: new Map(Object.entries(answers).map(([key, answer]) => [key, leaf({ answer })])),
});

export function treeOf(form: ListingForm): Branch {
  const { currency, title, description, pageAddress, seo, category, partner, shipping } = form;
  return {
    values: values({ currency, title, description, pageAddress, seo, category, partner, shipping }),
    lists: new Map([
      ['tags', textsOf(form.tags)],
      ['highlights', textsOf(form.highlights)],
      ['collections', textsOf(form.collections)],
      ['pictures', listOf(form.pictures, ({ key }) => key, leaf)],
      [
        'options',
        listOf(
          form.options,
          ({ code }) => code,
          ({ code, name, values: own }) => ({
            values: values({ code, name }),
            lists: new Map([['values', listOf(own, (value) => value.code, leaf)]]),
          }),
        ),
      ],
      [
        'variants',
        { ordered: false, things: new Map(Object.entries(form.variants).map(([key, own]) => [key, leaf(own)])) },
      ],
      ['attributes', answersOf(form.attributes)],
      ['terms', answersOf(form.terms)],
    ]),
  };
}

const objectOf = <T>(map: ReadonlyMap<string, unknown>): T => Object.fromEntries(map) as T;
const thingsOf = (branch: Branch, list: string): (readonly [string, Branch])[] => [
  ...(branch.lists.get(list)?.things ?? []),
];
const textsIn = (branch: Branch, list: string): string[] =>
  thingsOf(branch, list).map(([, { values: own }]) => own.get('text') as string);

const answersIn = (branch: Branch, list: string): Record<string, string> =>
  Object.fromEntries(thingsOf(branch, list).map(([key, { values: own }]) => [key, own.get('answer') as string]));

/** The form that a tree came from. */
export function formOf(tree: Branch): ListingForm {
  return {
    ...objectOf<
      Pick<
        ListingForm,
        'currency' | 'title' | 'description' | 'pageAddress' | 'seo' | 'category' | 'partner' | 'shipping'
      >
    >(tree.values),
    format: FORM_FORMAT,
    tags: textsIn(tree, 'tags'),
    highlights: textsIn(tree, 'highlights'),
    collections: textsIn(tree, 'collections'),
    pictures: thingsOf(tree, 'pictures').map(([, own]) => objectOf(own.values)),
    options: thingsOf(tree, 'options').map(([, own]) => ({
      ...objectOf<{ code: string; name: string }>(own.values),
      values: thingsOf(own, 'values').map(([, value]) => objectOf(value.values)),
    })),
    variants: Object.fromEntries(
      thingsOf(tree, 'variants').map(([key, own]) => [key, objectOf<ListingVariant>(own.values)]),
    ),
    attributes: answersIn(tree, 'attributes'),
    terms: answersIn(tree, 'terms'),
  };
}

/** What is in a branch, for whoever looks at it whole. */
export const plainOf = (branch: Branch): Record<string, unknown> => ({
  ...objectOf<Record<string, unknown>>(branch.values),
  ...Object.fromEntries([...branch.lists].map(([name, { things }]) => [name, [...things.values()].map(plainOf)])),
});
