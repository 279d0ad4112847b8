import type { ListingForm } from '../listing/form';
import type { ChannelDemands, RuleResult } from './demands';
import { DESIGN_RULES, PICTURE_RULES, PRICE_RULES } from './listing-rules';
import { STORE_RULES } from './store-rules';
import { resultOf, type ListingRule, type RuleFacts } from './rule';
import { WORDS_RULES } from './words-rules';

/** Every rule, in the order of the docket. */
export const RULES: readonly ListingRule[] = [
  ...DESIGN_RULES,
  ...PRICE_RULES,
  ...WORDS_RULES,
  ...PICTURE_RULES,
  ...STORE_RULES,
];

/** Every demand of a channel on a form, kept or broken, in the order of the docket. */
export const evaluateRules = (form: ListingForm, demands: ChannelDemands, facts: RuleFacts): RuleResult[] =>
  RULES.flatMap((rule) => resultOf(rule, form, demands, facts));

export const brokenRules = (results: readonly RuleResult[]): RuleResult[] => results.filter((result) => !result.kept);
