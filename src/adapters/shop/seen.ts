import { parseVariantKey } from '@/core/catalog/blank';
import { FORM_FORMAT, optionValue, type ListingForm, type ListingVariant } from '@/core/listing/form';
import { ownEntry, putEntry } from '@/core/own-entry';
import type { PictureIds } from '@/ports/channel';

/** A listing as a shop shows it, in our words but with the shop's ids. What the shop does not keep is left out. */
export interface Seen extends Partial<
  Pick<
    ListingForm,
    'tags' | 'category' | 'attributes' | 'terms' | 'highlights' | 'pageAddress' | 'seo' | 'collections' | 'shipping'
  >
> {
  readonly title: string;
  readonly description: string;
  readonly options: readonly { readonly name: string; readonly values: readonly string[] }[];
  readonly variants: readonly SeenVariant[];
  readonly pictures: readonly { readonly id: string; readonly alt: string }[];
  readonly partner?: ListingForm['partner'];
}

export interface SeenVariant extends Partial<Pick<ListingVariant, 'compareAtMinor' | 'gtin' | 'grams' | 'shade'>> {
  readonly sku: string;
  readonly priceMinor: number;
  readonly inStock: boolean;
  readonly pictureId: string | null;
  /** The names of its values, one for each option as the shop shows them. */
  readonly picks: readonly string[];
}

/** The names of a variant's values, one for each option of the form. */
export function picksOf(form: ListingForm, variantKey: string): string[] {
  const values = parseVariantKey(variantKey);
  return form.options.map((option) => optionValue(option, values)?.name ?? '');
}

/** The pictures of a form that the shop holds, in its ids. */
export const heldPictures = (
  form: ListingForm,
  pictureIds: PictureIds,
): { readonly id: string; readonly alt: string }[] =>
  form.pictures.flatMap(({ key, alt }) => {
    const id = ownEntry(pictureIds, key);
    return id === undefined ? [] : [{ id, alt }];
  });

export const heldPicture = ({ pictureKey }: ListingVariant, pictureIds: PictureIds): string | null =>
  pictureKey === null ? null : (ownEntry(pictureIds, pictureKey) ?? null);

/**
 * What a shop shows, in our form, read against a form that we know: variants by SKU (one whose SKU was changed there by its values), pictures by the ids that
 * we hold, option codes by their names. What we cannot place keeps the shop's own words as its code, so that it shows as a difference.
 */
export function formOf(seen: Seen, known: ListingForm, pictureIds: PictureIds): ListingForm {
  const keyOfPicture = new Map(Object.entries(pictureIds).map(([key, id]) => [id, key]));
  const keyOf = variantKeys(seen.variants, known);
  const variants: { [key: string]: ListingVariant } = {};
  for (const variant of seen.variants) {
    const { sku, priceMinor, inStock, pictureId, compareAtMinor, gtin, grams, shade } = variant;
    putEntry(variants, keyOf(variant), {
      sku,
      priceMinor,
      compareAtMinor: compareAtMinor ?? null,
      inStock,
      pictureKey: pictureId === null ? null : (keyOfPicture.get(pictureId) ?? pictureId),
      gtin: gtin ?? null,
      grams: grams ?? null,
      shade: shade ?? null,
    });
  }
  return {
    format: FORM_FORMAT,
    title: seen.title,
    description: seen.description,
    tags: seen.tags ?? [],
    currency: known.currency,
    options: seen.options.map((option, index) => optionOf(option, index, known)),
    variants,
    pictures: seen.pictures.map(({ id, alt }) => ({ key: keyOfPicture.get(id) ?? id, alt })),
    shipping: seen.shipping ?? [],
    partner: seen.partner ?? { name: '', country: '' },
    category: seen.category ?? null,
    attributes: seen.attributes ?? {},
    terms: seen.terms ?? {},
    highlights: seen.highlights ?? [],
    pageAddress: seen.pageAddress ?? null,
    seo: seen.seo ?? null,
    collections: seen.collections ?? [],
  };
}

/** Which of the variants that we know each is. */
function variantKeys(seen: readonly SeenVariant[], known: ListingForm): (variant: SeenVariant) => string {
  const keyOfSku = new Map(Object.entries(known.variants).map(([key, variant]) => [variant.sku, key]));
  const strange = seen.filter(({ sku }) => !keyOfSku.has(sku));
  const keyOfStrange = new Map<SeenVariant, string>();
  if (strange.length > 0) {
    const placed = new Set(seen.map(({ sku }) => keyOfSku.get(sku)));
    const left = new Map(
      Object.keys(known.variants)
        .filter((key) => !placed.has(key))
        .map((key) => [JSON.stringify(picksOf(known, key)), key]),
    );
    for (const variant of strange) {
      const picks = JSON.stringify(variant.picks);
      const key = left.get(picks);
      if (key === undefined) continue;
      keyOfStrange.set(variant, key);
      left.delete(picks);
    }
  }
  return (variant) => keyOfSku.get(variant.sku) ?? keyOfStrange.get(variant) ?? `sku=${variant.sku}`;
}

function optionOf(
  { name, values }: Seen['options'][number],
  index: number,
  known: ListingForm,
): ListingForm['options'][number] {
  const option = known.options.find((one) => one.name === name) ?? known.options[index];
  return {
    code: option?.code ?? name,
    name,
    values: values.map((value) => ({
      code: option?.values.find((one) => one.name === value)?.code ?? value,
      name: value,
    })),
  };
}
