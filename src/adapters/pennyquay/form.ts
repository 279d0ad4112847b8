import type { ListingForm } from '@/core/listing/form';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { PictureIds } from '@/ports/channel';
import { formOf, heldPicture, heldPictures, picksOf } from '../shop/seen';
import type { WireItem, WireMaker, WireOffer, WireProfile } from './wire';

/** The words of a form in Pennyquay's shape. */
export const wireWords = (form: ListingForm) => ({
  headline: form.title,
  story: form.description,
  keywords: form.tags,
});

/** Options, offers and pictures of a form in Pennyquay's shape. */
export function wireOffers(form: ListingForm, pictureIds: PictureIds) {
  const text = (minor: number) => formatAmount(money(minor, form.currency));
  const offers = Object.entries(form.variants).map(([key, variant]): WireOffer => ({
    sku: variant.sku,
    picks: picksOf(form, key),
    price: text(variant.priceMinor),
    before: variant.compareAtMinor === null ? null : text(variant.compareAtMinor),
    available: variant.inStock,
    picture: heldPicture(variant, pictureIds),
  }));
  return {
    choices: form.options.map(({ name, values }) => ({ name, values: values.map((value) => value.name) })),
    offers,
    pictures: heldPictures(form, pictureIds).map(({ id, alt }) => ({ id, caption: alt })),
  };
}

export const wireLanes = (form: ListingForm) =>
  form.shipping.map((line) => ({
    countries: line.countries,
    first: formatAmount(money(line.firstMinor, form.currency)),
    further: formatAmount(money(line.furtherMinor, form.currency)),
  }));

/** An item in our form, read against one that we know. */
export function formOfItem(
  item: WireItem,
  known: ListingForm,
  pictureIds: PictureIds,
  profile: WireProfile | undefined,
  maker: WireMaker | undefined,
): ListingForm {
  const minor = (text: string) => parseAmountMinor(text, known.currency);
  return formOf(
    {
      title: item.headline,
      description: item.story,
      tags: item.keywords,
      options: item.choices,
      variants: item.offers.map(({ sku, picks, price, before, available, picture }) => ({
        sku,
        picks,
        priceMinor: minor(price),
        compareAtMinor: before === null ? null : minor(before),
        inStock: available,
        pictureId: picture,
      })),
      pictures: item.pictures.map(({ id, caption }) => ({ id, alt: caption })),
      shipping: (profile?.lanes ?? []).map(({ countries, first, further }) => ({
        countries,
        firstMinor: minor(first),
        furtherMinor: minor(further),
      })),
      ...(maker ? { partner: { name: maker.name, country: maker.country } } : {}),
    },
    known,
    pictureIds,
  );
}
