import type { ListingForm } from '../listing/form';
import { formatMoney, money } from '../pricing/money';
import { count } from '../words/count';
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
    check({ variants, currency }, { priceMin: { minor: priceMinMinor } }, { channelName }) {
      const lowest = Math.min(...Object.values(variants).map(({ priceMinor }) => priceMinor));
      const text = (minor: number) => formatMoney(money(minor, currency));
      return {
        kept: lowest >= priceMinMinor,
        says: `The lowest price is ${text(lowest)}; ${channelName} wants ${text(priceMinMinor)} or more.`,
        mend: 'Raise the lowest price.',
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
];

export const STORE_RULES: readonly ListingRule[] = [
  {
    id: 'partner',
    part: 'stores',
    check({ partner }, { partnerDeclared }, { channelName, partnerDeclared: declared }) {
      const kept = !partnerDeclared || declared;
      return {
        kept,
        says: kept
          ? `${partner.name} is declared as print partner.`
          : `${channelName} wants the print partner ${partner.name} declared.`,
        mend: `Declare ${partner.name} on the store’s page.`,
      };
    },
  },
];
