import type { ListingForm } from '../listing/form';
import { countryName } from '../country-names';
import { ownEntry } from '../own-entry';
import type { Loss } from '../pricing/floor';
import { formatAmount, formatMoney, money } from '../pricing/money';
import type { ChannelDemands, DocketPart, RuleResult } from './demands';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** Length of a text as a person counts it: grapheme clusters of UAX #29, so that a family emoji is 1. */
export const graphemeCount = (text: string): number => [...graphemes.segment(text)].length;

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** A variant that is sold at a loss: to which destinations, and the price at which it would not be (null: none is). */
export interface LosingVariant {
  readonly key: string;
  readonly name: string;
  readonly priceMinor: number;
  readonly losses: readonly Loss[];
  readonly floorMinor: number | null;
}

/** Losses that somebody took upon themselves, one by one: by variant and destination, what is left of an item there, below 0. */
export interface AcceptedLosses {
  readonly [variantKey: string]: { readonly [country: string]: number };
}

export const acceptedLosses = (losing: readonly LosingVariant[]): AcceptedLosses =>
  Object.fromEntries(
    losing.map(({ key, losses }) => [
      key,
      Object.fromEntries(losses.map(({ country, profitMinor }) => [country, profitMinor])),
    ]),
  );

/** Losing variants with what nobody took upon themselves: a loss that is new, or deeper than it was. */
function openLosses(losing: readonly LosingVariant[], accepted: AcceptedLosses): LosingVariant[] {
  const isOpen = (key: string, { country, profitMinor }: Loss): boolean => {
    const taken = ownEntry(ownEntry(accepted, key), country);
    return taken === undefined || profitMinor < taken;
  };
  return losing.flatMap((one) => {
    const losses = one.losses.filter((loss) => isOpen(one.key, loss));
    return losses.length > 0 ? [{ ...one, losses }] : [];
  });
}

/** The first losing variant in a sentence, and how many more there are. */
function lossSays(losing: readonly LosingVariant[], currency: string): string {
  const [first] = losing;
  if (!first) return 'No price is below its floor.';
  const worst = first.losses.reduce((a, b) => (b.profitMinor < a.profitMinor ? b : a));
  const more = first.losses.length - 1;
  const where = `to ${countryName(worst.country)} (${formatAmount(money(worst.profitMinor, currency))})${more > 0 ? ` and to ${more} more` : ''}`;
  const floor =
    first.floorMinor === null
      ? 'with these fees no price brings anything'
      : `its floor is ${formatMoney(money(first.floorMinor, currency))}`;
  const others = losing.length > 1 ? ` (and ${losing.length - 1} more)` : '';
  return `${first.name} at ${formatMoney(money(first.priceMinor, currency))} loses money ${where}: ${floor}${others}.`;
}

function floorRule({ currency }: ListingForm, { losing, lossesAccepted }: RuleFacts): RuleResult {
  const open = openLosses(losing, lossesAccepted?.losses ?? {});
  const kept = open.length === 0;
  return {
    id: 'floor',
    part: 'price',
    kept,
    says: lossSays(kept ? losing : open, currency),
    mend: kept
      ? null
      : 'Raise the price to the floor, charge shipping, or do not sell there: Price, Where it sells, has each of them.',
    ...(losing.length > 0 ? { acceptable: true } : {}),
    ...(losing.length > 0 && kept ? { acceptedBy: lossesAccepted!.by } : {}),
  };
}

/** What the rules look at beside the form. */
export interface RuleFacts {
  readonly channelName: string;
  /** Longer side of the pictures that would be sent, px. */
  readonly pictureLongSidePx: number;
  readonly partnerDeclared: boolean;
  /** Variants that are sold at a loss to a destination. */
  readonly losing: readonly LosingVariant[];
  /** Who took which losses upon themselves. */
  readonly lossesAccepted?: { readonly losses: AcceptedLosses; readonly by: string } | null;
  /** Areas that carry artwork. */
  readonly usedAreaCount: number;
  /** Titles of products in its bundles on which nothing is printed. */
  readonly bareCompanions?: readonly string[];
}

/** An SKU that two variants of a form have, or null. */
function sharedSku(form: ListingForm): string | null {
  const seen = new Set<string>();
  for (const { sku } of Object.values(form.variants)) {
    if (seen.has(sku)) return sku;
    seen.add(sku);
  }
  return null;
}

