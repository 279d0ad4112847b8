import type { ListingForm } from '../listing/form';
import type { LosingVariant } from '../pricing/floor';
import type { AcceptedLosses } from './accepted-losses';
import type { ChannelDemands, DocketPart, RuleResult } from './demands';

/** What the rules look at beside the form. */
export interface RuleFacts {
  readonly channelName: string;
  /** Longer side of the pictures that would be sent, px. */
  readonly pictureLongSidePx: number;
  readonly partnerDeclared: boolean;
  /** Variants that are sold at a loss to a destination. */
  readonly losing: readonly LosingVariant[];
  /** Who accepted which losses. */
  readonly lossesAccepted?: { readonly losses: AcceptedLosses; readonly by: string } | null;
  /** Areas that carry artwork. */
  readonly usedAreaCount: number;
  /** Titles of products in its bundles on which nothing is printed. */
  readonly bareCompanions?: readonly string[];
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
