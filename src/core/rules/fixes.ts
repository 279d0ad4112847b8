import { wordsFor, type ProductDocument, type StorePlan, type Words } from '../document/document';
import type { Blank } from '../catalog/blank';
import type { SizesIn } from '../catalog/size-guide';
import { asSoldIn, leaveOut } from '../document/offered';
import { sizesRoom, soldSizes } from '../listing/sold-sizes';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import { formatMoney, money } from '../pricing/money';
import { storeLimit, waysToFewer } from '../variants/limits';
import { count } from '../words/count';
import { cutAtWord, slugOf } from '../words/cut';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands, ChannelSum } from './demands';
import { loudWords } from './phrases';

/** What a fix looks at: a product in one store. */
export interface FixWorld {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly storeId: string;
  readonly demands: ChannelDemands;
  /** Units in which sizes are told under the description; absent: they are not. */
  readonly sizesIn?: SizesIn;
  /** What the shop itself calls the seller's shop. */
  readonly shopName?: string;
  readonly currency: string;
  /** A sum that the channel names, in the store's currency, minor units. */
  readonly sumHere: (sum: ChannelSum) => number;
}

/** A way to keep a broken rule, to be looked at before it is taken. */
export interface Fix {
  /** Its name; several can be for the same rule, of which one is enough. */
  readonly id: string;
  /** Rules that it is for. */
  readonly rules: readonly string[];
  /** What it does, as on a button. */
  readonly says: string;
  readonly before: string;
  readonly after: string;
  /** Whether it can be taken for all that follows the product: a bound of a price is in the store's currency. */
  readonly everywhere: boolean;
  /** The product with it, for the store alone, or for all that follows the product. */
  apply(doc: ProductDocument, where: FixPlace): ProductDocument;
}

export type FixPlace = 'store' | 'everywhere';

const TITLE_RULES = ['title', 'title-ending', 'title-beginning', 'title-characters', 'shouting'] as const;

const spaced = (text: string) => text.replace(/\s+/gu, ' ').trim();

/** A word with a capital and small letters. */
const quiet = (word: string) => word.slice(0, 1) + word.slice(1).toLocaleLowerCase('en');

/** A title as a channel takes it: without what it refuses, at most so long, cut after a word, with the ending that it wants. What cannot be made so is left as it is. */
export function fittedTitle(title: string, demands: ChannelDemands, shopName = ''): string {
  const {
    titleWithout = '',
    emojiBanned,
    shouting,
    titleBeginsWithLetter,
    titleEndsWithShop,
    titleMax,
    titleMin,
  } = demands;
  const plain = spaced(
    Array.from(title, (one) =>
      titleWithout.includes(one) || (emojiBanned && /\p{Extended_Pictographic}/u.test(one)) ? ' ' : one,
    ).join(''),
  );
  const named = shopName !== '' && plain.endsWith(shopName);
  const own = named
    ? plain
        .slice(0, -shopName.length)
        .trimEnd()
        .replace(/(?: by|,|–|-)$/u, '')
        .trimEnd()
    : plain;
  const calm = shouting
    ? loudWords(own, shouting).reduce((text, word) => text.replace(word, word.split(' ').map(quiet).join(' ')), own)
    : own;
  const begun = titleBeginsWithLetter ? calm.replace(/^[^\p{L}]+/u, '') : calm;
  const ending = ` by ${shopName}`;
  const wanted = named || (shopName !== '' && (titleEndsWithShop === true || graphemeCount(begun) < titleMin));
  const room = titleMax - graphemeCount(ending);
  if (!wanted || room < 1) return cutAtWord(begun, titleMax);
  return begun === '' ? begun : cutAtWord(begun, room) + ending;
}

type Texts = NonNullable<Words['highlights']>;

const textsOf = (texts: Texts | undefined) => inOrder(texts ?? {});

/** Tags or highlights as a channel takes them: each short enough and none twice, and no more than so many, from the end. */
function fittedTexts(texts: Texts | undefined, most: number, longest: number): Texts {
  const seen = new Set<string>();
  const kept = textsOf(texts).flatMap(([id, entry]): [string, Texts[string]][] => {
    const text = cutAtWord(entry.text.trim(), longest);
    const small = text.toLocaleLowerCase('en');
    if (text === '' || seen.has(small)) return [];
    seen.add(small);
    return [[id, text === entry.text ? entry : { ...entry, text }]];
  });
  return Object.fromEntries(kept.slice(0, most));
}

const listed = (texts: Texts | undefined) =>
  textsOf(texts)
    .map(([, { text }]) => text)
    .join(', ');

function withWords(doc: ProductDocument, storeId: string, where: FixPlace, words: Partial<Words>): ProductDocument {
  if (where === 'everywhere') return { ...doc, words: { ...doc.words, base: { ...doc.words.base, ...words } } };
  const own = { ...ownEntry(doc.words.stores, storeId), ...words };
  return { ...doc, words: { ...doc.words, stores: { ...doc.words.stores, [storeId]: own } } };
}

type WordFix = (
  world: FixWorld,
  words: Words,
) => Omit<Fix, 'id' | 'apply' | 'everywhere'> & { readonly words: Partial<Words> };

