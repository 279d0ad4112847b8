import type { ListingForm } from '../listing/form';
import { formatMoney, money } from '../pricing/money';
import type { ChannelDemands, DocketPart, RuleResult } from './demands';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** Length of a text as a person counts it: grapheme clusters of UAX #29, so that a family emoji is 1. */
export const graphemeCount = (text: string): number => [...graphemes.segment(text)].length;

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** What the rules look at beside the form. */
export interface RuleFacts {
  readonly channelName: string;
  /** Longer side of the pictures that would be sent, px. */
  readonly pictureLongSidePx: number;
  readonly partnerDeclared: boolean;
  /** Variants whose price is below their floor, with both. */
  readonly belowFloor: readonly {
    readonly name: string;
    readonly priceMinor: number;
    readonly floorMinor: number | null;
  }[];
  /** Who took selling below the floor upon themselves, and in which words. */
  readonly floorAccepted?: { readonly says: string; readonly by: string } | null;
  /** Areas that carry artwork. */
  readonly usedAreaCount: number;
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
    `Take out ${variants - demands.variantsMax} or more: fewer colors or sizes.`,
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

  const below = facts.belowFloor[0];
  const loss = below
    ? `${below.name} at ${formatMoney(money(below.priceMinor, form.currency))} loses money: ${below.floorMinor === null ? 'with these fees no price brings anything' : `its floor is ${formatMoney(money(below.floorMinor, form.currency))}`}${facts.belowFloor.length > 1 ? ` (and ${facts.belowFloor.length - 1} more)` : ''}.`
    : 'No price is below its floor.';
  const acceptedBy = below && facts.floorAccepted?.says === loss ? facts.floorAccepted.by : null;
  rule('floor', 'price', !below || acceptedBy !== null, loss, 'Raise the price to the floor or above.');
  if (below) results.push({ ...results.pop()!, acceptable: true, ...(acceptedBy === null ? {} : { acceptedBy }) });
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
    title > demands.titleMax ? `Take out ${count(title - demands.titleMax, 'character')}.` : 'Write a title.',
  );
  const description = graphemeCount(form.description);
  rule(
    'description',
    'words',
    description > 0 && description <= demands.descriptionMax,
    `The description has ${count(description, 'character')}; ${shop} wants 1 to ${demands.descriptionMax}.`,
    description === 0
      ? 'Write a description.'
      : `Take out ${count(description - demands.descriptionMax, 'character')}.`,
  );
  rule(
    'tags',
    'words',
    form.tags.length <= demands.tagsMax,
    `${count(form.tags.length, 'tag')}; ${shop} takes up to ${demands.tagsMax}.`,
    `Take out ${count(form.tags.length - demands.tagsMax, 'tag')}.`,
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
    'Take one out.',
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
