import type { Broadmere, Good } from './shop';

/** Offers that are made as they are ordered come as so many, and more. */
const ENDLESS = 999;

interface WireOffer {
  readonly stock_code: string;
  readonly set: string[];
  readonly cents: number;
  readonly was_cents: number | null;
  readonly on_hand: number;
  readonly code: string | null;
  readonly image: string | null;
  readonly grams: number;
  readonly shade: string | null;
}

/** A good as Broadmere's API tells it. */
export const shown = (good: Good, world: Broadmere) => ({
  good: good.id,
  mark: good.reference,
  touched: new Date(good.changedAt).toISOString(),
  page: `${world.url}/goods/${good.id}`,
  doc: {
    name: good.title,
    points: good.extra.points,
    copy: good.text,
    axes: good.options.map(({ name, values }) => ({ label: name, choices: values })),
    offers: good.variants.map(({ sku, picks, priceMinor, beforeMinor, stock, gtin, picture, grams }) => ({
      stock_code: sku,
      set: picks,
      cents: priceMinor,
      was_cents: beforeMinor,
      on_hand: stock ?? ENDLESS,
      code: gtin,
      image: picture,
      grams,
      shade: good.extra.shades[sku] ?? null,
    })),
    images: good.pictures.map(({ id, caption }) => ({ id, says: caption })),
    waiver: good.extra.waiver,
    brand: good.extra.brand,
    ship: good.extra.ship,
    ready_days: good.extra.readyDays,
    made_in: good.extra.madeIn,
    on: good.stage === 'live',
  },
});

/** A good with what a row says of it; `on` is left to the one who processes the row. */
export function changed(good: Good, doc: Record<string, unknown>): Good {
  const next = structuredClone(good);
  const { extra } = next;
  if (typeof doc.name === 'string') next.title = doc.name;
  if (typeof doc.copy === 'string') next.text = doc.copy;
  if (Array.isArray(doc.points)) extra.points = doc.points.map(String);
  if (Array.isArray(doc.axes))
    next.options = (doc.axes as { label: string; choices: string[] }[]).map(({ label, choices }) => ({
      name: label,
      values: choices,
    }));
  if (Array.isArray(doc.offers)) {
    const offers = doc.offers as WireOffer[];
    next.variants = offers.map(variantOf);
    extra.shades = Object.fromEntries(offers.flatMap(({ stock_code, shade }) => (shade ? [[stock_code, shade]] : [])));
  }
  if (Array.isArray(doc.images))
    next.pictures = (doc.images as { id: string; says: string }[]).map(({ id, says }) => ({ id, caption: says }));
  if (doc.waiver === null || typeof doc.waiver === 'string') extra.waiver = doc.waiver;
  if (typeof doc.brand === 'string') extra.brand = doc.brand;
  if (doc.ship && typeof doc.ship === 'object') extra.ship = doc.ship as Good['extra']['ship'];
  if (typeof doc.ready_days === 'number') extra.readyDays = doc.ready_days;
  if (typeof doc.made_in === 'string') extra.madeIn = doc.made_in;
  return next;
}

const variantOf = (offer: WireOffer): Good['variants'][number] => ({
  sku: String(offer.stock_code),
  picks: offer.set,
  priceMinor: Number.isSafeInteger(offer.cents) ? offer.cents : 0,
  beforeMinor: Number.isSafeInteger(offer.was_cents) ? offer.was_cents : null,
  stock: offer.on_hand >= ENDLESS ? null : Math.max(0, Math.trunc(offer.on_hand)),
  picture: offer.image,
  gtin: offer.code,
  grams: offer.grams,
});
