import type { Blank } from '../catalog/blank';
import type { SizesIn } from '../catalog/size-guide';
import { wordsFor, type ProductDocument, type Words } from '../document/document';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import type { Outlet } from '../pricing/outlet';
import { cutAtWord, slugOf } from '../words/cut';
import { NO_ANSWERS, PLAIN_FIELDS, type CarriedFields, type StandingAnswers } from './carried';
import { describedFor } from './sold-sizes';

/** What a listing form says in words. */
export interface FormWords {
  readonly title: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly highlights: readonly string[];
  /** The end of its page's address; null: the shop makes one. */
  readonly pageAddress: string | null;
  readonly seo: { readonly title: string; readonly description: string } | null;
  readonly collections: readonly string[];
}

export interface FormWordsInput {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly outlet: Pick<Outlet, 'id'>;
  /** What the shop keeps; absent: what the simplest does. */
  readonly carries?: CarriedFields;
  readonly answers?: StandingAnswers;
  /** Units in which the store tells sizes under the description; absent: it does not. */
  readonly sizesIn?: SizesIn;
}

/** Longest page address, and longest texts for search engines: what they show of one. */
const ADDRESS_MAX = 80;
const SEO_TITLE_MAX = 70;
const SEO_DESCRIPTION_MAX = 160;

/** The end of a page's address, and what search engines show, where the seller has written none. */
export const followingWords = ({ title, description }: Pick<Words, 'title' | 'description'>) => ({
  pageAddress: slugOf(title.trim(), ADDRESS_MAX),
  seo: {
    title: cutAtWord(title.trim(), SEO_TITLE_MAX),
    description: cutAtWord(description.trim().replace(/\s+/g, ' '), SEO_DESCRIPTION_MAX),
  },
});

/** The words of a form, as far as the shop keeps them. What the seller has not written follows from title and description. */
export function formWords({
  doc,
  blank,
  outlet: { id },
  carries = PLAIN_FIELDS,
  answers: { collectionsByTag } = NO_ANSWERS,
  sizesIn,
}: FormWordsInput): FormWords {
  const words = wordsFor(doc, id);
  const title = words.title.trim();
  const follows = followingWords(words);
  const tags = inOrder(words.tags).map(([, tag]) => tag.text.trim());
  const inCollections = tags.flatMap((tag) => ownEntry(collectionsByTag, tag.toLocaleLowerCase('en')) ?? []);
  return {
    title,
    // Sizes stand under the description alone: search engines are told what it is.
    description: describedFor(doc, id, blank, sizesIn).description.trim(),
    tags: carries.tags ? tags : [],
    highlights: carries.highlights ? inOrder(words.highlights ?? {}).map(([, { text }]) => text.trim()) : [],
    pageAddress: carries.pageAddress ? words.pageAddress?.trim() || follows.pageAddress : null,
    seo: carries.seo
      ? {
          title: words.seoTitle?.trim() || follows.seo.title,
          description: words.seoDescription?.trim() || follows.seo.description,
        }
      : null,
    collections: carries.collections ? [...new Set(inCollections)] : [],
  };
}
