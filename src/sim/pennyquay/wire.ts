import { amount, minorOf } from '../engine/goods';
import type { Item, Pennyquay } from './shop';

interface WireOffer {
  readonly sku: string;
  readonly picks: string[];
  readonly price: string;
  readonly before?: string | null;
  readonly available: boolean;
  readonly picture: string | null;
}

/** An item as Pennyquay's API tells it. */
export const shown = (item: Item, world: Pennyquay) => ({
  item_id: item.id,
  reference: item.reference,
  stage: item.stage === 'live' ? 'open' : 'draft',
  headline: item.title,
  story: item.text,
  keywords: item.tags,
  maker: item.extra.maker,
  delivery_profile: item.extra.deliveryProfile,
  choices: item.options,
  offers: item.variants.map(({ sku, picks, priceMinor, beforeMinor, stock, picture }) => ({
    sku,
    picks,
    price: amount(priceMinor),
    before: beforeMinor === null ? null : amount(beforeMinor),
    available: stock !== 0,
    picture,
  })),
  pictures: item.pictures,
  ends: item.stage === 'live' && item.liveUntil !== null ? new Date(item.liveUntil).toISOString() : null,
  touched: new Date(item.changedAt).toISOString(),
  page: `${world.url}/items/${item.id}`,
});

/** An item with what a request says of it; prices that cannot be read are none that the rules take. */
export function changed(item: Item, fields: Record<string, unknown>): Item {
  const next = structuredClone(item);
  if (typeof fields.headline === 'string') next.title = fields.headline;
  if (typeof fields.story === 'string') next.text = fields.story;
  if (Array.isArray(fields.keywords)) next.tags = fields.keywords.map(String);
  if (typeof fields.maker === 'string') next.extra.maker = fields.maker;
  if (typeof fields.delivery_profile === 'string') next.extra.deliveryProfile = fields.delivery_profile;
  if (Array.isArray(fields.choices)) next.options = fields.choices as Item['options'];
  if (Array.isArray(fields.offers)) next.variants = (fields.offers as WireOffer[]).map(variantOf);
  if (Array.isArray(fields.pictures)) next.pictures = fields.pictures as Item['pictures'];
  return next;
}

const variantOf = ({ sku, picks, price, before, available, picture }: WireOffer): Item['variants'][number] => ({
  sku,
  picks,
  priceMinor: minorOf(price) ?? 0,
  beforeMinor: before == null ? null : (minorOf(before) ?? 0),
  stock: available ? null : 0,
  picture,
  gtin: null,
  grams: null,
});
