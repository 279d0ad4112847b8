import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { newDocument, type ProductDocument } from '../document/document';
import { setAimForAll, setAims } from '../pricing/fixing';
import type { Outlet } from '../pricing/outlet';
import { PLAIN_SETTINGS } from '../pricing/settings';
import { listingForm, type ListingForm } from './form';
import { newlyShown, NO_SALE, priceTerms, type PriceEdit, type PriceTerms } from './shown-prices';

const outlet: Outlet = {
  id: 's1',
  name: 'Pennyquay',
  currency: 'USD',
  fees: [],
  expectedSales: 10,
  sellsTo: ['US'],
  aimsAt: 'first',
};
const [KEY, OTHER] = demoBlank.variants.map((variant) => variant.key) as [string, string];
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Crossed Blades tee'),
  variants: { [KEY]: {}, [OTHER]: {} },
};
const world = { list: demoList, rates: demoRates, outlet, settings: PLAIN_SETTINGS, sales: [] };
const terms = priceTerms({ document: doc, revision: 4 }, world);
const form = listingForm({ productId: 'p1', doc, blank: demoBlank, ...world, pictures: [] });
const priced = (priceMinor: number | null, compareAtMinor: number | null = null): ListingForm => {
  const { [KEY]: one, ...others } = form.variants;
  return {
    ...form,
    variants: priceMinor === null ? others : { ...others, [KEY]: { ...one!, priceMinor, compareAtMinor } },
  };
};
const shown = (
  now: ListingForm,
  changed: Partial<PriceTerms> = {},
  edits: readonly PriceEdit[] = [],
  document: ProductDocument = doc,
) => newlyShown({ form, terms }, { form: now, terms: { ...terms, ...changed } }, { document, storeId: 's1', edits });

describe('what moved a price that a shop shows', () => {
  it('is nothing where the price is the same, whatever else changed', () => {
    expect(shown(form, { list: 'x', rate: 'x', fee: 'x' })).toEqual([]);
    expect(shown({ ...form, title: 'Another' })).toEqual([]);
  });

  it('is that it is shown for the first time, or no longer', () => {
    expect(newlyShown(null, { form, terms }, { document: doc, storeId: 's1', edits: [] })).toEqual(
      [KEY, OTHER].map((variantKey) => ({
        variantKey,
        priceMinor: form.variants[variantKey]!.priceMinor,
        compareAtMinor: null,
        causes: ['first'],
      })),
    );
    expect(shown(priced(null))).toEqual([
      { variantKey: KEY, priceMinor: null, compareAtMinor: null, causes: ['gone'] },
    ]);
  });

  it.each([
    [{ list: 'x' }, ['list']],
    [{ rate: 'x', fee: 'x' }, ['rate', 'fee']],
    [{ settings: 'x' }, ['settings']],
    [{ sale: 'x', list: 'x' }, ['sale', 'list']],
    [{}, ['product']],
  ] as const)('is told from what it was made of: %j', (changed, causes) => {
    expect(shown(priced(9900), changed)).toEqual([
      { variantKey: KEY, priceMinor: 9900, compareAtMinor: null, causes: [...causes] },
    ]);
  });

  it('is an edit for this variant and this store, or for all of them, and no other', () => {
    const edit = (also: Partial<PriceEdit>): PriceEdit => ({ storeId: null, variantKey: '*', cause: 'rule', ...also });
    const causes = (also: Partial<PriceEdit>) => shown(priced(9900), { revision: 5 }, [edit(also)])[0]!.causes;
    expect(causes({})).toEqual(['rule']);
    expect(causes({ storeId: 's1', variantKey: KEY, cause: 'typed' })).toEqual(['typed']);
    expect(causes({ storeId: 's2' })).toEqual(['product']);
    expect(causes({ variantKey: OTHER })).toEqual(['product']);
  });

  it('is not a cost, a rate or a fee where the price was typed in the shop’s own currency', () => {
    const typed = setAims(doc, 's1', [KEY], { kind: 'retail', amountMinor: 9900 });
    const edits: PriceEdit[] = [{ storeId: 's1', variantKey: KEY, cause: 'typed' }];
    expect(shown(priced(9900), { rate: 'x', list: 'x' }, edits, typed)[0]!.causes).toEqual(['typed']);
    // In pounds for all stores: a rate stands between.
    const inPounds = setAimForAll(doc, null, { kind: 'retail', amountMinor: 9900 });
    expect(shown(priced(9900), { rate: 'x' }, edits, inPounds)[0]!.causes).toEqual(['typed', 'rate']);
  });

  it('is a change of the price to compare with, too', () => {
    const { priceMinor } = form.variants[KEY]!;
    expect(shown(priced(priceMinor, priceMinor + 500), { sale: 'x' })).toMatchObject([
      { priceMinor, compareAtMinor: priceMinor + 500, causes: ['sale'] },
    ]);
  });
});

describe('what prices are made of', () => {
  it('differs by what can move a price, part by part, and by nothing else', () => {
    const of = (also: Partial<typeof world>) => priceTerms({ document: doc, revision: 4 }, { ...world, ...also });
    const parts = (also: Partial<typeof world>) =>
      Object.entries(of(also))
        .filter(([part, value]) => terms[part as keyof PriceTerms] !== value)
        .map(([part]) => part);
    expect(parts({})).toEqual([]);
    expect(terms.sale).toBe(NO_SALE);
    expect(parts({ outlet: { ...outlet, name: 'Renamed' } })).toEqual([]);
    expect(parts({ list: { ...demoList, baseCostMinor: { ...demoList.baseCostMinor, [KEY]: 1 } } })).toEqual(['list']);
    expect(parts({ outlet: { ...outlet, expectedSales: 11 } })).toEqual(['settings']);
    expect(parts({ settings: { ...PLAIN_SETTINGS, rateMarginPpm: 1 } })).toEqual(['settings']);
    // Where one sells: only where aims are met on the whole of it.
    const settings = { ...PLAIN_SETTINGS, mix: [{ country: 'GB', weight: 1 }] };
    expect(parts({ settings })).toEqual([]);
    const whole = { ...outlet, aimsAt: 'mix' } as const;
    expect(of({ settings, outlet: whole }).settings).not.toBe(of({ outlet: whole }).settings);
  });
});
