import { converter, differenceCiede2000, type Lab65 } from 'culori';
import { formatHex, parseHex } from '../artwork/color';
import { COLOR_FAMILIES, type ColorFamily, FAMILY_COLORS } from './family-colors';

/** Color difference by CIEDE2000 (Sharma, Wu, Dalal 2005) with all weights 1, of two colors in CIE L*a*b* under D65. */
export const colorDifference: (one: Lab65, two: Lab65) => number = differenceCiede2000();

const toLab = converter('lab65');
/** CIE L*a*b* (D65) of `#rrggbb`. Throws `color-unreadable`. */
export const labOf = (hex: string): Lab65 => toLab(formatHex(parseHex(hex)))!;

const prototypes = COLOR_FAMILIES.flatMap((family) =>
  FAMILY_COLORS[family].map((hex) => ({ family, lab: labOf(hex) })),
);

/** The family of a color: that of the nearest prototype by CIEDE2000. Throws `color-unreadable`. */
export function familyOf(hex: string): ColorFamily {
  const lab = labOf(hex);
  let best = prototypes[0]!;
  let least = Infinity;
  for (const prototype of prototypes) {
    const distance = colorDifference(lab, prototype.lab);
    if (distance < least) [best, least] = [prototype, distance];
  }
  return best.family;
}
