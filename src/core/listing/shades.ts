import { colorOption, type Blank } from '../catalog/blank';
import { colorDifference, familyOf, labOf } from '../catalog/families';
import { ownEntry } from '../own-entry';
import type { ShadeName } from '../rules/demands';

/** A shop's own names for colors, by the blank's code for each. */
export interface ChosenShades {
  readonly [colorCode: string]: string;
}

/** Who chose a shop's names: the product for one store, else the store for all its products. */
export interface ShadeChoices {
  readonly product?: ChosenShades;
  readonly store?: ChosenShades;
}

/** Under which of a shop's names a color goes. */
export interface ShadeAnswer {
  readonly code: string;
  readonly name: string;
  readonly hex: string | null;
  /** Null while nobody chose one and none looks like it. */
  readonly shade: string | null;
  readonly chosenBy: 'product' | 'store' | null;
  /** The shop's name that comes nearest by CIEDE2000; null for a color without a swatch. */
  readonly nearest: { readonly name: string; readonly difference: number } | null;
}

/**
 * From this difference on (CIEDE2000) a name is not taken by itself: a dark gray can be nearest to a purple, and buyers who look for purple do
 * not want it. Common practice, no source.
 */
export const LOOKS_OTHER_AT = 15;

/** The shop's name that comes nearest to a color by CIEDE2000, the first of several; with how far it is. Throws `color-unreadable`. */
export function nearestShade(hex: string, shades: readonly ShadeName[]): { name: string; difference: number } {
  const lab = labOf(hex);
  const differences = shades.map((shade) => colorDifference(lab, labOf(shade.hex)));
  const difference = Math.min(...differences);
  return { name: shades[differences.indexOf(difference)]!.name, difference };
}

/** The shop's name for each color of a blank: what was chosen, else the nearest that looks like it. A shop without names has no answers. */
export function shadeAnswers(
  blank: Pick<Blank, 'options'>,
  shades: readonly ShadeName[],
  { product = {}, store = {} }: ShadeChoices,
): ShadeAnswer[] {
  if (shades.length === 0) return [];
  const known = new Set(shades.map(({ name }) => name));
  // A name that the shop no longer has is as good as none.
  const chosen = (own: ChosenShades, code: string) => {
    const name = ownEntry(own, code);
    return name !== undefined && known.has(name) ? name : null;
  };
  return (colorOption(blank)?.values ?? []).map(({ code, name, hex }) => {
    const [ofProduct, ofStore] = [chosen(product, code), chosen(store, code)];
    const nearest = hex ? nearestShade(hex, shades) : null;
    const taken = nearest && nearest.difference < LOOKS_OTHER_AT ? nearest.name : null;
    return {
      ...{ code, name, hex, nearest },
      shade: ofProduct ?? ofStore ?? taken,
      chosenBy: ofProduct ? 'product' : ofStore ? 'store' : null,
    };
  });
}

/** A name to propose where none looks like the color: the nearest of its family (a gray for a gray), else one that the color's own name has in it. */
export function proposedShade({ name, hex }: Pick<ShadeAnswer, 'name' | 'hex'>, shades: readonly ShadeName[]) {
  const family = hex ? familyOf(hex) : null;
  const alike = shades.filter((shade) => family !== null && familyOf(shade.hex) === family);
  if (hex && alike.length > 0) return nearestShade(hex, alike).name;
  const words = name.toLocaleLowerCase('en').split(/[^\p{L}\p{N}]+/u);
  return shades.find((shade) => words.includes(shade.name.toLocaleLowerCase('en')))?.name ?? null;
}

/** What stands in the way of naming a color, as a sentence. */
export const unnamedSays = ({ name, nearest }: ShadeAnswer, channelName: string): string =>
  nearest
    ? `${name} has no name on ${channelName} that looks like it: the nearest, ${nearest.name}, differs by ${nearest.difference.toFixed(1)} (CIEDE2000).`
    : `${name} has no swatch, so that no name on ${channelName} can be found for it.`;
