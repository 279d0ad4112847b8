import type { Blank } from '../catalog/blank';
import { unprintable } from '../json/bounds';
import { ownEntry } from '../own-entry';
import { MAX_RETAIL_MINOR } from '../pricing/money';
import type { ToldShipping } from '../pricing/told-shipping';
import type { ChannelDemands } from '../rules/demands';
import type { CarriedFields, StandingAnswers } from './carried';
import { shadeAnswers, type ChosenShades, type ShadeAnswer } from './shades';

/** What a seller answers a store's channel for good: by good where that differs, else once. */
export interface StoreAnswers {
  /** By the good's code: the place in the shop's tree, and what that place asks. */
  readonly byGood?: { readonly [goodCode: string]: GoodAnswers };
  readonly warehouse?: string;
  /** Brand under which a shop gives leave to go without product codes. */
  readonly brand?: string;
  /** Days until a parcel is sent; absent: the longest that the blank's partner says. */
  readonly processingDays?: number;
  /** A shop's name for a color in place of the nearest, by the blank's code for it. */
  readonly shades?: ChosenShades;
  /** Collection that a tag puts a product in, by the tag in small letters. */
  readonly collectionsByTag?: { readonly [tag: string]: string };
  /** What buyers pay for sending goods of a parcel class, in the store's currency, in place of what the partner takes. */
  readonly shippingByClass?: { readonly [parcelClass: string]: ToldShipping };
}

export interface GoodAnswers {
  readonly category: string | null;
  readonly attributes: { readonly [key: string]: string };
}

/** Leave to sell without codes, as far as a form says it. */
export interface GrantedExemption {
  readonly id: string;
  readonly brand: string;
  readonly state: 'asked' | 'granted' | 'refused';
}

const namesOf = (answers: readonly ShadeAnswer[]): Record<string, string> =>
  Object.fromEntries(answers.flatMap(({ code, shade }) => (shade === null ? [] : [[code, shade]])));

/** The answers as they are for one blank; a question that the channel does not ask has none. `ownShades`: the product's for that store. */
export function standingAnswers(
  own: StoreAnswers,
  { demands, carries }: { readonly demands: ChannelDemands; readonly carries: CarriedFields },
  blank: Blank,
  exemptions: readonly GrantedExemption[],
  ownShades: ChosenShades = {},
): StandingAnswers {
  const ofGood = ownEntry(own.byGood ?? {}, blank.code);
  const terms: Record<string, string> = {};
  if (demands.warehouse && own.warehouse) terms.warehouse = own.warehouse;
  if (demands.codes && own.brand) {
    terms.brand = own.brand;
    const granted = exemptions.find(({ brand, state }) => brand === own.brand && state === 'granted');
    if (granted) terms.waiver = granted.id;
  }
  if (demands.processingDays) terms.processingDays = String(own.processingDays ?? blank.makingDays.max);
  return {
    category: ofGood?.category ?? null,
    attributes: ofGood?.attributes ?? {},
    terms,
    shades:
      carries.shades && demands.shades
        ? namesOf(shadeAnswers(blank, demands.shades, { product: ownShades, store: own.shades }))
        : {},
    collectionsByTag: own.collectionsByTag ?? {},
  };
}

/** Answers of many entries, that are changed one by one. */
const BY_ENTRY = ['byGood', 'shades', 'collectionsByTag', 'shippingByClass'] as const;
type ByEntry = (typeof BY_ENTRY)[number];

type EntriesChange<T> = { readonly [K in keyof T]: T[K] | null };

/** A change of answers: each member takes the place of the one that was there, those of many entries entry by entry; null takes it away. */
export type AnswersChange = {
  readonly [K in keyof StoreAnswers]?:
    (K extends ByEntry ? EntriesChange<NonNullable<StoreAnswers[K]>> : StoreAnswers[K]) | null;
};

const withoutNulls = (record: object) => Object.fromEntries(Object.entries(record).filter(([, one]) => one !== null));

/** Answers with a change laid over them, so that two changes of different answers do not meet. */
export function withAnswers(own: StoreAnswers, change: AnswersChange): StoreAnswers {
  const entries = BY_ENTRY.flatMap((key) => {
    const changed = change[key];
    return changed ? [[key, withoutNulls({ ...own[key], ...changed })] as const] : [];
  });
  return withoutNulls({ ...own, ...change, ...Object.fromEntries(entries) }) as StoreAnswers;
}

const MAX_ENTRIES = 200;
const isText = (value: unknown, most: number): value is string =>
  typeof value === 'string' && value.length <= most && value.trim() !== '' && !unprintable(value);
const isTexts = (value: unknown, most = 120): value is { [key: string]: string } =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.keys(value).length <= MAX_ENTRIES &&
  Object.entries(value).every(([key, text]) => isText(key, 80) && isText(text, most));

/** Entries of which one that is taken away is null. */
const areEntries = (value: unknown, isOne: (one: unknown) => boolean): boolean =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.keys(value).length <= MAX_ENTRIES &&
  Object.entries(value).every(([key, one]) => isText(key, 80) && (one === null || isOne(one)));

const isCharge = (value: unknown): boolean => {
  const { firstMinor, furtherMinor, ...rest } = (value ?? {}) as Partial<ToldShipping>;
  const isSum = (minor: unknown) =>
    Number.isInteger(minor) && (minor as number) >= 0 && (minor as number) <= MAX_RETAIL_MINOR;
  return Object.keys(rest).length === 0 && isSum(firstMinor) && isSum(furtherMinor);
};

const isGoodAnswers = (value: unknown): boolean => {
  const { category, attributes, ...rest } = (value ?? {}) as Partial<GoodAnswers>;
  return Object.keys(rest).length === 0 && (category === null || isText(category, 80)) && isTexts(attributes);
};

const CHECKS: ReadonlyMap<string, readonly [check: (value: unknown) => boolean, says: string]> = new Map([
  [
    'byGood',
    [
      (value: unknown) => areEntries(value, isGoodAnswers),
      'byGood has for each good, by its code, a category and attributes of up to 120 characters.',
    ],
  ],
  ['warehouse', [(value: unknown) => isText(value, 80), 'warehouse is the id of one.']],
  ['brand', [(value: unknown) => isText(value, 80), 'brand has 1 to 80 characters.']],
  [
    'processingDays',
    [
      (value: unknown) => Number.isInteger(value) && (value as number) >= 1 && (value as number) <= 60,
      'processingDays is a whole number from 1 to 60.',
    ],
  ],
  [
    'shades',
    [
      (value: unknown) => areEntries(value, (one) => isText(one, 120)),
      'shades names a color of the shop for colors of blanks.',
    ],
  ],
  [
    'collectionsByTag',
    [
      (value: unknown) => areEntries(value, (one) => isText(one, 120)),
      'collectionsByTag names a collection of up to 120 characters for tags.',
    ],
  ],
  [
    'shippingByClass',
    [
      (value: unknown) => areEntries(value, isCharge),
      'shippingByClass has for each parcel class firstMinor and furtherMinor, in minor units of the store’s currency.',
    ],
  ],
]);

/** Faults of a store's answers as sentences; none means that they can be kept. */
export function checkAnswers(value: unknown): string[] {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return ['answers is an object.'];
  return Object.entries(value).flatMap(([key, one]) => {
    const known = CHECKS.get(key);
    if (!known) return [`answers has “${key.slice(0, 40)}”, which no store is asked.`];
    return known[0](one) ? [] : [known[1]];
  });
}
