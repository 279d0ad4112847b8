import type { ListingForm } from '@/core/listing/form';
import { ownEntry } from '@/core/own-entry';
import type { PictureIds } from '@/ports/channel';
import { formOf, heldPicture, heldPictures, picksOf } from '../shop/seen';
import type { WirePiece } from './wire';

/** What is made as it is ordered. */
const ON_DEMAND = -1;

/** The key under which a form has the answer to where it comes from. */
const WAREHOUSE = 'warehouse';

export const wirePiece = (form: ListingForm, pictureIds: PictureIds) => ({
  name: form.title,
  about: form.description,
  shelf: form.category ?? '',
  traits: form.attributes,
  warehouse: ownEntry(form.terms, WAREHOUSE) ?? '',
  props: form.options.map(({ name, values }) => ({ prop: name, values: values.map((value) => value.name) })),
  units: Object.entries(form.variants).map(([key, variant]) => ({
    code: variant.sku,
    props: picksOf(form, key),
    cents: variant.priceMinor,
    units: variant.inStock ? ON_DEMAND : 0,
    grams: variant.grams ?? 0,
    shot: heldPicture(variant, pictureIds),
  })),
  shots: heldPictures(form, pictureIds).map(({ id, alt }) => ({ id, note: alt })),
  ship: form.shipping.map(({ countries, firstMinor }) => ({ to: countries, each_cents: firstMinor })),
  made_in: form.partner.country,
});

export const formOfPiece = (piece: WirePiece, known: ListingForm, pictureIds: PictureIds): ListingForm =>
  formOf(
    {
      title: piece.name,
      description: piece.about,
      category: piece.shelf,
      attributes: piece.traits,
      options: piece.props.map(({ prop, values }) => ({ name: prop, values })),
      variants: piece.units.map((unit) => ({
        sku: unit.code,
        picks: unit.props,
        priceMinor: unit.cents,
        inStock: unit.units !== 0,
        pictureId: unit.shot,
        grams: unit.grams,
      })),
      pictures: piece.shots.map(({ id, note }) => ({ id, alt: note })),
      shipping: piece.ship.map(({ to, each_cents: each }) => ({
        countries: to,
        firstMinor: each,
        furtherMinor: each,
      })),
      partner: { name: '', country: piece.made_in },
      terms: piece.warehouse ? { [WAREHOUSE]: piece.warehouse } : {},
    },
    known,
    pictureIds,
  );
