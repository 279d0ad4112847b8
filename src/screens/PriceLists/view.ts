import type { BlankChange, ChangeTotals } from '@/core/partner-file/price-changes';
import type { FaultGroup } from '@/core/partner-file/price-csv';
import type { CsvFault } from '@/core/csv/fault';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import type { ListView, ProductEffect, VariantChange } from './load';
import { count } from '@/core/words/count';

/** The state of a list in words. */
export function stateWords(list: Pick<ListView, 'state' | 'jobState' | 'workspaceId'>): string {
  switch (list.state) {
    case 'reading':
      return list.jobState === 'failed'
        ? 'not read: it broke off'
        : list.jobState === 'cancelled'
          ? 'stopped while it was read'
          : 'being read';
    case 'ready':
      return 'read, to be applied';
    case 'faulty':
      return 'has errors, not applied';
    case 'undone':
      return 'undone';
    case 'dropped':
      return 'discarded';
    case 'taken':
      return list.workspaceId === null ? 'shared' : 'applied';
  }
}

/** What changes in sum, the weightiest first; what is zero is left out. */
export function totalTexts(totals: ChangeTotals): { text: string; tone: 'stop' | 'caution' | 'kept' | 'muted' }[] {
  const all = [
    { n: totals.up, text: count(totals.up, 'cost up', 'costs up'), tone: 'stop' },
    { n: totals.down, text: count(totals.down, 'cost down', 'costs down'), tone: 'kept' },
    { n: totals.ends, text: count(totals.ends, 'variant ends', 'variants end'), tone: 'stop' },
    { n: totals.returns, text: count(totals.returns, 'variant returns', 'variants return'), tone: 'kept' },
    { n: totals.runsOut, text: count(totals.runsOut, 'variant runs out', 'variants run out'), tone: 'caution' },
    { n: totals.restocked, text: `${totals.restocked.toLocaleString('en')} there again`, tone: 'kept' },
    { n: totals.stockMoves, text: count(totals.stockMoves, 'stock', 'stocks') + ' counted again', tone: 'muted' },
    { n: totals.added, text: count(totals.added, 'first cost'), tone: 'kept' },
    { n: totals.unchanged, text: `${totals.unchanged.toLocaleString('en')} as before`, tone: 'muted' },
    {
      n: totals.unnamed,
      text: `${totals.unnamed.toLocaleString('en')} not in the file stay as they are`,
      tone: 'muted',
    },
  ] as const;
  return all.filter((one) => one.n > 0).map(({ text, tone }) => ({ text, tone }));
}

const signed = (ppm: number) => `${ppm > 0 ? '+' : ''}${formatPercent(ppm)}`;

/** `3 up, the most +8.0 %; 2 end`. */
export function blankChangeText(change: BlankChange): string {
  return [
    change.up > 0 && `${change.up} up, the most ${signed(change.mostUpPpm)}`,
    change.down > 0 && `${change.down} down, the most ${signed(change.mostDownPpm)}`,
    change.ends > 0 && `${change.ends} end`,
    change.returns > 0 && `${change.returns} return`,
    change.runsOut > 0 && `${change.runsOut} run out`,
    change.restocked > 0 && `${change.restocked} there again`,
    change.stockMoves > 0 && `${change.stockMoves} counted again`,
  ]
    .filter(Boolean)
    .join('; ');
}

/** Before, after and the change of one variant, as text. */
export function variantChangeTexts(
  change: VariantChange,
  currency: string,
): { before: string; after: string; by: string; tone: 'stop' | 'kept' | 'muted'; also: string } {
  const { beforeMinor, afterMinor } = change;
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const ppm = beforeMinor === null ? 0 : Math.round(((afterMinor - beforeMinor) / beforeMinor) * 1_000_000);
  const there = (stock: number) => stock > 0;
  return {
    before: beforeMinor === null ? '–' : amount(beforeMinor),
    after: amount(afterMinor),
    by: beforeMinor === null ? 'new' : ppm === 0 ? 'same' : signed(ppm),
    tone: ppm > 0 ? 'stop' : ppm < 0 ? 'kept' : 'muted',
    also:
      change.endedAfter !== change.endedBefore
        ? change.endedAfter
          ? 'ends'
          : 'returns'
        : there(change.stockAfter) !== there(change.stockBefore)
          ? there(change.stockAfter)
            ? `there again, ${change.stockAfter}`
            : 'runs out'
          : change.stockAfter !== change.stockBefore
            ? `stock ${change.stockBefore} → ${change.stockAfter}`
            : '',
  };
}

export const EFFECT_WORDS: Record<
  ProductEffect['kind'],
  { readonly word: string; readonly title: string; readonly tone: 'stop' | 'caution' }
> = {
  loss: { word: 'Must fix', title: 'Sold below cost', tone: 'stop' },
  ended: { word: 'Must fix', title: 'Lose variants', tone: 'stop' },
  under: { word: 'Warning', title: 'Earn less than you set', tone: 'caution' },
  'out-of-stock': { word: 'Warning', title: 'Have variants that run out', tone: 'caution' },
  unknown: { word: 'Warning', title: 'Cannot be told, since an exchange rate is missing', tone: 'caution' },
};

/** Effects by kind, in the order in which they matter; kinds without any are left out. */
export function effectGroups(
  effects: readonly ProductEffect[],
): { kind: ProductEffect['kind']; effects: readonly ProductEffect[] }[] {
  return (['loss', 'ended', 'unknown', 'under', 'out-of-stock'] as const)
    .map((kind) => ({ kind, effects: effects.filter((effect) => effect.kind === kind) }))
    .filter((group) => group.effects.length > 0);
}

/** Money before and after, for the worst of the variants. */
export function worstTexts(worst: NonNullable<ProductEffect['worst']>): {
  retail: string;
  profit: string;
  margin: string;
} {
  const amount = (minor: number) => formatAmount(money(minor, worst.currency));
  const margin = (ppm: number | null) => (ppm === null ? '–' : formatPercent(ppm));
  return {
    retail: `${amount(worst.retailMinor)} ${worst.currency}`,
    profit: `${amount(worst.profitBeforeMinor)} → ${amount(worst.profitAfterMinor)}`,
    margin: `${margin(worst.marginBeforePpm)} → ${margin(worst.marginAfterPpm)}`,
  };
}

/** Faults that are shown in full, in the order of the file, and for each kind that has more how many there are and where. */
export function faultLines(groups: readonly FaultGroup[]): { faults: CsvFault[]; more: string[] } {
  return {
    faults: groups.flatMap((group) => group.faults).sort((a, b) => a.line - b.line),
    more: groups
      .filter((group) => group.count > group.faults.length)
      .map((group) => {
        const further = group.lines.slice(group.faults.length, group.faults.length + 12);
        const rest = group.count - group.faults.length;
        return `${count(rest, 'more line')} with such a fault${group.column ? ` in “${group.column}”` : ''}: ${further.join(', ')}${rest > further.length ? ' …' : ''}`;
      }),
  };
}
