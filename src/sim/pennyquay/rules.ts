import { lengthOf, type Objection } from '../engine/goods';
import type { Item } from './shop';

function objectionsToWords({ title, text, tags }: Item): Objection[] {
  const out: Objection[] = [];
  const no = (field: string, message: string) => out.push({ field, message });
  if (lengthOf(title) < 1 || lengthOf(title) > 110)
    no('headline', `Headlines run from 1 to 110 characters. Yours has ${lengthOf(title)}.`);
  if (lengthOf(text) > 8000) no('story', 'Stories end at 8000 characters.');
  if (tags.length > 10) no('keywords', `Ten keywords at most, please. You gave ${tags.length}.`);
  for (const tag of tags)
    if (lengthOf(tag) > 28 || lengthOf(tag) === 0) no('keywords', `"${tag}" is not between 1 and 28 characters.`);
  if (new Set(tags.map((tag) => tag.toLowerCase())).size < tags.length) no('keywords', 'A keyword is there twice.');
  if (/\b(counterfeit|replica|dupe)\b/i.test(`${title} ${text}`))
    no('headline', 'Our house rules do not allow goods described as copies. Reword it and try again.');
  if (/[<>|~^]/.test(title)) no('headline', 'Headlines have no < > | ~ or ^ in them.');
  return out;
}

function objectionsToOffers({ options, variants }: Item): Objection[] {
  const out: Objection[] = [];
  const no = (message: string) => out.push({ field: 'offers', message });
  if (options.length > 2) out.push({ field: 'choices', message: 'An item can be picked by two choices at most.' });
  if (variants.length > 75) no(`Up to 75 offers to an item. You gave ${variants.length}.`);
  const skus = new Set<string>();
  for (const { sku, picks, priceMinor, beforeMinor } of variants) {
    if (priceMinor < 20 || priceMinor > 5_000_000) no(`The price of ${sku} must be 0.20 or more.`);
    if (beforeMinor !== null && beforeMinor <= priceMinor)
      no(`The price before of ${sku} must be more than its price.`);
    if (skus.has(sku)) no(`The SKU ${sku} is there twice.`);
    skus.add(sku);
    if (picks.length !== options.length || picks.some((pick, i) => !options[i]?.values.includes(pick)))
      no(`${sku} picks something that is not among the choices.`);
  }
  return out;
}

/** What has to be so for an item to be kept at all. */
export const objectionsToItem = (item: Item): Objection[] => [
  ...objectionsToWords(item),
  ...objectionsToOffers(item),
  ...(item.pictures.length > 12 ? [{ field: 'pictures', message: 'Twelve pictures at most.' }] : []),
];

/** What has to be so for buyers to see it. */
export function objectionsToOpening(item: Item): Objection[] {
  const out = objectionsToItem(item);
  const no = (field: string, message: string) => out.push({ field, message });
  if (item.text.trim() === '') no('story', 'Tell buyers something about the item first.');
  if (item.variants.length === 0) no('offers', 'There is nothing to buy yet.');
  if (item.pictures.length === 0) no('pictures', 'Buyers want at least one picture.');
  if (item.extra.maker === null) no('maker', 'Tell buyers who makes it: declare your making partner.');
  if (item.extra.deliveryProfile === null) no('delivery', 'Choose a delivery profile.');
  return out;
}
