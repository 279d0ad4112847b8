import { parseVariantKey } from '@/core/catalog/blank';
import { FORM_FORMAT, optionValue, type ListingForm, type ListingVariant } from '@/core/listing/form';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { WireItem, WireMaker, WireOffer, WireProfile } from './wire';
import { ownEntry, putEntry } from '@/core/own-entry';

type PictureIds = { readonly [pictureKey: string]: string };

/** The words of a form in Pennyquay's shape. */
export const wireWords = (form: ListingForm) => ({
  headline: form.title,
  story: form.description,
  keywords: form.tags,
});

/** Options, offers and pictures of a form in Pennyquay's shape. */
export function wireOffers(form: ListingForm, pictureIds: PictureIds) {
  const offers: WireOffer[] = Object.entries(form.variants).map(([key, variant]) => {
    const values = parseVariantKey(key);
    return {
      sku: variant.sku,
      picks: form.options.map((option) => optionValue(option, values)?.name ?? ''),
      price: formatAmount(money(variant.priceMinor, form.currency)),
      before: variant.compareAtMinor === null ? null : formatAmount(money(variant.compareAtMinor, form.currency)),
      available: variant.inStock,
      picture: variant.pictureKey ? (ownEntry(pictureIds, variant.pictureKey) ?? null) : null,
    };
  });
  return {
    choices: form.options.map(({ name, values }) => ({ name, values: values.map((value) => value.name) })),
    offers,
    pictures: form.pictures.flatMap(({ key, alt }) =>
      ownEntry(pictureIds, key) ? [{ id: ownEntry(pictureIds, key), caption: alt }] : [],
    ),
  };
}

export const wireLanes = (form: ListingForm) =>
  form.shipping.map((line) => ({
    countries: line.countries,
    first: formatAmount(money(line.firstMinor, form.currency)),
    further: formatAmount(money(line.furtherMinor, form.currency)),
  }));

/**
 * What the shop shows, in our form, read against a form that we know: variants by SKU, pictures by the ids that we hold, option codes by
 * their names. What we cannot place keeps the shop's own words as its code, so that it shows as a difference.
 */
export function formOf(
  item: WireItem,
  known: ListingForm,
  pictureIds: PictureIds,
  profile: WireProfile | undefined,
  maker: WireMaker | undefined,
): ListingForm {
  const keyOfPicture = new Map(Object.entries(pictureIds).map(([key, id]) => [id, key]));
  const keyOfSku = new Map(Object.entries(known.variants).map(([key, variant]) => [variant.sku, key]));
  const options = item.choices.map((choice, index) => {
    const option = known.options.find((o) => o.name === choice.name) ?? known.options[index];
    return {
      code: option?.code ?? choice.name,
      name: choice.name,
      values: choice.values.map((name) => ({
        code: option?.values.find((value) => value.name === name)?.code ?? name,
        name,
      })),
    };
  });
  const variants: { [key: string]: ListingVariant } = {};
  for (const offer of item.offers) {
    putEntry(variants, keyOfSku.get(offer.sku) ?? `sku=${offer.sku}`, {
      sku: offer.sku,
      priceMinor: parseAmountMinor(offer.price, known.currency),
      compareAtMinor: offer.before === null ? null : parseAmountMinor(offer.before, known.currency),
      inStock: offer.available,
      pictureKey: offer.picture ? (keyOfPicture.get(offer.picture) ?? offer.picture) : null,
    });
  }
  return {
    format: FORM_FORMAT,
    title: item.headline,
    description: item.story,
    tags: item.keywords,
    currency: known.currency,
    options,
    variants,
    pictures: item.pictures.map(({ id, caption }) => ({ key: keyOfPicture.get(id) ?? id, alt: caption })),
    shipping: (profile?.lanes ?? []).map((lane) => ({
      countries: lane.countries,
      firstMinor: parseAmountMinor(lane.first, known.currency),
      furtherMinor: parseAmountMinor(lane.further, known.currency),
    })),
    partner: maker ? { name: maker.name, country: maker.country } : { name: '', country: '' },
  };
}
