import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { ShopCode } from '@/ports/channel';

/** A discount code in decimal texts, as shops tell it: a percentage in tenths, or an amount. */
export const wireOff = ({ off }: ShopCode, currency: string): { percent: string | null; amount: string | null } => ({
  percent: off.kind === 'share' ? (off.ppm / 10_000).toFixed(1) : null,
  amount: off.kind === 'sum' ? formatAmount(money(off.amountMinor, currency)) : null,
});

export const offOf = (
  { percent, amount }: { readonly percent: string | null; readonly amount: string | null },
  currency: string,
): ShopCode['off'] =>
  percent === null
    ? { kind: 'sum', amountMinor: parseAmountMinor(amount ?? '0', currency) }
    : { kind: 'share', ppm: Math.round(Number(percent) * 10_000) };
