import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHANGED_KINDS, kindOfField } from './changed';
import { compare, merge } from './merge';
import { sampleForm, sampleVariant } from './sample';
import { asRulesSay, checkStandingRules, type StandingRules } from './standing-rules';
import { formOf, treeOf } from './tree';

const FORM = sampleForm();
/** Both changed the title and the price, the shop alone the tags, we alone the description. */
const sides = {
  agreed: treeOf(FORM),
  here: treeOf({
    ...FORM,
    title: 'Ours',
    description: 'Ours',
    variants: { ...FORM.variants, 'size=m': sampleVariant('A', { priceMinor: 1 }) },
  }),
  there: treeOf({
    ...FORM,
    title: 'Theirs',
    tags: ['theirs'],
    variants: { ...FORM.variants, 'size=m': sampleVariant('A', { priceMinor: 2 }) },
  }),
};
const settled = (rules: StandingRules) => {
  const { here, there } = merge(sides, asRulesSay(rules));
  const told = ({ title, description, tags, variants }: ReturnType<typeof formOf>) => ({
    title,
    description,
    tags: tags.length,
    price: variants['size=m']!.priceMinor,
  });
  return [told(formOf(here)), told(formOf(there))];
};

describe('standing rules', () => {
  it('settle what the shop did as they say by kind, and take back nothing that we alone did', () => {
    expect(settled({ words: 'theirs', price: 'ours' })).toEqual([
      { title: 'Theirs', description: 'Ours', tags: 1, price: 1 },
      { title: 'Theirs', description: 'Ours', tags: 1, price: 1 },
    ]);
    expect(settled({ words: 'ours' })[1]).toMatchObject({ title: 'Ours', tags: FORM.tags.length, price: 2 });
  });

  it('leave to a person what both changed, in each kind that they say nothing about', () => {
    const rules = fc.record(
      Object.fromEntries(CHANGED_KINDS.map((kind) => [kind, fc.constantFrom('ours', 'theirs')])),
      { requiredKeys: [] },
    ) as fc.Arbitrary<StandingRules>;
    fc.assert(
      fc.property(rules, (some) => {
        const { differences: _, ...after } = merge(sides, asRulesSay(some));
        const left = compare(after).filter(({ change }) => change === 'both');
        const open = ['words', 'price'].filter((kind) => !(kind in some));
        expect(left.map(({ field }) => kindOfField(field)).sort()).toEqual(open.sort());
      }),
    );
  });

  it('are told when they are none', () => {
    expect(checkStandingRules({ price: 'ours', words: 'theirs' })).toEqual([]);
    expect(checkStandingRules({ mood: 'ours', price: 'both' })).toEqual([
      'standing has “mood”; its kinds are words, price, variants, pictures, shipping, category, other.',
      'standing.price is ours or theirs.',
    ]);
    expect(checkStandingRules([])).toEqual(['standing is an object.']);
  });
});
