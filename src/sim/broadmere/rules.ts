import { lengthOf, type Objection } from '../engine/goods';
import { waiverState, type Broadmere, type Good } from './shop';

export const SHADES = [
  'Black',
  'White',
  'Gray',
  'Navy',
  'Blue',
  'Sky',
  'Teal',
  'Green',
  'Olive',
  'Yellow',
  'Orange',
  'Red',
  'Burgundy',
  'Pink',
  'Purple',
  'Brown',
  'Beige',
];

const BANNED = ['free shipping', 'best seller', 'guaranteed', 'cheapest', 'number one'];
const LOUD = /\b\p{Lu}{5,}\b/u;

type No = (field: string, message: string) => void;

function words({ title, text, extra }: Good, seller: string, no: No): void {
  if (lengthOf(title) < 1 || lengthOf(title) > 160)
    no('name', `NAME-LENGTH: 1-160 characters, received ${lengthOf(title)}.`);
  if (!title.endsWith(seller)) no('name', `NAME-SELLER: a name ends with the seller's own, "${seller}".`);
  const own = title.slice(0, title.length - seller.length);
  if (LOUD.test(own)) no('name', 'NAME-LOUD: words of five letters and more are not written in capitals.');
  if (/[!*~$€£^<>]/.test(title)) no('name', 'NAME-SIGNS: a name has none of ! * ~ $ € £ ^ < > in it.');
  const lower = `${title} ${text} ${extra.points.join(' ')}`.toLowerCase();
  for (const phrase of BANNED)
    if (lower.includes(phrase)) no('copy', `PHRASE: "${phrase}" is not allowed on Broadmere.`);
  if (lengthOf(text) < 1 || lengthOf(text) > 2000)
    no('copy', `COPY-LENGTH: 1-2000 characters, received ${lengthOf(text)}.`);
  if (extra.points.length > 3) no('points', `POINTS: up to 3, received ${extra.points.length}.`);
  for (const point of extra.points)
    if (lengthOf(point) < 1 || lengthOf(point) > 150)
      no('points', `POINT-LENGTH: 1-150 characters, received ${lengthOf(point)}.`);
}

function offers({ options, variants, extra }: Good, no: No): void {
  if (options.length > 2) no('axes', `AXES: up to 2, received ${options.length}.`);
  for (const { name, values } of options) {
    if (lengthOf(name) < 1 || lengthOf(name) > 20) no('axes', `AXIS-NAME: "${name}" is not of 1-20 characters.`);
    const long = values.find((value) => lengthOf(value) > 40);
    if (long !== undefined) no('axes', `AXIS-VALUE: "${long}" has more than 40 characters.`);
  }
  if (variants.length < 1 || variants.length > 200) no('offers', `OFFERS: 1-200, received ${variants.length}.`);
  if (new Set(variants.map(({ sku }) => sku)).size < variants.length) no('offers', 'STOCK-CODE: one is there twice.');
  const colored = options.some(({ name }) => /colou?r/i.test(name));
  for (const { sku, picks, priceMinor, beforeMinor, grams } of variants) {
    if (priceMinor < 100 || priceMinor > 200_000) no('offers', `PRICE: ${sku} must cost from 1.00 to 2000.00.`);
    if (beforeMinor !== null && beforeMinor <= priceMinor) no('offers', `WAS-PRICE: ${sku} must have cost more.`);
    if (picks.length !== options.length || picks.some((pick, i) => !options[i]?.values.includes(pick)))
      no('offers', `SET: ${sku} is not among the axes' choices.`);
    if (!grams || grams < 1) no('offers', `GRAMS: ${sku} has no weight.`);
    if (colored && !SHADES.includes(extra.shades[sku] ?? ''))
      no('offers', `SHADE: ${sku} needs one of ${SHADES.join(', ')}.`);
  }
  const prices = variants.map(({ priceMinor }) => priceMinor);
  if (Math.max(...prices) > 5 * Math.min(...prices))
    no('offers', 'SPREAD: the dearest offer costs more than 5 times the cheapest.');
}

const gtinHolds = (code: string): boolean => {
  if (!/^\d{8}$|^\d{12,14}$/.test(code)) return false;
  const sum = [...code.padStart(14, '0')].reduce((all, digit, i) => all + Number(digit) * (i % 2 === 0 ? 3 : 1), 0);
  return sum % 10 === 0;
};

function codes(good: Good, world: Broadmere, no: No): void {
  const { variants, extra } = good;
  if (variants.every(({ gtin }) => gtin !== null && gtinHolds(gtin))) return;
  const wrong = variants.find(({ gtin }) => gtin !== null && !gtinHolds(gtin));
  if (wrong) return no('offers', `CODE: ${wrong.gtin} of ${wrong.sku} is no product code.`);
  const waiver = world.accounts.get(good.account)!.own.waivers.find(({ id }) => id === extra.waiver);
  if (!waiver) return no('waiver', 'CODE: every offer needs a product code, or the good a waiver.');
  const state = waiverState(waiver, world.now());
  if (state !== 'granted') no('waiver', `CODE: the waiver ${waiver.id} is ${state}.`);
  else if (waiver.brand !== extra.brand) no('waiver', `CODE: the waiver ${waiver.id} is for "${waiver.brand}".`);
}

function pictures(good: Good, world: Broadmere, no: No): void {
  if (good.pictures.length > 8) no('images', `IMAGES: up to 8, received ${good.pictures.length}.`);
  const seen = good.pictures.map(({ id }) => world.pictures.get(id));
  if (seen.some((one) => one === undefined)) return no('images', 'IMAGES: one of them is not known.');
  const shape = seen.find((one) => one!.widthPx !== one!.heightPx || one!.widthPx < 1100);
  if (shape) no('images', `IMAGE-SIZE: square and 1100 px or more; ${shape.widthPx} x ${shape.heightPx} received.`);
  if (seen[0] && !seen[0].onWhite) no('images', 'IMAGE-WHITE: the first image stands on pure white.');
}

/** What has to be so for a good to be kept. */
export function objectionsToGood(good: Good, world: Broadmere): Objection[] {
  const out: Objection[] = [];
  const no: No = (field, message) => void out.push({ field, message });
  words(good, world.accounts.get(good.account)!.name, no);
  offers(good, no);
  pictures(good, world, no);
  return out.slice(0, 20);
}

/** What has to be so for buyers to see it. */
export function objectionsToSale(good: Good, world: Broadmere): Objection[] {
  const out = objectionsToGood(good, world);
  const no: No = (field, message) => void out.push({ field, message });
  codes(good, world, no);
  if (good.pictures.length === 0) no('images', 'IMAGES: at least 1.');
  const { ship, readyDays, madeIn } = good.extra;
  if (!ship || ship.to.length === 0) no('ship', 'SHIP: says nowhere to.');
  if (!Number.isInteger(readyDays) || readyDays < 1 || readyDays > 10)
    no('ready_days', `READY: 1-10 days, received ${readyDays}.`);
  if (!/^[A-Z]{2}$/.test(madeIn)) no('made_in', 'ORIGIN: the country of making is missing.');
  return out.slice(0, 20);
}
