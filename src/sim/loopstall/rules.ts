import { lengthOf, type Objection } from '../engine/goods';
import { SHELVES } from './shelves';
import type { Loopstall, Piece } from './shop';

type No = (field: string, message: string) => void;

const SPOKEN = /\b(sale|discount|followers?|like and share|link in bio)\b/i;

function words({ title, text }: Piece, no: No): void {
  const length = lengthOf(title);
  if (length < 25 || length > 200) no('name', `A name has 25 to 200 letters; this has ${length}.`);
  if (!/^\p{L}/u.test(title)) no('name', 'A name begins with a letter.');
  if (/\p{Extended_Pictographic}/u.test(title)) no('name', 'No little pictures in names, please.');
  if (title === title.toUpperCase() && /\p{L}/u.test(title)) no('name', 'Please do not shout.');
  if (SPOKEN.test(title)) no('name', `"${SPOKEN.exec(title)![0]}" belongs into a clip, not into a name.`);
  if (lengthOf(text) < 1 || lengthOf(text) > 5000) no('about', `1 to 5000 letters; this has ${lengthOf(text)}.`);
}

function units({ options, variants }: Piece, no: No): void {
  if (options.length > 3) no('props', `3 properties at most; you gave ${options.length}.`);
  if (variants.length < 1 || variants.length > 90) no('units', `1 to 90 units; you gave ${variants.length}.`);
  for (const { name, values } of options) {
    const long = values.find((value) => lengthOf(value) > 30);
    if (long !== undefined) no('props', `"${long}" of ${name} has more than 30 letters.`);
    if (new Set(values.map((value) => value.toLowerCase())).size < values.length)
      no('props', `${name} has a value twice.`);
  }
  if (new Set(variants.map(({ sku }) => sku)).size < variants.length) no('units', 'Two units have the same code.');
  for (const { sku, picks, priceMinor, grams } of variants) {
    if (priceMinor < 100 || priceMinor > 50_000) no('units', `${sku} must cost from 1.00 to 500.00.`);
    if (picks.length !== options.length || picks.some((pick, i) => !options[i]?.values.includes(pick)))
      no('units', `${sku} has a property that is not there.`);
    if (!grams || grams < 1) no('units', `What does ${sku} weigh?`);
  }
}

function shelf({ category, extra }: Piece, no: No): void {
  const found = SHELVES.find(({ id }) => id === category);
  if (!found) return no('shelf', 'On which shelf does it stand?');
  if (!found.asks) return no('shelf', `${found.name} is no shelf for goods; choose one below it.`);
  for (const { key, label, choices, needed } of found.asks) {
    const answer = Object.hasOwn(extra.traits, key) ? extra.traits[key]! : '';
    if (answer === '' && needed) no('traits', `${found.name}: ${label} is missing.`);
    else if (answer !== '' && choices && !choices.includes(answer))
      no('traits', `${found.name}: ${label} is one of ${choices.join(', ')}.`);
    else if (answer.length > 60) no('traits', `${found.name}: ${label} has more than 60 letters.`);
  }
}

function pictures(piece: Piece, world: Loopstall, no: No): void {
  const n = piece.pictures.length;
  if (n < 3 || n > 9) no('shots', `3 to 9 shots; you gave ${n}.`);
  for (const { id } of piece.pictures) {
    const seen = world.pictures.get(id);
    if (!seen) no('shots', 'One of the shots is not here.');
    else if (seen.verdict === 'refused') no('shots', `A shot was not accepted: ${seen.reason}`);
  }
}

/** What has to be so for a piece to be kept: a stall takes nothing that is not whole. */
export function objectionsToPiece(piece: Piece, world: Loopstall): Objection[] {
  const out: Objection[] = [];
  const no: No = (field, message) => void out.push({ field, message });
  words(piece, no);
  units(piece, no);
  shelf(piece, no);
  const { warehouses } = world.accounts.get(piece.account)!.own;
  if (!warehouses.some(({ id }) => id === piece.extra.warehouse)) no('warehouse', 'From which warehouse does it come?');
  if (!/^[A-Z]{2}$/.test(piece.extra.madeIn)) no('made_in', 'In which country is it made?');
  return out;
}

/** What has to be so for viewers to see it. */
export function objectionsToShowing(piece: Piece, world: Loopstall): Objection[] {
  const out = objectionsToPiece(piece, world);
  const no: No = (field, message) => void out.push({ field, message });
  pictures(piece, world, no);
  if (piece.extra.ship.length === 0) no('ship', 'Where is it sent, and for how much?');
  return out;
}
