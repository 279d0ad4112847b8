import type { Blank, PriceList } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import type { Finding } from '@/core/findings/finding';
import { chosenColors } from '@/core/document/chosen';
import { DEFAULT_PICTURES, defaultSet, type ShotAbout } from '@/core/listing/pictures';
import { formatAmount, money } from '@/core/pricing/money';
import { losesMoney, type PricedVariant } from '@/core/pricing/pricer';
import { SYNC_MARKS, type SyncState } from '@/core/sync/state';
import { tiersOf } from '@/core/variants/tiers';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import { count } from '@/core/words/count';
import type { Part } from './parts';

export interface DocketLine {
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

type Mark = DocketLine['mark'];
const DONE: Mark = { kind: 'done', text: '✓' };
const lacking = (text: string): Mark => ({ kind: 'lacking', text });
const stop = (text: string): Mark => ({ kind: 'stop', text });
const warn = (text: string): Mark => ({ kind: 'warn', text });

function blankLine({ blank, list }: DocketInput): DocketLine {
  const least = Math.min(...Object.values(list.baseCostMinor));
  return { truth: `${blank.name}, from ${formatAmount(money(least, list.currency))} ${list.currency}`, mark: DONE };
}

function artworkLine({ doc, findings }: DocketInput): DocketLine {
  const layers = Object.values(doc.areas).map(
    (area) => Object.values(area.layers).filter((layer) => !layer.hidden).length,
  );
  const [areas, placed] = [layers.filter((n) => n > 0).length, layers.reduce((a, b) => a + b, 0)];
  if (placed === 0) return { truth: 'nothing placed yet', mark: lacking('empty') };
  const [stops, warns] = (['stop', 'warn'] as const).map(
    (severity) => findings.filter((finding) => finding.severity === severity).length,
  );
  return {
    truth: `${count(areas, 'area')}, ${count(placed, 'layer')}`,
    mark: stops! > 0 ? stop(`${stops} to fix`) : warns! > 0 ? warn(count(warns!, 'warning')) : DONE,
  };
}

function variantsLine({ doc, blank }: DocketInput): DocketLine {
  const variants = Object.keys(doc.variants).length;
  if (variants === 0) return { truth: 'none chosen', mark: lacking('none') };
  const colors = chosenColors(doc, blank).filter((color) => color !== null).length;
  const troubles = variantTroubles(blank, doc.variants);
  const troubled = (kind: VariantTrouble['kind']) =>
    troubles.find((trouble) => trouble.kind === kind)?.variantKeys.length ?? 0;
  const [ended, out] = [troubled('ended'), troubled('out-of-stock')];
  return {
    truth: [colors > 0 ? count(colors, 'color') : null, count(variants, 'variant')].filter(Boolean).join(', '),
    mark: ended > 0 ? stop(`${ended} ended`) : out > 0 ? warn(`${out} out`) : DONE,
  };
}

/** How many pictures there are, and whether the seller chose them. */
function picturesLine({ doc, blank, shots, listings }: DocketInput): DocketLine {
  const chosen = Object.keys(doc.pictures.base).length;
  const pictures = chosen || defaultSet(doc, blank, shots, DEFAULT_PICTURES).length;
  if (pictures === 0) return { truth: 'nothing to show yet', mark: lacking('none') };
  const broken = listings.some((listing) => listing.rules.some((rule) => !rule.kept && rule.part === 'pictures'));
  return {
    truth: `${count(pictures, 'picture')}, ${chosen ? 'chosen' : 'automatic'}`,
    mark: broken ? stop('see rules') : DONE,
  };
}

function priceLine({ doc, blank, list, priced, currency }: DocketInput): DocketLine {
  if (priced.length === 0) return { truth: 'no variant to price', mark: lacking('none') };
  const prices = priced.map((p) => p.retailMinor);
  const ends = [...new Set([Math.min(...prices), Math.max(...prices)])].map((p) => formatAmount(money(p, currency)));
  const below = priced.filter(losesMoney).length;
  return {
    truth: `${count(tiersOf(blank, list, doc.variants).length, 'tier')}, ${ends.join('–')} ${currency}`,
    mark: below > 0 ? stop(`${below} below floor`) : DONE,
  };
}

function wordsLine({ doc, wordsBroken }: DocketInput): DocketLine {
  const { title, description, tags } = doc.words.base;
  const [untitled, silent] = [title.trim() === '', description.trim() === ''];
  return {
    truth: silent ? 'no description' : untitled ? 'no title' : count(Object.keys(tags).length, 'tag'),
    mark: untitled || silent ? lacking('lacking') : wordsBroken ? stop('fix') : DONE,
  };
}

function storesLine({ listings }: DocketInput): DocketLine {
  if (listings.length === 0) return { truth: 'no store connected', mark: lacking('none') };
  const states = new Map<SyncState, number>();
  for (const { state } of listings) states.set(state, (states.get(state) ?? 0) + 1);
  const refused = states.get('refused') ?? 0;
  return {
    truth: [...states].map(([state, n]) => `${SYNC_MARKS[state].mark} ${n} ${SYNC_MARKS[state].word}`).join(', '),
    mark: refused > 0 ? stop(`${refused} refused`) : states.size === 1 && states.has('in-step') ? DONE : lacking(''),
  };
}

/** The docket: each part with its truth and its mark. */
export function docketLines(input: DocketInput): { readonly [part in Part]: DocketLine } {
  return {
    blank: blankLine(input),
    artwork: artworkLine(input),
    variants: variantsLine(input),
    pictures: picturesLine(input),
    price: priceLine(input),
    words: wordsLine(input),
    stores: storesLine(input),
  };
}
