import type { ListingForm } from '../listing/form';
import type { ShadeAnswer } from '../listing/shades';
import type { LosingVariant } from '../pricing/floor';
import type { AcceptedLosses } from './accepted-losses';
import type { ChannelDemands, ChannelSum, DocketPart, RuleResult } from './demands';

/** What the rules look at beside the form. */
export interface RuleFacts {
  readonly channelName: string;
  /** What the shop itself calls the seller's shop. */
  readonly shopName?: string;
  /** Longer side of the pictures that would be sent, px. */
  readonly pictureLongSidePx: number;
  /** The first picture can be set on pure white: it is a mock-up of the whole good, and no photograph of the seller's and no close-up. */
  readonly firstCanBeOnWhite?: boolean;
  /** Pictures that the shop took and then refused, with its words. */
  readonly refusedPictures?: readonly { readonly key: string; readonly words: string }[];
  /** A sum that the channel names, in the store's currency, minor units; absent: all of them are. */
  readonly sumHere?: (sum: ChannelSum) => number;
  readonly partnerDeclared: boolean;
  /** What the chosen place in the shop's tree asks; null where there is no such place. */
  readonly place?: AskingPlace | null;
  /** Where leave to go without product codes stands. */
  readonly exemption?: 'none' | 'asked' | 'granted' | 'refused';
  /** What the good is called in the store's settings. */
  readonly goodName?: string;
  /** Countries to which the listing is sold, ISO 3166 alpha-2. */
  readonly soldTo?: readonly string[];
  /** Variants that are sold at a loss to a destination. */
  readonly losing: readonly LosingVariant[];
  /** Who accepted which losses. */
  readonly lossesAccepted?: { readonly losses: AcceptedLosses; readonly by: string } | null;
  /** Colors of the good that have none of the shop's names yet. */
  readonly unnamedColors?: readonly ShadeAnswer[];
  /** Areas that carry artwork. */
  readonly usedAreaCount: number;
  /** Titles of products in its bundles on which nothing is printed. */
  readonly bareCompanions?: readonly string[];
}

/** A place in a shop's tree, and what it asks of what stands there. */
export interface AskingPlace {
  readonly path: readonly string[];
  readonly attributes: readonly {
    readonly key: string;
    readonly label: string;
    readonly choices?: readonly string[];
    readonly needed: boolean;
  }[];
}

/** What a rule finds: kept or broken, a sentence with numbers, and what to do where it is broken. */
export interface Verdict {
  readonly kept: boolean;
  readonly says: string;
  readonly mend: string;
  readonly acceptable?: boolean;
  readonly acceptedBy?: string;
}

/** One demand of a channel, on the part of a listing that it looks at. Null where it does not concern the listing. */
export interface Rule<Form> {
  readonly id: string;
  readonly part: DocketPart;
  check(form: Form, demands: ChannelDemands, facts: RuleFacts): Verdict | null;
}

/** Runs a rule. */
export function resultOf<Form>(
  { id, part, check }: Rule<Form>,
  form: Form,
  demands: ChannelDemands,
  facts: RuleFacts,
): RuleResult[] {
  const verdict = check(form, demands, facts);
  return verdict ? [{ id, part, ...verdict, mend: verdict.kept ? null : verdict.mend }] : [];
}

export type ListingRule = Rule<ListingForm>;
