import type { ListingForm } from '@/core/listing/form';
import { ownEntry } from '@/core/own-entry';
import type { PictureIds } from '@/ports/channel';
import { formOf, heldPicture, heldPictures, picksOf } from '../shop/seen';
import type { WireDoc, WireGood } from './wire';

/** What is made as it is ordered is told as so many. */
const ENDLESS = 999;

/** Answers that Broadmere asks of every good, by the keys that a form has them under. */
export const TERMS = { waiver: 'waiver', brand: 'brand', readyDays: 'processingDays' } as const;

/**
 * Broadmere takes a sum per order and one per item: the first item costs both, each further one the second. All countries pay the same; it
 * delivers in one.
 */
function wireShip({ shipping }: ListingForm): WireDoc['ship'] {
  const [line] = shipping;
  if (!line) return null;
  const { countries, firstMinor, furtherMinor } = line;
  return { order_cents: firstMinor - furtherMinor, item_cents: furtherMinor, to: countries };
}

export const wireDoc = (form: ListingForm, pictureIds: PictureIds, on: boolean): WireDoc => ({
  name: form.title,
  points: form.highlights,
  copy: form.description,
  axes: form.options.map(({ name, values }) => ({ label: name, choices: values.map((value) => value.name) })),
  offers: Object.entries(form.variants).map(([key, variant]) => ({
    stock_code: variant.sku,
    set: picksOf(form, key),
    cents: variant.priceMinor,
    was_cents: variant.compareAtMinor,
    on_hand: variant.inStock ? ENDLESS : 0,
    code: variant.gtin,
    image: heldPicture(variant, pictureIds),
    grams: variant.grams,
    shade: variant.shade,
  })),
  images: heldPictures(form, pictureIds).map(({ id, alt }) => ({ id, says: alt })),
  waiver: ownEntry(form.terms, TERMS.waiver) ?? null,
  brand: ownEntry(form.terms, TERMS.brand) ?? '',
  ship: wireShip(form),
  ready_days: Number(ownEntry(form.terms, TERMS.readyDays) ?? 0),
  made_in: form.partner.country,
  on,
});

export function formOfGood({ doc }: WireGood, known: ListingForm, pictureIds: PictureIds): ListingForm {
  const { ship, waiver, brand, ready_days: readyDays } = doc;
  return formOf(
    {
      title: doc.name,
      description: doc.copy,
      highlights: doc.points,
      options: doc.axes.map(({ label, choices }) => ({ name: label, values: choices })),
      variants: doc.offers.map((offer) => ({
        sku: offer.stock_code,
        picks: offer.set,
        priceMinor: offer.cents,
        compareAtMinor: offer.was_cents,
        inStock: offer.on_hand > 0,
        pictureId: offer.image,
        gtin: offer.code,
        grams: offer.grams,
        shade: offer.shade,
      })),
      pictures: doc.images.map(({ id, says }) => ({ id, alt: says })),
      shipping: ship
        ? [{ countries: ship.to, firstMinor: ship.order_cents + ship.item_cents, furtherMinor: ship.item_cents }]
        : [],
      partner: { name: '', country: doc.made_in },
      terms: {
        ...(waiver === null ? {} : { [TERMS.waiver]: waiver }),
        ...(brand === '' ? {} : { [TERMS.brand]: brand }),
        ...(readyDays === 0 ? {} : { [TERMS.readyDays]: String(readyDays) }),
      },
    },
    known,
    pictureIds,
  );
}
