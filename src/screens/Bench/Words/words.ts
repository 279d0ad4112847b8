import type { SizesIn } from '@/core/catalog/size-guide';
import type { ProductDocument, Words } from '@/core/document/document';
import { describedFor } from '@/core/listing/sold-sizes';
import { ownEntry, putEntry } from '@/core/own-entry';
import { inOrder, orderAtEnd } from '@/core/order-key';
import { graphemeCount } from '@/core/words/graphemes';
import type { ChannelDemands, RuleResult } from '@/core/rules/demands';
import { wordsResults, type ListingWords } from '@/core/rules/words-rules';

/** Characters that a product keeps, whatever a store takes. */
export const MAX_TITLE = 500;
export const MAX_DESCRIPTION = 20_000;

type SizedBlank = Parameters<typeof describedFor>[2];

/** The words of a product as a store gets them. */
export function listingWords(
  doc: ProductDocument,
  store: Pick<WordsStore, 'id' | 'sizesIn'> | null,
  blank: SizedBlank,
): ListingWords {
  const { title, description, tags } = describedFor(doc, store?.id ?? null, blank, store?.sizesIn);
  return { title, description, tags: inOrder(tags).map(([, { text }]) => text) };
}

interface WordsStore {
  readonly id: string;
  readonly channelName: string;
  readonly shopName?: string;
  readonly demands: ChannelDemands;
  readonly sizesIn?: SizesIn;
}

/** What a store says of the words as they are typed; nothing without a store. */
export const wordsRules = (doc: ProductDocument, store: WordsStore | null, blank: SizedBlank): readonly RuleResult[] =>
  store ? wordsResults(listingWords(doc, store, blank), store.demands, store.channelName, store.shopName) : [];

/** Whether the words break a rule of any store. */
export const wordsBreak = ({
  doc,
  data,
}: {
  doc: ProductDocument;
  data: { stores: readonly WordsStore[]; blank: SizedBlank };
}): boolean => data.stores.some((store) => wordsRules(doc, store, data.blank).some(({ kept }) => !kept));

/** What a field shows: its broken rule as an error, or in gray while it is empty and nobody touched it. */
export function fieldSays(
  rules: readonly RuleResult[],
  ids: readonly string[],
  untouched: boolean,
): { error: string | null; lacking: string | null } {
  const broken = rules.find(({ id, kept }) => !kept && ids.includes(id));
  const says = broken ? `${broken.says} ${broken.mend ?? ''}`.trim() : null;
  return untouched ? { error: null, lacking: broken?.mend ?? null } : { error: says, lacking: null };
}

/** A text cut to what is kept, and what to say where something was cut. */
export function cutTo(text: string, most: number): { text: string; says: string | null } {
  if (text.length <= most) return { text, says: null };
  const cut = text.slice(0, most).toWellFormed();
  const gone = graphemeCount(text.slice(most));
  return {
    text: cut,
    says: `A field holds ${most.toLocaleString('en')} characters; the last ${gone.toLocaleString('en')} were left out.`,
  };
}

type Texts = NonNullable<Words['highlights']>;

/** Texts as they are written one a line. */
export const asLines = (texts: Texts | undefined): string =>
  inOrder(texts ?? {})
    .map(([, { text }]) => text)
    .join('\n');

/** Tags and highlights that a product keeps, and characters of one. */
export const MAX_TEXTS = { tags: 60, highlights: 20 } as const;
const MAX_LINE = 200;

/** Texts from lines, `most` of them: one that stays keeps its id, so that what was not touched is the same; empty lines are none. */
export function fromLines(before: Texts | undefined, typed: string, newId: () => string, most: number): Texts {
  const known = inOrder(before ?? {});
  const next: { [id: string]: Texts[string] } = {};
  for (const text of typed
    .split('\n')
    .map((line) => line.slice(0, MAX_LINE).toWellFormed().trim())
    .filter(Boolean)
    .slice(0, most)) {
    const id = known.find(([one, entry]) => entry.text === text && !Object.hasOwn(next, one))?.[0] ?? newId();
    putEntry(next, id, { text, order: orderAtEnd(next) });
  }
  return next;
}

/** Words that a store can have of its own, as its field is called. */
export const OWN_FIELDS = {
  title: 'Title',
  description: 'Description',
  tags: 'Tags',
  highlights: 'Highlights',
} as const;
export type OwnField = keyof typeof OWN_FIELDS;

/** Which words a store has of its own. */
export function ownWords({ words }: Pick<ProductDocument, 'words'>, storeId: string): OwnField[] {
  const own = ownEntry(words.stores, storeId) ?? {};
  return (Object.keys(OWN_FIELDS) as OwnField[]).filter((field) => Object.hasOwn(own, field));
}

/** Words of a store's own. */
export function withOwn(doc: ProductDocument, storeId: string, part: Partial<Words>): ProductDocument {
  const own = { ...ownEntry(doc.words.stores, storeId), ...part };
  return { ...doc, words: { ...doc.words, stores: { ...doc.words.stores, [storeId]: own } } };
}

/** Gives a field back: it follows the product again. */
export function withoutOwn(doc: ProductDocument, storeId: string, field: OwnField): ProductDocument {
  const { [field]: _given, ...left } = ownEntry(doc.words.stores, storeId) ?? {};
  const { [storeId]: _all, ...others } = doc.words.stores;
  const stores = Object.keys(left).length > 0 ? { ...others, [storeId]: left } : others;
  return { ...doc, words: { ...doc.words, stores } };
}
