import { contrastRatio, parseHex } from '../artwork/color';
import { colorDifference, labOf } from '../catalog/families';
import { colorOption, type Blank } from '../catalog/blank';
import type { Layer } from '../document/document';
import { BLACK, WHITE } from './remedy';
import { HARDLY_SEEN, MUCH_LOST } from './thresholds';
import { ownEntry } from '../own-entry';

export interface Ink {
  readonly hex: string;
  /** Share of what is printed, 0 to 1. */
  readonly share: number;
}

/** The colors that a layer prints on one color of the blank. */
export function inksOn(layer: Layer, color: string, mainColors: (artworkId: string) => readonly Ink[]): readonly Ink[] {
  const version = ownEntry(layer.versions, color);
  if (version?.tint) return [{ hex: version.tint, share: 1 }];
  if (version?.artworkId) return mainColors(version.artworkId);
  if (layer.kind === 'artwork') return mainColors(layer.artworkId);
  // Letters with an outline in another color are seen by that.
  if (layer.kind === 'text') return [{ hex: layer.lettering.outline?.color ?? layer.lettering.fill, share: 1 }];
  return [{ hex: layer.color, share: 1 }];
}

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

export interface PoorContrast {
  /** Codes and names of the blank's colors on which the layer is hardly seen. */
  readonly colors: readonly { readonly code: string; readonly name: string; readonly hex: string }[];
  /** Share of the layer that is hardly seen where it is worst, 0 to 1, and the least difference to the fabric there (CIEDE2000). */
  readonly lost: number;
  readonly difference: number;
  /** Black or white, whichever is seen better on all of them. */
  readonly tint: string;
}

/** The chosen colors of the blank on which most of a layer would hardly be seen; null when there are none. */
export function poorContrast(
  layer: Layer,
  blank: Blank,
  chosen: readonly string[],
  mainColors: (artworkId: string) => readonly Ink[],
): PoorContrast | null {
  const grounds = (colorOption(blank)?.values ?? []).filter((value) => chosen.includes(value.code));
  let [worstLost, least] = [0, Infinity];
  const colors = grounds.flatMap(({ code, name, hex }) => {
    if (hex === null) return [];
    const inks = inksOn(layer, code, mainColors);
    const seen = inks.map((ink) => ({ ...ink, difference: differenceOf(ink.hex, hex) }));
    const whole = seen.reduce((sum, ink) => sum + ink.share, 0);
    const hidden = seen.filter((ink) => ink.difference < HARDLY_SEEN);
    const lost = hidden.reduce((sum, ink) => sum + ink.share, 0) / whole;
    if (!(lost >= MUCH_LOST)) return [];
    worstLost = Math.max(worstLost, lost);
    least = Math.min(least, ...hidden.map((ink) => ink.difference));
    return [{ code, name, hex }];
  });
  if (colors.length === 0) return null;
  const worst = (ink: string) => Math.min(...colors.map(({ hex }) => contrastRatio(parseHex(ink), parseHex(hex))));
  return { colors, lost: worstLost, difference: least, tint: worst(WHITE) >= worst(BLACK) ? WHITE : BLACK };
}
