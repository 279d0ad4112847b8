import { FORM_FORMAT, type ListingForm } from '@/core/listing/form';
import type { ChannelAbout } from '../channel';

const SHIPPING = { firstMinor: 905, furtherMinor: 315 };

/** What of a sample differs by channel: what only its seller can answer. */
export type SampleAnswers = Partial<Pick<ListingForm, 'category' | 'attributes' | 'terms' | 'title'>>;

let samples = 0;

/** A listing that a channel takes: as much of everything as it keeps. */
export function sampleFormFor(about: ChannelAbout, answers: SampleAnswers = {}): ListingForm {
  const { carries, demands, comparesAt, sellsTo } = about;
  samples += 1;
  // No shop has seen these pictures.
  const [first, second, third] = [1, 2, 3].map((n) => `k${n}-${samples}-${Math.round(performance.now() * 1000)}`) as [
    string,
    string,
    string,
  ];
  const variant = (sku: string, pictureKey: string, shade: string, grams: number) => ({
    sku,
    compareAtMinor: null,
    pictureKey,
    gtin: carries.codes ? (sku === 'X-EST-M' ? '4006381333931' : '4012345678901') : null,
    grams: carries.weight === 'heaviest' ? 210 : carries.weight ? grams : null,
    shade: carries.shades ? shade : null,
  });
  return {
    format: FORM_FORMAT,
    title: 'Crossed Blades tee for the whole crew',
    description: 'The crest.\n\nPrinted to order. “Quotes”, <tags> & é.',
    tags: carries.tags ? ['rowing', 'river & tide'] : [],
    currency: about.currency ?? 'GBP',
    options: [
      {
        code: 'color',
        name: 'Color',
        values: [
          { code: 'estuary', name: 'Estuary' },
          { code: 'coal', name: 'Coal' },
        ],
      },
      { code: 'size', name: 'Size', values: [{ code: 'm', name: 'M' }] },
    ],
    variants: {
      'color=coal;size=m': {
        ...variant('X-COAL-M', second, 'Black', 210),
        priceMinor: 2150,
        compareAtMinor: comparesAt ? 2550 : null,
        inStock: true,
      },
      'color=estuary;size=m': { ...variant('X-EST-M', first, 'Teal', 190), priceMinor: 1999, inStock: false },
    },
    pictures: [
      { key: first, alt: 'in Estuary' },
      { key: second, alt: 'in Coal' },
      { key: third, alt: 'from near' },
    ],
    shipping: [
      {
        countries: sellsTo.slice(0, 2),
        ...SHIPPING,
        ...(carries.eachItemAlike ? { furtherMinor: SHIPPING.firstMinor } : {}),
      },
    ],
    partner: { name: carries.partnerName ? 'Millrace Works' : '', country: 'GB' },
    category: null,
    attributes: {},
    terms: {},
    highlights: carries.highlights ? ['Of organic cotton', 'Printed to order'].slice(0, demands.highlightsMax) : [],
    pageAddress: carries.pageAddress ? 'crossed-blades-tee' : null,
    seo: carries.seo ? { title: 'Crossed Blades tee', description: 'The crest on a shirt.' } : null,
    collections: carries.collections ? ['Rowing'] : [],
    ...answers,
  };
}
