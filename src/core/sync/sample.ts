import { FORM_FORMAT, type ListingForm, type ListingVariant } from '../listing/form';

/** A variant for tests. */
export const sampleVariant = (sku: string, over: Partial<ListingVariant> = {}): ListingVariant => ({
  sku,
  priceMinor: 1999,
  compareAtMinor: null,
  inStock: true,
  pictureKey: 'front',
  gtin: null,
  grams: 180,
  shade: null,
  ...over,
});

/** A listing form for tests, with something in most of its fields. */
export const sampleForm = (over: Partial<ListingForm> = {}): ListingForm => ({
  format: FORM_FORMAT,
  currency: 'USD',
  title: 'Crossed Blades tee',
  description: 'For early mornings.',
  tags: ['river', 'tide', 'oar'],
  highlights: [],
  pageAddress: 'crossed-blades-tee',
  seo: { title: 'Crossed Blades', description: 'A tee.' },
  collections: [],
  options: [
    {
      code: 'size',
      name: 'Size',
      values: [
        { code: 'm', name: 'M' },
        { code: 'l', name: 'L' },
      ],
    },
  ],
  variants: { 'size=m': sampleVariant('A'), 'size=l': sampleVariant('B') },
  pictures: [
    { key: 'front', alt: 'Front' },
    { key: 'back', alt: 'Back' },
    { key: 'flat', alt: '' },
  ],
  shipping: [{ countries: ['US'], firstMinor: 400, furtherMinor: 100 }],
  partner: { name: 'Millrace Works', country: 'US' },
  category: 'tops',
  attributes: { fit: 'Straight' },
  terms: {},
  ...over,
});
