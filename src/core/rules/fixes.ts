import { wordsFor, type ProductDocument, type StorePlan, type Words } from '../document/document';
import { asSoldIn } from '../document/offered';
import { setWords } from '../document/own-words';
import { asListed, hasOwnTitle } from '../document/split';
import { sizesRoom, soldSizes } from '../listing/sold-sizes';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import { formatMoney, money } from '../pricing/money';
import { cutAtWord, slugOf } from '../words/cut';
import { graphemeCount } from '../words/graphemes';
import type { Fix, FixWorld } from './fix';
import { mapColors } from './fix-shades';
import { fewerVariants, splitByColor } from './fix-variants';
import { fittedTitle } from './fitted-title';

const TITLE_RULES = ['title', 'title-ending', 'title-beginning', 'title-characters', 'shouting'] as const;

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

/**
 * Ways to keep rules that are broken (by id), in the order of the docket; what needs a person's own words or artwork has none. They change the
 * document only where it is looked at and taken.
 */
export function fixesFor(world: FixWorld, broken: readonly string[]): Fix[] {
  const { storeId, number, demands, currency } = world;
  const doc = asListed(world.doc, storeId, number);
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
    const { words: fitted, ...fix } = make({ ...world, doc }, words);
    if (!isBroken(fix.rules) || fix.before === fix.after) return [];
    const everywhere = fitted.title === undefined || !hasOwnTitle(world.doc, storeId, number);
    return [{ id: fix.rules[0]!, ...fix, everywhere, apply: (now, where) => setWords(now, world, where, fitted) }];
  });
  return [
    ...(isBroken(['variants']) ? [...fewerVariants({ ...world, doc }), ...splitByColor(world)] : []),
    ...(isBroken(['shades']) ? mapColors({ ...world, doc }) : []),
    ...prices,
    ...texts,
  ];
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
