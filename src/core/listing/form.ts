import { colorOption, parseVariantKey, type Blank, type BlankVariant, type PriceList } from '../catalog/blank';
import {
  BUNDLE_OPTION,
  bundledKey,
  bundleInStock,
  bundlePricers,
  NO_COMPANIONS,
  type BundlePricer,
  type Companions,
} from '../pricing/bundle';
import type { SizesIn } from '../catalog/size-guide';
import type { Outlet } from '../pricing/outlet';
import type { PricingWorld } from '../pricing/plan';
import { pricer, type PricedVariant } from '../pricing/pricer';
import { salePrice, type SaleOff } from '../pricing/sale';
import type { RateTable } from '../pricing/rates';
import type { ProductDocument } from '../document/document';
import { asSoldIn } from '../document/offered';
import { inOrder } from '../order-key';
import type { MoneySettings } from '../pricing/settings';
import { orderedValues } from '../variants/order';
import { bundledSku, skusOf, type SentSkus } from '../variants/sku';
import { TypicaError } from '../errors';
import { ownEntry } from '../own-entry';
import { shippingLines, type ShippingLines } from './form-shipping';
import { formWords, type FormWords } from './form-words';
import { NO_ANSWERS, PLAIN_FIELDS, type CarriedFields, type StandingAnswers } from './carried';

/** The newest form; what is stored in an older one is brought up by `upcast`. */
export const FORM_FORMAT = 9;

/**
 * A product as one shop sees it: the canonical form. Its RFC 8785 text is what is compared with the shop; whatever Typica and a shop
 * can disagree about is in here, and nothing else.
 */
export interface ListingForm extends FormWords {
  readonly format: typeof FORM_FORMAT;
  readonly currency: string;
  readonly options: readonly {
    readonly code: string;
    readonly name: string;
    readonly values: readonly { readonly code: string; readonly name: string }[];
  }[];
  readonly variants: { readonly [variantKey: string]: ListingVariant };
  /** In the order in which they are shown; the first is the main one. */
  readonly pictures: readonly { readonly key: string; readonly alt: string }[];
  readonly shipping: readonly ShippingLines[];
  /** Who makes it and where; a shop that shows no names has none here. */
  readonly partner: { readonly name: string; readonly country: string };
  /** Where it stands in the shop's own tree; null where the shop has none, or none is chosen. */
  readonly category: string | null;
  /** What the category asks, and what the shop asks of every listing, by the shop's own keys. */
  readonly attributes: { readonly [key: string]: string };
  readonly terms: { readonly [key: string]: string };
}

export interface ListingVariant {
  readonly sku: string;
  readonly priceMinor: number;
  /** What it costs outside of a sale, shown beside the price; null: nothing is shown. */
  readonly compareAtMinor: number | null;
  readonly inStock: boolean;
  readonly pictureKey: string | null;
  /** Null where the shop keeps none of these, or the seller has none. */
  readonly gtin: string | null;
  /** Weight as packed, g. */
  readonly grams: number | null;
  /** The shop's own name for its color. */
  readonly shade: string | null;
}

/** A picture that a listing wants: which shot on which color, under the key of its content. */
export interface WantedPicture {
  /** Its id in the document, or what it is where the document names none. */
  readonly id: string;
  readonly key: string;
  /** Null for a picture of the seller's own. */
  readonly shotId: string | null;
  readonly color: string | null;
  readonly alt: string;
  /** Shown for the variants of its color, whatever comes before it. */
  readonly main: boolean;
}

/** The picture that is shown for a color: its main one, else the first of it. */
export const pictureOfColor = <P extends Pick<WantedPicture, 'color' | 'main'>>(
  pictures: readonly P[],
  color: string | null,
): P | undefined =>
  pictures.find((picture) => picture.color === color && picture.main) ??
  pictures.find((picture) => picture.color === color);

export interface FormInput {
  readonly productId: string;
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly list: PriceList;
  readonly rates: RateTable;
  readonly outlet: Outlet;
  readonly pictures: readonly WantedPicture[];
  readonly settings?: MoneySettings;
  /** Destination for which base prices are solved. */
  readonly home?: string;
  /** SKUs that a shop has seen already. */
  readonly sentSkus?: SentSkus;
  /** The sales in which it is there now: of several the one that takes off most. */
  readonly sales?: readonly SaleOff[];
  /** Whether the shop shows a price to compare with. */
  readonly comparesAt?: boolean;
  /** Products that are sold together with this one. */
  readonly companions?: Companions;
  /** Options that the shop takes; absent: any number. */
  readonly optionsMax?: number;
  /** What the shop keeps; absent: what the simplest does. */
  readonly carries?: CarriedFields;
  readonly answers?: StandingAnswers;
  /** Units in which the store tells sizes under the description; absent: it does not. */
  readonly sizesIn?: SizesIn;
}

