import { ownEntry } from '@/core/own-entry';
import type { ListingForm } from '@/core/listing/form';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { PictureIds } from '@/ports/channel';
import { formOf, heldPicture, heldPictures, picksOf } from '../shop/seen';
import { shippingOf } from './delivery';
import type { WireProduct, WireTable, WireVariant } from './wire';

const variantsOf = (form: ListingForm, pictureIds: PictureIds): WireVariant[] => {
  const text = (minor: number) => formatAmount(money(minor, form.currency));
  return Object.entries(form.variants).map(([key, variant]) => {
    const picks = picksOf(form, key);
    return {
      sku: variant.sku,
      values: Object.fromEntries(form.options.map(({ name }, i) => [name, picks[i]!])),
      price: text(variant.priceMinor),
      was: variant.compareAtMinor === null ? null : text(variant.compareAtMinor),
      stock: variant.inStock ? 'endless' : 0,
      barcode: variant.gtin,
      weight_g: variant.grams,
      picture: heldPicture(variant, pictureIds),
    };
  });
};

/** A form in Plainfront's shape; `delivery` is the name of its delivery table. */
export const wireProduct = (form: ListingForm, pictureIds: PictureIds, delivery: string | null) => ({
  title: form.title,
  text: form.description,
  labels: form.tags,
  handle: form.pageAddress ?? '',
  search: { title: form.seo?.title ?? '', summary: form.seo?.description ?? '' },
  collections: form.collections,
  options: form.options.map(({ name, values }) => ({ name, values: values.map((value) => value.name) })),
  variants: variantsOf(form, pictureIds),
  pictures: heldPictures(form, pictureIds),
  delivery,
});

export function formOfProduct(
  product: WireProduct,
  known: ListingForm,
  pictureIds: PictureIds,
  table: WireTable | undefined,
): ListingForm {
  const minor = (text: string) => parseAmountMinor(text, known.currency);
  return formOf(
    {
      title: product.title,
      description: product.text,
      tags: product.labels,
      pageAddress: product.handle,
      seo: { title: product.search.title, description: product.search.summary },
      collections: product.collections,
      options: product.options,
      variants: product.variants.map((variant) => ({
        sku: variant.sku,
        picks: product.options.map(({ name }) => ownEntry(variant.values, name) ?? ''),
        priceMinor: minor(variant.price),
        compareAtMinor: variant.was === null ? null : minor(variant.was),
        inStock: variant.stock === 'endless' || variant.stock > 0,
        pictureId: variant.picture,
        gtin: variant.barcode,
        grams: variant.weight_g,
      })),
      pictures: product.pictures,
      shipping: shippingOf(table, known.currency),
      // It shows no maker: there is nothing to differ in.
      partner: known.partner,
    },
    known,
    pictureIds,
  );
}
