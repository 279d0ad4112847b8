import { amount, minorOf } from '../engine/goods';
import type { Plainfront, Product } from './shop';

interface WireVariant {
  readonly sku: string;
  readonly values: Record<string, string>;
  readonly price: string;
  readonly was: string | null;
  readonly stock: 'endless' | number;
  readonly barcode: string | null;
  readonly weight_g: number | null;
  readonly picture: string | null;
}

/** A product as Plainfront's API tells it. */
export const shown = (product: Product, world: Plainfront) => ({
  id: product.id,
  title: product.title,
  text: product.text,
  labels: product.tags,
  handle: product.extra.handle,
  search: product.extra.search,
  collections: product.extra.collections,
  delivery: product.extra.delivery,
  options: product.options,
  variants: product.variants.map((variant): WireVariant => ({
    sku: variant.sku,
    values: Object.fromEntries(product.options.map(({ name }, i) => [name, variant.picks[i] ?? ''])),
    price: amount(variant.priceMinor),
    was: variant.beforeMinor === null ? null : amount(variant.beforeMinor),
    stock: variant.stock ?? 'endless',
    barcode: variant.gtin,
    weight_g: variant.grams,
    picture: variant.picture,
  })),
  pictures: product.pictures.map(({ id, caption }) => ({ id, alt: caption })),
  state: product.stage === 'live' ? 'published' : 'hidden',
  updated_at: new Date(product.changedAt).toISOString(),
  url: `${world.url}/products/${product.id}`,
});

/** A product with what a request says of it. */
export function changed(product: Product, fields: Record<string, unknown>): Product {
  const next = structuredClone(product);
  const { extra } = next;
  if (typeof fields.title === 'string') next.title = fields.title;
  if (typeof fields.text === 'string') next.text = fields.text;
  if (Array.isArray(fields.labels)) next.tags = fields.labels.map(String);
  if (typeof fields.handle === 'string') extra.handle = fields.handle;
  if (fields.search && typeof fields.search === 'object') extra.search = fields.search as Product['extra']['search'];
  if (Array.isArray(fields.collections)) extra.collections = fields.collections.map(String);
  if (fields.delivery === null || typeof fields.delivery === 'string') extra.delivery = fields.delivery;
  if (Array.isArray(fields.options)) next.options = fields.options as Product['options'];
  if (Array.isArray(fields.variants))
    next.variants = (fields.variants as WireVariant[]).map((one) => ({
      sku: String(one.sku),
      picks: next.options.map(({ name }) => one.values[name] ?? ''),
      priceMinor: minorOf(one.price) ?? 0,
      beforeMinor: one.was === null ? null : (minorOf(one.was) ?? 0),
      stock: one.stock === 'endless' ? null : Math.max(0, Math.trunc(one.stock)),
      picture: one.picture,
      gtin: one.barcode,
      grams: one.weight_g,
    }));
  if (Array.isArray(fields.pictures))
    next.pictures = (fields.pictures as { id: string; alt: string }[]).map(({ id, alt }) => ({ id, caption: alt }));
  return next;
}
