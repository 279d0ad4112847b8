import type { Item } from './ledger';

/** One thing that Pennyquay does not take, in its own words. */
export interface Objection {
  field: string;
  message: string;
}

const letters = new Intl.Segmenter('en', { granularity: 'grapheme' });
const length = (text: string) => [...letters.segment(text)].length;

/** What has to be so for an item to be kept at all. */
export function objectionsToItem(item: Item): Objection[] {
  const out: Objection[] = [];
  const no = (field: string, message: string) => out.push({ field, message });
  if (length(item.headline) < 1 || length(item.headline) > 110)
    no('headline', `Headlines run from 1 to 110 characters. Yours has ${length(item.headline)}.`);
  if (length(item.story) > 8000) no('story', 'Stories end at 8000 characters.');
  if (item.keywords.length > 10) no('keywords', `Ten keywords at most, please. You gave ${item.keywords.length}.`);
  for (const keyword of item.keywords)
    if (length(keyword) > 28 || length(keyword) === 0)
      no('keywords', `"${keyword}" is not between 1 and 28 characters.`);
  if (item.choices.length > 2) no('choices', 'An item can be picked by two choices at most.');
  if (item.offers.length > 75) no('offers', `Up to 75 offers to an item. You gave ${item.offers.length}.`);
  const skus = new Set<string>();
  for (const offer of item.offers) {
    if (!/^\d{1,6}\.\d{2}$/.test(offer.price) || Number(offer.price) < 0.2)
      no('offers', `The price of ${offer.sku} must be 0.20 or more.`);
    if (offer.before != null && (!/^\d{1,6}\.\d{2}$/.test(offer.before) || Number(offer.before) <= Number(offer.price)))
      no('offers', `The price before of ${offer.sku} must be more than its price.`);
    if (skus.has(offer.sku)) no('offers', `The SKU ${offer.sku} is there twice.`);
    skus.add(offer.sku);
    if (
      offer.picks.length !== item.choices.length ||
      offer.picks.some((pick, i) => !item.choices[i]?.values.includes(pick))
    )
      no('offers', `${offer.sku} picks something that is not among the choices.`);
  }
  if (item.pictures.length > 12) no('pictures', 'Twelve pictures at most.');
  if (/\b(counterfeit|replica)\b/i.test(`${item.headline} ${item.story}`))
    no('headline', 'Our house rules do not allow goods described as copies. Reword it and try again.');
  return out;
}

/** What has to be so for buyers to see it. */
export function objectionsToOpening(item: Item): Objection[] {
  const out = objectionsToItem(item);
  const no = (field: string, message: string) => out.push({ field, message });
  if (item.story.trim() === '') no('story', 'Tell buyers something about the item first.');
  if (item.offers.length === 0) no('offers', 'There is nothing to buy yet.');
  if (item.pictures.length === 0) no('pictures', 'Buyers want at least one picture.');
  if (item.maker === null) no('maker', 'Tell buyers who makes it: declare your making partner.');
  if (item.deliveryProfile === null) no('delivery', 'Choose a delivery profile.');
  return out;
}
