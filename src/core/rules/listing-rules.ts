import { parseVariantKey } from '../catalog/blank';
import type { ListingForm } from '../listing/form';
import { unnamedSays } from '../listing/shades';
import { formatMoney, money } from '../pricing/money';
import { count } from '../words/count';
import { graphemeCount } from '../words/graphemes';
import type { ChannelSum } from './demands';
import { FLOOR_RULE } from './losses';
import type { ListingRule } from './rule';

/** An SKU that two variants of a form have, or null. */
function sharedSku({ variants }: ListingForm): string | null {
  const seen = new Set<string>();
  for (const { sku } of Object.values(variants)) {
    if (seen.has(sku)) return sku;
    seen.add(sku);
  }
  return null;
}

export const DESIGN_RULES: readonly ListingRule[] = [
  {
    id: 'artwork',
    part: 'artwork',
    check: (_form, _demands, { usedAreaCount }) => ({
      kept: usedAreaCount > 0,
      says: usedAreaCount > 0 ? `${count(usedAreaCount, 'area')} printed.` : 'Nothing is printed on it yet.',
      mend: 'Put artwork on at least one area.',
    }),
  },
  {
    id: 'variants',
    part: 'variants',
    check({ variants }, { variantsMax }, { channelName }) {
      const n = Object.keys(variants).length;
      return {
        kept: n <= variantsMax,
        says: `${count(n, 'variant')}; ${channelName} takes up to ${variantsMax}.`,
        mend: `Remove ${n - variantsMax} or more: fewer colors or sizes.`,
      };
    },
  },
  {
    id: 'options',
    part: 'variants',
    check: ({ options }, { optionsMax }, { channelName }) => ({
      kept: options.length <= optionsMax,
      says: `${count(options.length, 'option')}; ${channelName} takes up to ${optionsMax}.`,
      mend: 'Sell one value of an option at a time.',
    }),
  },
  {
    id: 'option-names',
    part: 'variants',
    check({ options }, { optionNameMax, optionValueMax }, { channelName }) {
      if (optionNameMax === undefined && optionValueMax === undefined) return null;
      const longName = options.find(({ name }) => graphemeCount(name) > (optionNameMax ?? Number.POSITIVE_INFINITY));
      const longValue = options
        .flatMap(({ values }) => values)
        .find(({ name }) => graphemeCount(name) > (optionValueMax ?? Number.POSITIVE_INFINITY));
      const says = longName
        ? `The option “${longName.name}” has ${graphemeCount(longName.name)} characters; ${channelName} takes up to ${optionNameMax}.`
        : longValue
          ? `The value “${longValue.name}” has ${graphemeCount(longValue.name)} characters; ${channelName} takes up to ${optionValueMax}.`
          : 'Names of options and values are short enough.';
      return { kept: !longName && !longValue, says, mend: 'Give it a shorter name.' };
    },
  },
  {
    id: 'option-twice',
    part: 'variants',
    check({ options }) {
      const twice = options.flatMap(({ name, values }) => {
        const seen = new Set<string>();
        const found = values.find((value) => seen.size === seen.add(value.name.toLocaleLowerCase('en')).size);
        return found ? [`${name} has “${found.name}” twice`] : [];
      })[0];
      return {
        kept: twice === undefined,
        says: twice === undefined ? 'No option has a value twice.' : `${twice}; buyers could not tell them apart.`,
        mend: 'Rename one of them.',
      };
    },
  },
  {
    id: 'shades',
    part: 'stores',
    check({ options, variants }, { shades }, { channelName, unnamedColors = [] }) {
      if (!shades || !options.some(({ code }) => code === 'color' || code.endsWith('.color'))) return null;
      const bare = Object.entries(variants).find(([, { shade }]) => shade === null);
      const color = bare && unnamedColors.find(({ code }) => Object.values(parseVariantKey(bare[0])).includes(code));
      return {
        kept: bare === undefined,
        says: color
          ? unnamedSays(color, channelName)
          : bare
            ? `${channelName} has names of its own for colors, and that of ${bare[1].sku} is none of them yet.`
            : `Each color has its name on ${channelName}.`,
        mend: 'Choose its name in the product’s part Stores, or for all products in the store’s settings.',
      };
    },
  },
  {
    id: 'sku',
    part: 'variants',
    check(form, _demands, { channelName }) {
      const shared = sharedSku(form);
      return {
        kept: shared === null,
        says:
          shared === null
            ? 'Each variant has an SKU of its own.'
            : `The SKU ${shared} would be that of more than one variant; ${channelName} tells variants apart by it.`,
        mend: 'Give each its own under SKUs and GTINs, or put {options} into the pattern.',
      };
    },
  },
];

