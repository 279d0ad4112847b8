import { andMore } from '../words/and-more';
import type { TextLayer } from '../document/document';
import { axisLengths } from '../geometry/matrix';
import { FAMILIES, familyByCode, type FontFamily } from '../lettering/families';
import { scriptOf } from '../lettering/itemize';
import { settableText } from '../lettering/text';
import type { Add, SetLettering } from './finding';
import { largerRemedy } from './moves';
import type { PlacedLayer } from './placed';
import type { Remedy } from './remedy';
import { THRESHOLDS } from './thresholds';

/** What letters bring with them: none at all, some that no font has, too many for their box, or too small or thin for what prints them. */
export function lookAtLetters(
  layer: TextLayer,
  set: SetLettering | undefined,
  placed: readonly PlacedLayer[],
  where: string,
  add: Add,
): void {
  const { lettering, name } = layer;
  if (settableText(lettering.text).trim() === '')
    return add(
      'no-letters',
      'warn',
      `${name} holds no letters: nothing of it will print, and the ${where} is still charged for.`,
      {
        kind: 'hide',
      },
    );
  if (!set) return;
  const family = familyByCode(lettering.family)?.name ?? lettering.family;
  const listed = (characters: readonly string[]) => andMore(characters, 5, { join: ' ' });
  if (set.missing.length > 0)
    add(
      'letters-missing',
      'stop',
      `No font here has ${listed(set.missing)}; it would print as an empty box. Remove it or write it differently.`,
    );
  if (set.borrowed.length > 0) {
    const [from, ...others] = set.borrowedFrom ?? [];
    const other = from !== undefined && others.length === 0 ? familyByCode(from) : familyWith(set.borrowed);
    add(
      'letters-borrowed',
      'warn',
      `${family} has no ${listed(set.borrowed)}; ${set.borrowed.length === 1 ? 'it is' : 'they are'} set in another font.${other ? ` ${other.name} has all of them.` : ''}`,
      other ? { kind: 'family', family: other.code } : undefined,
    );
  }
  if (!set.fits)
    add(
      'letters-over',
      'warn',
      lettering.shrinkToMm === null
        ? `${name} runs out of its box. Make the box larger or the letters smaller, or let them shrink.`
        : `${name} does not fit its box even at ${lettering.shrinkToMm} mm, the smallest size that you allow.`,
      fittingRemedy(layer, set, placed),
    );
  lookAtHeight(layer, set, placed, add);
  lookAtStrokes(layer, set, placed, add);
}

/** Letters as large as their box holds; undefined where they would be too small for what prints them. */
function fittingRemedy(layer: TextLayer, set: SetLettering, placed: readonly PlacedLayer[]): Remedy | undefined {
  const { fitsAtMm, sizeMm, capMm, smallMm, strokeMm } = set;
  if (fitsAtMm == null) return undefined;
  const isLegible = placed.every((on) => {
    const scale = (axisLengths(on.matrix).y / layer.lettering.boxHeightMm) * (fitsAtMm / sizeMm);
    const { leastCapMm, leastSmallMm, leastStrokeMm } = THRESHOLDS[on.geometry.technique];
    const least = [
      [capMm, leastCapMm],
      [smallMm, leastSmallMm],
      [strokeMm, leastStrokeMm],
    ] as const;
    return least.every(([own, wanted]) => (own ?? Infinity) * scale >= wanted);
  });
  return isLegible ? { kind: 'letters', sizeMm: fitsAtMm } : undefined;
}

/** How thick the strokes of letters come out, in whichever geometry they are thinnest. */
function lookAtStrokes(layer: TextLayer, { strokeMm }: SetLettering, placed: readonly PlacedLayer[], add: Add): void {
  if (strokeMm == null) return;
  const worst = placed
    .map((on) => {
      const { leastStrokeMm, needs } = THRESHOLDS[on.geometry.technique];
      const thickMm = (strokeMm * axisLengths(on.matrix).y) / layer.lettering.boxHeightMm;
      return { on, thickMm, leastStrokeMm, needs };
    })
    .reduce((a, b) => (b.thickMm / b.leastStrokeMm < a.thickMm / a.leastStrokeMm ? b : a));
  if (worst.thickMm >= worst.leastStrokeMm) return;
  add(
    'thin',
    'warn',
    `The strokes of ${layer.name} are about ${worst.thickMm.toFixed(1)} mm thick; ${worst.needs} holds ${worst.leastStrokeMm} mm at least. Make the letters larger or bolder.`,
    largerRemedy(layer, worst.on, worst.leastStrokeMm / worst.thickMm),
  );
}

/** How high letters come out, in whichever geometry they are lowest. */
function lookAtHeight(layer: TextLayer, set: SetLettering, placed: readonly PlacedLayer[], add: Add): void {
  const heights = [
    { what: 'small letters', ownMm: set.smallMm, least: 'leastSmallMm' },
    { what: 'capitals', ownMm: set.capMm, least: 'leastCapMm' },
  ] as const;
  const all = placed.flatMap((on) => {
    const scale = axisLengths(on.matrix).y / layer.lettering.boxHeightMm;
    return heights.flatMap(({ what, ownMm, least }) => {
      if (ownMm == null) return [];
      const thresholds = THRESHOLDS[on.geometry.technique];
      return [{ on, what, heightMm: ownMm * scale, leastMm: thresholds[least], needs: thresholds.needs }];
    });
  });
  if (all.length === 0) return;
  const worst = all.reduce((a, b) => (b.heightMm / b.leastMm < a.heightMm / a.leastMm ? b : a));
  if (worst.heightMm >= worst.leastMm) return;
  add(
    'letters-small',
    'warn',
    `The ${worst.what} of ${layer.name} are ${worst.heightMm.toFixed(1)} mm high; ${worst.needs} needs ${worst.leastMm} mm at least.`,
    largerRemedy(layer, worst.on, worst.leastMm / worst.heightMm),
  );
}

/** A shipped family that draws the scripts of all these characters. */
function familyWith(characters: readonly string[]): FontFamily | null {
  const scripts = new Set(characters.map((character) => scriptOf([...character][0]!)));
  return (
    FAMILIES.find((family) => [...scripts].every((script) => script !== 'Common' && family.scripts.includes(script))) ??
    null
  );
}
