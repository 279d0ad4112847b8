import { contrastRatio, parseHex } from '../artwork/color';
import { colorOption, type Blank } from '../catalog/blank';
import type { Layer } from '../document/document';
import { BLACK, WHITE } from './remedy';

/** Contrast (WCAG 2.2) under which a color is hardly seen on a ground; chosen by eye, no source: 1.5 is a dark blue on black. */
const HARDLY_SEEN = 1.5;
/** How much of an artwork may be hardly seen before it is told. */
const MUCH = 0.5;

export interface Ink {
  readonly hex: string;
  /** Share of what is printed, 0 to 1. */
  readonly share: number;
}

/** The colors that a layer prints on one color of the blank. */
export function inksOn(layer: Layer, color: string, mainColors: (artworkId: string) => readonly Ink[]): readonly Ink[] {
  const version = layer.versions?.[color];
  if (version?.tint) return [{ hex: version.tint, share: 1 }];
  if (version?.artworkId) return mainColors(version.artworkId);
  if (layer.kind === 'artwork') return mainColors(layer.artworkId);
  // Letters with an outline in another color are seen by that.
  if (layer.kind === 'text') return [{ hex: layer.lettering.outline?.color ?? layer.lettering.fill, share: 1 }];
  return [{ hex: layer.color, share: 1 }];
}

export interface PoorContrast {
  /** Codes and names of the blank's colors on which the layer is hardly seen. */
  readonly colors: readonly { readonly code: string; readonly name: string; readonly hex: string }[];
  /** The worst of its contrasts there. */
  readonly ratio: number;
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
  let ratio = Infinity;
  const colors = grounds.flatMap(({ code, name, hex }) => {
    if (hex === null) return [];
    const inks = inksOn(layer, code, mainColors);
    const contrasts = inks.map((ink) => ({ ...ink, ratio: contrastRatio(parseHex(ink.hex), parseHex(hex)) }));
    const lost = contrasts.filter((ink) => ink.ratio < HARDLY_SEEN).reduce((sum, ink) => sum + ink.share, 0);
    const whole = contrasts.reduce((sum, ink) => sum + ink.share, 0);
    if (whole === 0 || lost / whole < MUCH) return [];
    ratio = Math.min(ratio, ...contrasts.map((ink) => ink.ratio));
    return [{ code, name, hex }];
  });
  if (colors.length === 0) return null;
  const worst = (ink: string) => Math.min(...colors.map(({ hex }) => contrastRatio(parseHex(ink), parseHex(hex))));
  return { colors, ratio, tint: worst(WHITE) >= worst(BLACK) ? WHITE : BLACK };
}