const pricesOf = (variants: ListingForm['variants']): number[] =>
  Object.values(variants).map(({ priceMinor }) => priceMinor);

/** A sum of the channel that is in the store's own currency already. */
const ownSum = ({ minor }: ChannelSum): number => minor;

export const PRICE_RULES: readonly ListingRule[] = [
  {
    id: 'bundle-artwork',
    part: 'price',
    check(_form, _demands, { bareCompanions = [] }) {
      const [bare] = bareCompanions;
      return bare === undefined
        ? null
        : {
            kept: false,
            says: `A bundle holds ${bare}, on which nothing is printed yet.`,
            mend: `Put artwork on ${bare}, or remove it from the bundle.`,
          };
    },
  },
  FLOOR_RULE,
  {
    id: 'price-min',
    part: 'price',
    check({ variants, currency }, { priceMin }, { channelName, sumHere = ownSum }) {
      const lowest = Math.min(...pricesOf(variants));
      const least = sumHere(priceMin);
      const text = (minor: number) => formatMoney(money(minor, currency));
      return {
        kept: lowest >= least,
        says: `The lowest price is ${text(lowest)}; ${channelName} wants ${text(least)} or more.`,
        mend: 'Raise the lowest price.',
      };
    },
  },
  {
    id: 'price-max',
    part: 'price',
    check({ variants, currency }, { priceMax }, { channelName, sumHere = ownSum }) {
      if (!priceMax) return null;
      const highest = Math.max(...pricesOf(variants));
      const most = sumHere(priceMax);
      const text = (minor: number) => formatMoney(money(minor, currency));
      return {
        kept: highest <= most,
        says: `The highest price is ${text(highest)}; ${channelName} takes up to ${text(most)}.`,
        mend: 'Lower the highest price.',
      };
    },
  },
  {
    id: 'price-spread',
    part: 'price',
    check({ variants, currency }, { spreadMax }, { channelName }) {
      if (spreadMax === undefined) return null;
      const prices = pricesOf(variants);
      const [lowest, highest] = [Math.min(...prices), Math.max(...prices)];
      const text = (minor: number) => formatMoney(money(minor, currency));
      return {
        kept: highest <= spreadMax * lowest,
        says: `Prices go from ${text(lowest)} to ${text(highest)}; ${channelName} takes up to ${spreadMax} times the lowest.`,
        mend: 'Bring prices nearer together, or leave the dearest variants out.',
      };
    },
  },
];

export const PICTURE_RULES: readonly ListingRule[] = [
  {
    id: 'pictures',
    part: 'pictures',
    check({ pictures }, { picturesMin, picturesMax }, { channelName }) {
      const n = pictures.length;
      return {
        kept: n >= picturesMin && n <= picturesMax,
        says: `${count(n, 'picture')}; ${channelName} wants ${picturesMin} to ${picturesMax}.`,
        mend: n < picturesMin ? 'Put artwork on an area that has a shot.' : 'Choose fewer pictures.',
      };
    },
  },
  {
    id: 'picture-size',
    part: 'pictures',
    check: (_form, { pictureLongSideMinPx }, { channelName, pictureLongSidePx }) => ({
      kept: pictureLongSidePx >= pictureLongSideMinPx,
      says: `Pictures are ${pictureLongSidePx} px on the long side; ${channelName} wants ${pictureLongSideMinPx} or more.`,
      mend: 'Use a larger shot.',
    }),
  },
  {
    id: 'first-on-white',
    part: 'pictures',
    check({ pictures }, { firstOnWhite }, { channelName, firstCanBeOnWhite = true }) {
      if (!firstOnWhite || pictures.length === 0) return null;
      return {
        kept: firstCanBeOnWhite,
        says: firstCanBeOnWhite
          ? 'The first picture is sent on pure white.'
          : `${channelName} wants the first picture on pure white; a close-up or a photograph of your own cannot be set on it.`,
        mend: 'Put a mock-up of the whole good first.',
      };
    },
  },
  {
    id: 'picture-refused',
    part: 'pictures',
    check({ pictures }, _demands, { channelName, refusedPictures = [] }) {
      const wanted = new Set(pictures.map(({ key }) => key));
      const refused = refusedPictures.find(({ key }) => wanted.has(key));
      if (!refused) return null;
      const place = pictures.findIndex(({ key }) => key === refused.key) + 1;
      return {
        kept: false,
        says: `${channelName} looked at picture ${place} and refused it: “${refused.words}”`,
        mend: 'Choose another picture in its place.',
      };
    },
  },
];