/** What is priced of a product in a store: each variant, and each in every bundle. */
export interface Offers {
  readonly price: (variantKey: string) => PricedVariant;
  readonly bundles: readonly [bundleId: string, pricer: BundlePricer][];
}

/** Throws what `pricer` and `bundlePricer` throw. */
export const offersOf = (
  doc: ProductDocument,
  world: PricingWorld,
  companions: Companions = NO_COMPANIONS,
): Offers => ({
  price: pricer(doc, world),
  bundles: bundlePricers(doc, world, companions),
});

/** Each of these variants by itself and in every bundle, under the key that it has in a listing. */
export const everyOffer = ({ price, bundles }: Offers, variantKeys: readonly string[]): PricedVariant[] => [
  ...variantKeys.map(price),
  ...bundles.flatMap(([id, { priceOf }]) => variantKeys.map((key) => ({ ...priceOf(key), key: bundledKey(key, id) }))),
];

type FormOption = ListingForm['options'][number];

/** A value with a bundle, where a shop takes no further option for the choice of bundles. */
const foldedCode = (valueCode: string, bundleId: string): string => `${valueCode}+${bundleId}`;

/** The value of an option that a variant's key names; one that names none is of the option's first. */
export function optionValue(
  option: FormOption,
  values: Readonly<Record<string, string>>,
): FormOption['values'][number] | undefined {
  const code = ownEntry(values, option.code);
  if (code === undefined) return option.values[0];
  const bundleId = ownEntry(values, BUNDLE_OPTION);
  const folded = bundleId === undefined ? undefined : foldedCode(code, bundleId);
  return option.values.find((value) => value.code === folded) ?? option.values.find((value) => value.code === code);
}

/** The canonical form of a product for a store. Throws what pricing throws, and `nothing-chosen` when there are no variants. */
export function listingForm({ doc: product, ...world }: FormInput): ListingForm {
  const { blank, outlet, pictures } = world;
  const doc = asSoldIn(product, outlet.id);
  const input = { ...world, doc };
  if (Object.keys(doc.variants).length < 1 && Object.keys(product.variants).length > 0)
    throw new TypicaError(
      'invalid',
      'nothing-chosen',
      `All chosen variants are left out of ${outlet.name}: nothing would be left. Sell at least one there.`,
    );
  const made = blank.variants.filter((variant) => Object.hasOwn(doc.variants, variant.key) && !variant.ended);
  const chosen = doc.whenOut === 'hidden' ? made.filter((variant) => variant.inStock) : made;
  if (chosen.length === 0 && made.length > 0)
    throw new TypicaError(
      'invalid',
      'nothing-chosen',
      'All chosen variants are out of stock, and such variants are hidden: nothing would be left. Show them as sold out, or choose others.',
    );
  if (chosen.length === 0)
    throw new TypicaError('invalid', 'nothing-chosen', 'No color and size is chosen; choose at least one variant.');
  const { carries = PLAIN_FIELDS, answers = NO_ANSWERS } = input;
  return {
    format: FORM_FORMAT,
    ...formWords(input),
    currency: outlet.currency,
    options: optionsOf(input, chosen),
    variants: variantsOf(input, chosen),
    pictures: pictures.map(({ key, alt }) => ({ key, alt })),
    shipping: shippingLines(input),
    partner: { name: carries.partnerName ? blank.partner.name : '', country: blank.partner.country },
    category: carries.category ? answers.category : null,
    attributes: carries.category ? answers.attributes : {},
    terms: answers.terms,
  };
}

/**
 * The blank's options with the values that are chosen, and the choice of bundles where there are some: an option of its own, or where the shop takes no
 * further one, values beside those of the last that is no color (`M`, `M, With a mug`).
 */
