import type { Blank, PriceList } from '@/core/catalog/blank';
import { colorOption } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import type { Finding } from '@/core/findings/finding';
import { chosenColors } from '@/core/listing/form';
import { DEFAULT_PICTURES, defaultSet, type ShotAbout } from '@/core/listing/pictures';
import { formatAmount, money } from '@/core/pricing/money';
import { losesMoney, type PricedVariant } from '@/core/pricing/plan';
import { SYNC_MARKS, type SyncState } from '@/core/sync/state';
import { tiersOf } from '@/core/variants/tiers';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import { count } from '../count';

export const PARTS = ['blank', 'artwork', 'variants', 'pictures', 'price', 'words', 'stores'] as const;
export type Part = (typeof PARTS)[number];

/** The part that an address names; where it names none, the artwork. */
export const partOf = (text: string | null | undefined): Part => PARTS.find((part) => part === text) ?? 'artwork';

/** What the docket calls a part. */
export function partTitle(part: Part, blank: Pick<Blank, 'options'>): string {
  if (part === 'variants') return colorOption(blank) ? 'Colors & sizes' : 'Sizes';
  return part[0]!.toUpperCase() + part.slice(1);
}

export interface DocketLine {
  readonly part: Part;
  readonly name: string;
  /** One line of its present truth. */
  readonly truth: string;
  /** A check when done, else what it lacks, in words. */
  readonly mark: { readonly kind: 'done' | 'lacking' | 'warn' | 'stop'; readonly text: string };
}

export interface DocketInput {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly list: PriceList;
  readonly findings: readonly Finding[];
  readonly priced: readonly PricedVariant[];
  readonly currency: string;
  /** Shots of the blank. */
  readonly shots: readonly ShotAbout[];
  /** Whether words break a rule of a store, as they are typed. */
  readonly wordsBroken: boolean;
  readonly listings: readonly {
    readonly state: SyncState;
    readonly rules: readonly { readonly kept: boolean; readonly part: string }[];
  }[];
}

/** How many pictures there are, and whether the seller chose them. */
function picturesLine(
  doc: ProductDocument,
  blank: Blank,
  shots: readonly ShotAbout[],
  listings: DocketInput['listings'],
): DocketLine {
  const chosen = Object.keys(doc.pictures.base).length;
  const pictures = chosen || defaultSet(doc, blank, shots, DEFAULT_PICTURES).length;
  const broken = listings.some((listing) => listing.rules.some((rule) => !rule.kept && rule.part === 'pictures'));
  return {
    part: 'pictures',
    name: 'Pictures',
    truth: pictures === 0 ? 'nothing to show yet' : `${count(pictures, 'picture')}, ${chosen ? 'chosen' : 'automatic'}`,
    mark:
      pictures === 0
        ? { kind: 'lacking', text: 'none' }
        : broken
          ? { kind: 'stop', text: 'see rules' }
          : { kind: 'done', text: '✓' },
  };
}

/** The docket: each part with its truth and its mark. */
export function docketLines({
  doc,
  blank,
  list,
  findings,
  priced,
  currency,
  shots,
  wordsBroken,
  listings,
}: DocketInput): DocketLine[] {
  const layers = Object.values(doc.areas).map(
    (area) => Object.values(area.layers).filter((layer) => !layer.hidden).length,
  );
  const [areaCount, layerCount] = [layers.filter((n) => n > 0).length, layers.reduce((a, b) => a + b, 0)];
  const [stops, warns] = (['stop', 'warn'] as const).map(
    (severity) => findings.filter((finding) => finding.severity === severity).length,
  );
  const variants = Object.keys(doc.variants).length;
  const troubles = variantTroubles(blank, doc.variants);
  const troubled = (kind: VariantTrouble['kind']) =>
    troubles.find((trouble) => trouble.kind === kind)?.variantKeys.length ?? 0;
  const colors = chosenColors(doc, blank).filter((color) => color !== null).length;
  const prices = priced.map((p) => p.retailMinor);
  const below = priced.filter(losesMoney).length;
  const done = { kind: 'done', text: '✓' } as const;
  const lacking = (text: string) => ({ kind: 'lacking', text }) as const;
  const costs = Object.values(list.baseCostMinor);
  const { title, description } = doc.words.base;
  const states = new Map<SyncState, number>();
  for (const { state } of listings) states.set(state, (states.get(state) ?? 0) + 1);
  const refused = states.get('refused') ?? 0;
  return [
    {
      part: 'blank',
      name: 'Blank',
      truth: `${blank.name}, from ${formatAmount(money(Math.min(...costs), list.currency))} ${list.currency}`,
      mark: done,
    },
    {
      part: 'artwork',
      name: 'Artwork',
      truth: layerCount === 0 ? 'nothing placed yet' : `${count(areaCount, 'area')}, ${count(layerCount, 'layer')}`,
      mark:
        layerCount === 0
          ? lacking('empty')
          : stops! > 0
            ? { kind: 'stop', text: `${stops} to fix` }
            : warns! > 0
              ? { kind: 'warn', text: count(warns!, 'warning') }
              : done,
    },
    {
      part: 'variants',
      name: partTitle('variants', blank),
      truth:
        variants === 0
          ? 'none chosen'
          : [colors > 0 ? count(colors, 'color') : null, count(variants, 'variant')].filter(Boolean).join(', '),
      mark:
        variants === 0
          ? lacking('none')
          : troubled('ended') > 0
            ? { kind: 'stop', text: `${troubled('ended')} ended` }
            : troubled('out-of-stock') > 0
              ? { kind: 'warn', text: `${troubled('out-of-stock')} out` }
              : done,
    },
    picturesLine(doc, blank, shots, listings),
    {
      part: 'price',
      name: 'Price',
      truth:
        prices.length === 0
          ? 'no variant to price'
          : `${count(tiersOf(blank, list, doc.variants).length, 'tier')}, ${[...new Set([Math.min(...prices), Math.max(...prices)])].map((p) => formatAmount(money(p, currency))).join('–')} ${currency}`,
      mark: prices.length === 0 ? lacking('none') : below > 0 ? { kind: 'stop', text: `${below} below floor` } : done,
    },
    {
      part: 'words',
      name: 'Words',
      truth:
        description.trim() === ''
          ? 'no description'
          : title.trim() === ''
            ? 'no title'
            : `${count(Object.keys(doc.words.base.tags).length, 'tag')}`,
      mark:
        title.trim() === '' || description.trim() === ''
          ? lacking('lacking')
          : wordsBroken
            ? { kind: 'stop', text: 'fix' }
            : done,
    },
    {
      part: 'stores',
      name: 'Stores',
      truth:
        listings.length === 0
          ? 'no store connected'
          : [...states].map(([state, n]) => `${SYNC_MARKS[state].mark} ${n} ${SYNC_MARKS[state].word}`).join(', '),
      mark:
        listings.length === 0
          ? lacking('none')
          : refused > 0
            ? { kind: 'stop', text: `${refused} refused` }
            : states.size === 1 && states.has('in-step')
              ? done
              : lacking(''),
    },
  ];
}