const WORD_FIXES: readonly WordFix[] = [
  ({ demands, shopName }, { title }) => {
    const after = fittedTitle(title, demands, shopName);
    return { rules: TITLE_RULES, says: 'Fit the title', before: title, after, words: { title: after } };
  },
  ({ doc, storeId, blank, sizesIn, demands }, { description }) => {
    const sizes = sizesIn ? soldSizes(asSoldIn(doc, storeId), blank, sizesIn) : null;
    const room = demands.descriptionMax - sizesRoom(sizes);
    // Where sizes alone are too long nothing is left to cut.
    const after = room < 1 ? description : cutAtWord(description, room);
    const told = (text: string) => `${graphemeCount(text).toLocaleString('en')} characters`;
    return {
      rules: ['description'],
      says: 'Cut the description after a word',
      before: told(description),
      after: told(after),
      words: { description: after },
    };
  },
  ({ demands }, { tags }) => {
    const after = fittedTexts(tags, demands.tagsMax, demands.tagMax);
    return {
      rules: ['tags', 'tag-length', 'tag-twice'],
      says: 'Fit the tags',
      before: listed(tags),
      after: listed(after),
      words: { tags: after },
    };
  },
  ({ demands }, { highlights }) => {
    const after = fittedTexts(highlights, demands.highlightsMax ?? 0, demands.highlightMax ?? 0);
    return {
      rules: ['highlights'],
      says: 'Fit the highlights',
      before: listed(highlights),
      after: listed(after),
      words: { highlights: after },
    };
  },
  ({ demands: { seoTitleMax = 0, seoDescriptionMax = 0 } }, words) => {
    const [title, description] = [words.seoTitle ?? words.title, words.seoDescription ?? words.description];
    const after = {
      seoTitle: cutAtWord(title, seoTitleMax),
      seoDescription: cutAtWord(description, seoDescriptionMax),
    };
    return {
      rules: ['search-texts'],
      says: 'Cut what search engines show',
      before: title,
      after: after.seoTitle,
      words: after,
    };
  },
  ({ demands: { pageAddressMax = 0 } }, { pageAddress = '', title }) => {
    const after = slugOf(pageAddress || title, pageAddressMax);
    return {
      rules: ['page-address'],
      says: 'Fit the page’s address',
      before: pageAddress,
      after,
      words: { pageAddress: after },
    };
  },
];

const PRICE_FIXES = [
  { rule: 'price-min', bound: 'leastMinor', says: 'Ask for the least that the shop takes' },
  { rule: 'price-max', bound: 'mostMinor', says: 'Ask for the most that the shop takes' },
] as const;

/** Prices are bounded in the store alone: its least is in its own currency. */
function withBound(doc: ProductDocument, storeId: string, plan: Partial<StorePlan>): ProductDocument {
  const own = { ...ownEntry(doc.price.stores, storeId), ...plan };
  return { ...doc, price: { ...doc.price, stores: { ...doc.price.stores, [storeId]: own } } };
}

/** Values whose names are told of those that are left out. */
const MAX_NAMED = 4;

/** Fewer variants by a rule: values of an option are left out from its end. What leaves most comes first. */
function fewerVariants({ doc, blank, storeId, demands }: FixWorld): Fix[] {
  const sold = asSoldIn(doc, storeId);
  const before = storeLimit(sold, blank, demands, '').variants;
  return waysToFewer(sold, blank, demands.variantsMax)
    .toSorted((a, b) => b.left - a.left)
    .map(({ option, without, left }) => {
      const keys = without.flatMap((value) => value.keys);
      const names = without.map(({ name }) => name).toReversed();
      const more = names.length - MAX_NAMED;
      const told = names.slice(0, MAX_NAMED).join(', ') + (more > 0 ? ` and ${more} more` : '');
      return {
        id: `fewer-${option.code}`,
        rules: ['variants'],
        says: `Leave out the last of ${option.name}`,
        before: count(before, 'variant'),
        after: `${count(left, 'variant')}, without ${told}`,
        everywhere: true,
        apply: (now, where) => leaveOut(now, where === 'store' ? storeId : null, keys),
      };
    });
}

/**
 * Ways to keep rules that are broken (by id), in the order of the docket; what needs a person's own words or artwork has none. They change the
 * document only where it is looked at and taken.
 */
export function fixesFor(world: FixWorld, broken: readonly string[]): Fix[] {
  const { doc, storeId, demands, currency } = world;
  const words = wordsFor(doc, storeId);
  const isBroken = (rules: readonly string[]) => rules.some((rule) => broken.includes(rule));
  const prices = PRICE_FIXES.flatMap(({ rule, bound, says }): Fix[] => {
    const sum = rule === 'price-min' ? demands.priceMin : demands.priceMax;
    if (!isBroken([rule]) || !sum) return [];
    const minor = world.sumHere(sum);
    const before = ownEntry(doc.price.stores, storeId)?.[bound] ?? null;
    const told = (value: number | null) => (value === null ? 'no bound' : formatMoney(money(value, currency)));
    return [
      {
        ...{ id: rule, rules: [rule], says, before: told(before), after: told(minor), everywhere: false },
        apply: (now) => withBound(now, storeId, { [bound]: minor }),
      },
    ];
  });
  const texts = WORD_FIXES.flatMap((make): Fix[] => {
    const { words: fitted, ...fix } = make(world, words);
    if (!isBroken(fix.rules) || fix.before === fix.after) return [];
    return [
      { id: fix.rules[0]!, ...fix, everywhere: true, apply: (now, where) => withWords(now, storeId, where, fitted) },
    ];
  });
  return [...(isBroken(['variants']) ? fewerVariants(world) : []), ...prices, ...texts];
}

/** Fixes of which one for each broken rule is enough, the first. */
export function firstOfEach<F extends Pick<Fix, 'rules'>>(fixes: readonly F[]): F[] {
  const kept = new Set<string>();
  return fixes.filter(({ rules }) => {
    const known = rules.every((rule) => kept.has(rule));
    rules.forEach((rule) => kept.add(rule));
    return !known;
  });
}
