import { describe, expect, it } from 'vitest';
import type { ListingForm } from '../listing/form';
import { changedKinds } from './changed';
import { sampleForm } from './sample';

const form = sampleForm();
const { 'size=m': one } = form.variants;
const with1 = (over: object) => ({ ...form, variants: { ...form.variants, 'size=m': { ...one, ...over } } });

describe('what changed of a listing', () => {
  it.each([
    ['nothing', form, []],
    ['its title and tags', { ...form, title: 'Crests', tags: [] }, ['words']],
    ['a price', with1({ priceMinor: 2099 }), ['price']],
    ['a price to compare with', with1({ compareAtMinor: 2500 }), ['price']],
    ['a SKU', with1({ sku: 'A2' }), ['variants']],
    ['what a variant shows', with1({ pictureKey: 'q' }), ['pictures']],
    ['a variant taken away, whose price is no change', { ...form, variants: { 'size=m': one! } }, ['variants']],
    ['a variant added', { ...form, variants: { ...form.variants, 'size=s': one! } }, ['variants']],
    ['one for another', { ...form, variants: { 'size=m': one!, 'size=s': one! } }, ['variants']],
    [
      'delivery, place and maker',
      { ...form, shipping: [], category: null, partner: { name: 'Oststern', country: 'DE' } },
      ['shipping', 'category', 'other'],
    ],
    ['an attribute', { ...form, attributes: {} }, ['category']],
  ])('%s', (_, here, kinds) => {
    expect(changedKinds(form, here as ListingForm)).toEqual(kinds);
  });
});
