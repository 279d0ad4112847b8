import { lengthOf, type Objection } from '../engine/goods';
import type { Plainfront, Product } from './shop';

type No = (field: string, message: string) => void;

function words({ title, text, tags, extra }: Product, no: No): void {
  if (lengthOf(title) < 1 || lengthOf(title) > 240) no('title', 'must be 1 to 240 characters');
  if (lengthOf(text) > 20_000) no('text', 'must be 20000 characters at most');
  if (tags.length > 40) no('labels', 'must be 40 at most');
  if (tags.some((tag) => lengthOf(tag) < 1 || lengthOf(tag) > 60)) no('labels', 'each must be 1 to 60 characters');
  if (extra.handle !== '' && !/^[a-z0-9]+(-[a-z0-9]+)*$/.test(extra.handle))
    no('handle', 'must be small letters, digits and single hyphens');
  if (extra.handle.length > 80) no('handle', 'must be 80 characters at most');
  if (lengthOf(extra.search.title) > 70) no('search.title', 'must be 70 characters at most');
  if (lengthOf(extra.search.summary) > 160) no('search.summary', 'must be 160 characters at most');
  if (extra.collections.length > 20) no('collections', 'must be 20 at most');
}

function variants({ options, variants: all }: Product, no: No): void {
  if (options.length > 4) no('options', 'must be 4 at most');
  if (new Set(options.map(({ name }) => name)).size < options.length) no('options', 'must have different names');
  if (all.length > 150) no('variants', 'must be 150 at most');
  if (new Set(all.map(({ sku }) => sku)).size < all.length) no('variants', 'must have different SKUs');
  for (const { sku, picks, priceMinor, beforeMinor } of all) {
    if (priceMinor < 1 || priceMinor > 10_000_000) no('variants', `price of ${sku} must be more than 0.00`);
    if (beforeMinor !== null && beforeMinor <= priceMinor) no('variants', `was of ${sku} must be more than its price`);
    if (picks.length !== options.length || picks.some((pick, i) => !options[i]?.values.includes(pick)))
      no('variants', `values of ${sku} must be among the options'`);
  }
}

function pictures(product: Product, world: Plainfront, no: No): void {
  if (product.pictures.length > 30) no('pictures', 'must be 30 at most');
  if (product.pictures.some(({ id }) => world.pictures.get(id)?.account !== product.account))
    no('pictures', 'must be uploaded first');
}

/** What a product must be to be kept. */
export function objectionsToProduct(product: Product, world: Plainfront): Objection[] {
  const out: Objection[] = [];
  const no: No = (field, message) => void out.push({ field, message });
  words(product, no);
  variants(product, no);
  pictures(product, world, no);
  const taken = world.articles
    .all()
    .some(
      ({ id, account, extra }) =>
        id !== product.id &&
        account === product.account &&
        product.extra.handle !== '' &&
        extra.handle === product.extra.handle,
    );
  if (taken) no('handle', `"${product.extra.handle}" is another product's`);
  return out;
}

/** What it must be to be published. */
export function objectionsToPublishing(product: Product, world: Plainfront): Objection[] {
  const out = objectionsToProduct(product, world);
  if (product.variants.length === 0) out.push({ field: 'variants', message: 'must be 1 at least' });
  const { tables } = world.accounts.get(product.account)!.own;
  if (!tables.some(({ name }) => name === product.extra.delivery))
    out.push({ field: 'delivery', message: 'must name a delivery table' });
  return out;
}
