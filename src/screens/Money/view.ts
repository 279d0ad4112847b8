import { formatMoney, formatPercent, money } from '@/core/pricing/money';
import type { PriceRule } from '@/core/pricing/rule';

/** What a rule does, in words: `margin 40.0 %, ends in .99, shipping paid by the buyer; Pennyquay +5 %`. */
export function aimWords(rule: PriceRule, currency: string, storeName: (id: string) => string): string {
  const { aim, ending, shipping, differences } = rule;
  const parts = [
    aim.kind === 'profit'
      ? `profit ${formatMoney(money(aim.amountMinor, currency))}`
      : `${aim.kind} ${formatPercent(aim.ppm)}`,
    ending === 'none' ? null : `ends in ${ending}`,
    shipping === 'charged' ? 'shipping paid by the buyer' : 'shipping in the price',
  ].filter(Boolean);
  const stores = Object.entries(differences).map(
    ([id, ppm]) => `${storeName(id)} ${ppm >= 0 ? '+' : '−'}${Math.abs(ppm) / 10_000} %`,
  );
  return [parts.join(', '), ...stores].join('; ');
}

/** Shares of destinations as percentages that a person reads: `US 60 %`. */
export function mixShares(mix: readonly { readonly country: string; readonly weight: number }[]): Map<string, string> {
  const sum = mix.reduce((total, { weight }) => total + weight, 0);
  return new Map(mix.map(({ country, weight }) => [country, formatPercent(Math.round((weight * 1_000_000) / sum), 0)]));
}
