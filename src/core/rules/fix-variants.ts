import { colorOption, type OptionValue } from '../catalog/blank';
import { wordsFor, type ProductDocument } from '../document/document';
import { asSoldIn, leaveOut } from '../document/offered';
import { splitInto, type ListingGroup } from '../document/split';
import { colorListings, colorNames } from '../variants/listing-colors';
import { storeLimit, waysToFewer } from '../variants/limits';
import { count } from '../words/count';
import type { Fix, FixWorld } from './fix';
import { fittedTitle } from './fitted-title';

/** Values whose names are told of those that are left out. */
const MAX_NAMED = 4;

type SplitWorld = Pick<FixWorld, 'doc' | 'blank' | 'storeId' | 'demands' | 'shopName'>;

/** Groups of colors as listings, each with a title that tells them apart: the product's, fitted to the channel. */
function listingGroups(
  { doc, storeId, demands, shopName }: Omit<SplitWorld, 'blank'>,
  groups: readonly (readonly OptionValue[])[],
): ListingGroup[] {
  const { title } = wordsFor(doc, storeId);
  return groups.map((colors) => ({
    values: colors.map(({ code }) => code),
    title: fittedTitle(title, demands, shopName, `, ${colorNames(colors)}`),
  }));
}

/** Sells in two listings, the first half of the colors in one and the rest in the other; with fewer than two colors it stays as it is. */
export function splitInHalves(world: SplitWorld): ProductDocument {
  const { doc, blank, storeId } = world;
  const color = colorOption(blank);
  const colors = colorListings(doc, blank, storeId).flatMap((one) => one.colors);
  if (!color || colors.length < 2) return doc;
  const half = Math.ceil(colors.length / 2);
  return splitInto(doc, storeId, color.code, listingGroups(world, [colors.slice(0, half), colors.slice(half)]));
}

/** Several listings, each with a group of the colors: of all that the store sells, also where it sells it in several already. */
export function splitByColor({ doc, blank, storeId, demands, shopName }: SplitWorld): Fix[] {
  const color = colorOption(blank);
  const { split, variants } = storeLimit(asSoldIn(doc, storeId), blank, demands, '');
  if (!color || split.length < 2) return [];
  const groups = listingGroups({ doc, storeId, demands, shopName }, split);
  return [
    {
      id: 'split',
      rules: ['variants'],
      says: `Split into ${split.length} listings by ${color.name.toLocaleLowerCase('en')}`,
      before: count(variants, 'variant'),
      after: split.map(colorNames).join(' | '),
      everywhere: false,
      apply: (now) => splitInto(now, storeId, color.code, groups),
    },
  ];
}

/** Fewer variants by a rule: values of an option are left out from its end. What leaves most comes first. */
export function fewerVariants({ doc, blank, storeId, demands }: FixWorld): Fix[] {
  const sold = asSoldIn(doc, storeId);
  const before = storeLimit(sold, blank, demands, '').variants;
  return waysToFewer(sold, blank, demands.variantsMax)
    .toSorted((a, b) => b.left - a.left)
    .map(({ option, without, left }) => {
      const keys = without.flatMap((value) => value.keys);
      const names = without.map(({ name }) => name).toReversed();
      const more = names.length - MAX_NAMED;
      const told = names.slice(0, MAX_NAMED).join(', ') + (more > 0 ? ` and ${more} more` : '');
      return {
        id: `fewer-${option.code}`,
        rules: ['variants'],
        says: `Leave out the last of ${option.name}`,
        before: count(before, 'variant'),
        after: `${count(left, 'variant')}, without ${told}`,
        everywhere: true,
        apply: (now, where) => leaveOut(now, where === 'store' ? storeId : null, keys),
      };
    });
}