/** Every demand of a channel on a form, kept or broken, in the order of the docket. */
export function evaluateRules(form: ListingForm, demands: ChannelDemands, facts: RuleFacts): RuleResult[] {
  const results: RuleResult[] = [];
  const rule = (id: string, part: DocketPart, kept: boolean, says: string, mend: string) =>
    results.push({ id, part, kept, says, mend: kept ? null : mend });
  const shop = facts.channelName;

  rule(
    'artwork',
    'artwork',
    facts.usedAreaCount > 0,
    facts.usedAreaCount > 0 ? `${count(facts.usedAreaCount, 'area')} printed.` : 'Nothing is printed on it yet.',
    'Put artwork on at least one area.',
  );

  const variants = Object.keys(form.variants).length;
  rule(
    'variants',
    'variants',
    variants <= demands.variantsMax,
    `${count(variants, 'variant')}; ${shop} takes up to ${demands.variantsMax}.`,
    `Remove ${variants - demands.variantsMax} or more: fewer colors or sizes.`,
  );
  rule(
    'options',
    'variants',
    form.options.length <= demands.optionsMax,
    `${count(form.options.length, 'option')}; ${shop} takes up to ${demands.optionsMax}.`,
    'Sell one value of an option at a time.',
  );

  const shared = sharedSku(form);
  rule(
    'sku',
    'variants',
    shared === null,
    shared === null
      ? 'Each variant has an SKU of its own.'
      : `The SKU ${shared} would be that of more than one variant; ${shop} tells variants apart by it.`,
    'Give each its own under SKUs and GTINs, or put {options} into the pattern.',
  );

  const [bare] = facts.bareCompanions ?? [];
  if (bare !== undefined)
    rule(
      'bundle-artwork',
      'price',
      false,
      `A bundle holds ${bare}, on which nothing is printed yet.`,
      `Put artwork on ${bare}, or remove it from the bundle.`,
    );

  results.push(floorRule(form, facts));
  const prices = Object.values(form.variants).map((variant) => variant.priceMinor);
  const lowest = Math.min(...prices);
  rule(
    'price-min',
    'price',
    lowest >= demands.priceMinMinor,
    `The lowest price is ${formatMoney(money(lowest, form.currency))}; ${shop} wants ${formatMoney(money(demands.priceMinMinor, form.currency))} or more.`,
    'Raise the lowest price.',
  );

  const title = graphemeCount(form.title);
  rule(
    'title',
    'words',
    title >= demands.titleMin && title <= demands.titleMax,
    `The title has ${count(title, 'character')}; ${shop} wants ${demands.titleMin} to ${demands.titleMax}.`,
    title > demands.titleMax ? `Remove ${count(title - demands.titleMax, 'character')}.` : 'Write a title.',
  );
  const description = graphemeCount(form.description);
  rule(
    'description',
    'words',
    description > 0 && description <= demands.descriptionMax,
    `The description has ${count(description, 'character')}; ${shop} wants 1 to ${demands.descriptionMax}.`,
    description === 0 ? 'Write a description.' : `Remove ${count(description - demands.descriptionMax, 'character')}.`,
  );
  rule(
    'tags',
    'words',
    form.tags.length <= demands.tagsMax,
    `${count(form.tags.length, 'tag')}; ${shop} takes up to ${demands.tagsMax}.`,
    `Remove ${count(form.tags.length - demands.tagsMax, 'tag')}.`,
  );
  const long = form.tags.filter((tag) => graphemeCount(tag) > demands.tagMax);
  rule(
    'tag-length',
    'words',
    long.length === 0,
    long.length === 0
      ? `No tag is longer than ${demands.tagMax} characters.`
      : `The tag “${long[0]}” has ${graphemeCount(long[0]!)} characters; ${shop} takes up to ${demands.tagMax}.`,
    'Shorten it.',
  );
  const twice = form.tags.filter(
    (tag, index) =>
      form.tags.findIndex((other) => other.toLocaleLowerCase('en') === tag.toLocaleLowerCase('en')) !== index,
  );
  rule(
    'tag-twice',
    'words',
    twice.length === 0,
    twice.length === 0 ? 'No tag is there twice.' : `The tag “${twice[0]}” is there twice.`,
    'Remove one.',
  );

  const pictures = form.pictures.length;
  rule(
    'pictures',
    'pictures',
    pictures >= demands.picturesMin && pictures <= demands.picturesMax,
    `${count(pictures, 'picture')}; ${shop} wants ${demands.picturesMin} to ${demands.picturesMax}.`,
    pictures < demands.picturesMin ? 'Put artwork on an area that has a shot.' : 'Choose fewer pictures.',
  );
  rule(
    'picture-size',
    'pictures',
    facts.pictureLongSidePx >= demands.pictureLongSideMinPx,
    `Pictures are ${facts.pictureLongSidePx} px on the long side; ${shop} wants ${demands.pictureLongSideMinPx} or more.`,
    'Use a larger shot.',
  );

  const partner = !demands.partnerDeclared || facts.partnerDeclared;
  rule(
    'partner',
    'stores',
    partner,
    partner
      ? `${form.partner.name} is declared as print partner.`
      : `${shop} wants the print partner ${form.partner.name} declared.`,
    `Declare ${form.partner.name} on the store’s page.`,
  );
  return results;
}

export const brokenRules = (results: readonly RuleResult[]): RuleResult[] => results.filter((result) => !result.kept);
