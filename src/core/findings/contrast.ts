import { encodeSrgb, formatHex, linearOf8, parseHex, type Rgb } from '../artwork/color';
import { colorDifference, labOf } from '../catalog/families';
import { colorOption, type Blank } from '../catalog/blank';
import type { Layer } from '../document/document';
import type { Technique } from '../geometry/area';
import type { Ink } from './ink';
import { BLACK, WHITE } from './remedy';
import { HARDLY_SEEN, MUCH_LOST, NOTHING_SEEN } from './thresholds';
import { ownEntry } from '../own-entry';

/** The colors that a layer prints on one color of the blank. */
export function inksOn(layer: Layer, color: string, mainColors: (artworkId: string) => readonly Ink[]): readonly Ink[] {
  const version = ownEntry(layer.versions, color);
  if (version?.tint) return [{ hex: version.tint, share: 1 }];
  if (version?.artworkId) return mainColors(version.artworkId);
  if (layer.kind === 'artwork') return mainColors(layer.artworkId);
  return [{ hex: ownColor(layer), share: 1 }];
}

/** The color by which letters or an ornament are seen: letters with an outline in another color by that. */
export const ownColor = (layer: Exclude<Layer, { kind: 'artwork' }>): string =>
  layer.kind === 'text' ? (layer.lettering.outline?.color ?? layer.lettering.fill) : layer.color;

const differences = new Map<string, number>();

/** CIEDE2000 of two colors; kept, since the same few colors meet the same fabrics on every change. */
export function differenceOf(one: string, two: string): number {
  const key = `${one} ${two}`;
  let difference = differences.get(key);
  if (difference === undefined) {
    if (differences.size > 20_000) differences.clear();
    difference = colorDifference(labOf(one), labOf(two));
    differences.set(key, difference);
  }
  return difference;
}

/** A color of the good that something is printed on. */
export interface Ground {
  /** Null for a good that has only one. */
  readonly code: string | null;
  readonly name: string;
  readonly hex: string;
}

/** Goods without a color option are white: paper, enamel, ceramics. */
const WHITE_GOOD: Ground = { code: null, name: 'white', hex: WHITE };

/** The chosen colors of a blank as grounds; a good without a color option has one, which is white. */
export function groundsOf(blank: Blank, chosen: readonly string[]): Ground[] {
  const option = colorOption(blank);
  if (!option) return [WHITE_GOOD];
  return option.values.flatMap(({ code, name, hex }) =>
    hex !== null && chosen.includes(code) ? [{ code, name, hex }] : [],
  );
}

/** An ink over a dyed good: what is below it colors it (light × light, as in the kernel that draws pictures). */
const overDye = (ink: Rgb, ground: Rgb): Rgb => {
  const channel = (i: 0 | 1 | 2) =>
    Math.round(encodeSrgb(linearOf8[Math.round(ink[i])]! * linearOf8[Math.round(ground[i])]!));
  return [channel(0), channel(1), channel(2)];
};

/** What an ink looks like on a ground: pigment and thread cover it, dye takes its color. */
export const seenColor = (hex: string, ground: string, technique: Technique): string =>
  technique === 'sublimation' ? formatHex(overDye(parseHex(hex), parseHex(ground))) : hex;

/** A color at an opacity over another, as layers are laid over one another. */
function mixed(over: string, under: string, opacity: number): string {
  if (opacity >= 1) return over;
  const [a, b] = [parseHex(over), parseHex(under)];
  const channel = (i: 0 | 1 | 2) => Math.round(a[i] * opacity + b[i] * (1 - opacity));
  return formatHex([channel(0), channel(1), channel(2)]);
}

export interface PoorContrast {
  /** The colors of the good on which the layer is hardly seen. */
  readonly colors: readonly Ground[];
  /** Share of the layer that is hardly seen where it is worst, 0 to 1, and the least difference to the ground there (CIEDE2000). */
  readonly lost: number;
  readonly difference: number;
  /** Black or white, whichever is seen better on all of them; null where neither is seen on one. */
  readonly tint: string | null;
}

/** Black or white, whichever is seen better on all grounds; null where neither is seen on all. */
export function seenTint(grounds: readonly string[], technique: Technique): string | null {
  const worst = (tint: string) => Math.min(...grounds.map((hex) => differenceOf(seenColor(tint, hex, technique), hex)));
  const best = worst(WHITE) >= worst(BLACK) ? WHITE : BLACK;
  return worst(best) >= HARDLY_SEEN ? best : null;
}

/**
 * The colors of the good on which most of a layer would hardly be seen; null when there are none. On a white good parts that stay white are meant: only
 * where nothing else is there it is told.
 */
export function poorContrast(
  layer: Layer,
  grounds: readonly Ground[],
  technique: Technique,
  mainColors: (artworkId: string) => readonly Ink[],
): PoorContrast | null {
  let [worstLost, least] = [0, Infinity];
  const colors = grounds.filter(({ code, hex }) => {
    const inks = inksOn(layer, code ?? '', mainColors).map((ink) => ({
      share: ink.share,
      difference: differenceOf(mixed(seenColor(ink.hex, hex, technique), hex, layer.opacity ?? 1), hex),
    }));
    const whole = inks.reduce((sum, ink) => sum + ink.share, 0);
    const hidden = inks.filter((ink) => ink.difference < HARDLY_SEEN);
    const lost = hidden.reduce((sum, ink) => sum + ink.share, 0) / whole;
    const isWhite = layer.kind === 'artwork' && differenceOf(hex, WHITE) < HARDLY_SEEN / 2;
    if (!(lost >= (isWhite ? NOTHING_SEEN : MUCH_LOST))) return false;
    worstLost = Math.max(worstLost, lost);
    least = Math.min(least, ...hidden.map((ink) => ink.difference));
    return true;
  });
  if (colors.length === 0) return null;
  const tint = seenTint(
    colors.map(({ hex }) => hex),
    technique,
  );
  return { colors, lost: worstLost, difference: least, tint };
}

/** Change of colors under which dye on a colored good is taken as it comes (CIEDE2000, a mean over the design; chosen by eye, no source). */
const DYED_OTHERWISE = 18;

/** The colors of the good that dye a design visibly otherwise than it is drawn, and by how much on average where it is worst. */
export function dyedOtherwise(
  layer: Layer,
  grounds: readonly Ground[],
  mainColors: (artworkId: string) => readonly Ink[],
): { readonly colors: readonly Ground[]; readonly difference: number } | null {
  let worst = 0;
  const colors = grounds.filter(({ code, hex }) => {
    const inks = inksOn(layer, code ?? '', mainColors);
    const whole = inks.reduce((sum, ink) => sum + ink.share, 0);
    const change =
      inks.reduce((sum, ink) => sum + ink.share * differenceOf(ink.hex, seenColor(ink.hex, hex, 'sublimation')), 0) /
      whole;
    if (!(change >= DYED_OTHERWISE)) return false;
    worst = Math.max(worst, change);
    return true;
  });
  return colors.length > 0 ? { colors, difference: worst } : null;
}