function optionsOf(
  { doc, blank, optionsMax = Number.POSITIVE_INFINITY }: FormInput,
  chosen: readonly BlankVariant[],
): ListingForm['options'] {
  const own = blank.options.map((option) => ({
    code: option.code,
    name: option.name,
    values: orderedValues(doc, option)
      .filter((value) => chosen.some((variant) => ownEntry(variant.values, option.code) === value.code))
      .map(({ code, name }) => ({ code, name })),
  }));
  const bundles = inOrder(doc.bundles?.entries ?? {}).map(([code, { name }]) => ({ code, name: name.trim() }));
  if (!doc.bundles || bundles.length === 0) return own;
  if (own.length < optionsMax || own.length === 0) {
    const values = [{ code: 'alone', name: doc.bundles.alone.trim() }, ...bundles];
    return [...own, { code: BUNDLE_OPTION, name: doc.bundles.option.trim(), values }];
  }
  const color = colorOption(blank)?.code;
  const last = own.findLast(({ code }) => code !== color) ?? own.at(-1)!;
  const fold = ({ code, name }: FormOption['values'][number]) =>
    bundles.map((bundle) => ({ code: foldedCode(code, bundle.code), name: `${name}, ${bundle.name}` }));
  return own.map((option) =>
    option === last ? { ...option, values: [...option.values, ...option.values.flatMap(fold)] } : option,
  );
}

/** Every chosen variant by itself, then in each bundle. */
function variantsOf(input: FormInput, chosen: readonly BlankVariant[]): ListingForm['variants'] {
  const { doc, blank, list, rates, outlet, pictures, settings, home, sales = [], comparesAt = false } = input;
  const { companions = NO_COMPANIONS, sentSkus = {} } = input;
  const color = colorOption(blank);
  const { price, bundles } = offersOf(doc, { blank, list, rates, outlet, settings, home }, companions);
  const { carries = PLAIN_FIELDS, answers = NO_ANSWERS } = input;
  const skus = skusOf(input.productId, doc, blank, sentSkus);
  const heaviestG = Math.max(...chosen.map(({ packWeightG }) => packWeightG));
  const alone = chosen.map(({ key, values, inStock, packWeightG }): [string, ListingVariant] => {
    const ofColor = color ? ownEntry(values, color.code)! : null;
    return [
      key,
      {
        sku: skus.get(key)!,
        ...asked(price(key), sales, comparesAt),
        inStock,
        pictureKey: pictureOfColor(pictures, ofColor)?.key ?? null,
        gtin: carries.codes ? (ownEntry(doc.variants, key)?.gtin ?? null) : null,
        grams: carries.weight === 'heaviest' ? heaviestG : carries.weight ? packWeightG : null,
        shade: carries.shades && ofColor !== null ? (ownEntry(answers.shades, ofColor) ?? null) : null,
      },
    ];
  });
  // A sale at one price is for the product, not for everything that is sold with it.
  const bundleSales = sales.filter(({ kind }) => kind !== 'price');
  const together = bundles.flatMap(([id, { bundle, priceOf }]) => {
    const inStock = bundleInStock(bundle, companions);
    return alone.map(([key, variant]): [string, ListingVariant] => [
      bundledKey(key, id),
      {
        ...variant,
        // A set is another thing than the product by itself: it has no code of its own yet.
        gtin: null,
        sku: ownEntry(sentSkus, bundledKey(key, id)) ?? bundledSku(variant.sku, id),
        ...asked(priceOf(key), bundleSales, comparesAt),
        inStock: variant.inStock && inStock,
      },
    ]);
  });
  return Object.fromEntries([...alone, ...together]);
}

/** The price that a shop is told, and the one to compare it with. */
function asked(priced: PricedVariant, sales: readonly SaleOff[], comparesAt: boolean) {
  const { retailMinor } = priced;
  const priceMinor = Math.min(retailMinor, ...sales.map((sale) => salePrice(priced, sale).priceMinor));
  return { priceMinor, compareAtMinor: comparesAt && priceMinor < retailMinor ? retailMinor : null };
}

/** Variants in the order of the options' values: stored forms have theirs in the order of the alphabet. */
function inOptionOrder({ options, variants }: ListingForm): [key: string, variant: ListingVariant][] {
  const places = options.map((option) => ({
    option,
    place: new Map(option.values.map((value, i) => [value, i])),
  }));
  return Object.entries(variants)
    .map(([key, variant]) => {
      const values = parseVariantKey(key);
      return {
        key,
        variant,
        at: places.map(({ option, place }) => place.get(optionValue(option, values)!) ?? place.size),
      };
    })
    .sort((a, b) => a.at.reduce((order, place, i) => order || place - b.at[i]!, 0))
    .map(({ key, variant }) => [key, variant]);
}

/** A form as it is outside of a sale: each price is the one that was shown to compare with. */
export const outOfSale = (form: ListingForm): ListingForm => ({
  ...form,
  variants: Object.fromEntries(
    inOptionOrder(form).map(([key, variant]) => [
      key,
      variant.compareAtMinor === null
        ? variant
        : { ...variant, priceMinor: variant.compareAtMinor, compareAtMinor: null },
    ]),
  ),
});
