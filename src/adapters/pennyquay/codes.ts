import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { ShopCode } from '@/ports/channel';
import { about } from './about';
import type { WireCode } from './wire';

export const wireCode = ({ code, off, externalIds }: ShopCode): WireCode => ({
  code,
  percent: off.kind === 'share' ? (off.ppm / 10_000).toFixed(1) : null,
  amount: off.kind === 'sum' ? formatAmount(money(off.amountMinor, about.currency)) : null,
  items: externalIds,
});

export const codeOf = ({ code, percent, amount, items }: WireCode): ShopCode => ({
  code,
  off:
    percent === null
      ? { kind: 'sum', amountMinor: parseAmountMinor(amount ?? '0', about.currency) }
      : { kind: 'share', ppm: Math.round(Number(percent) * 10_000) },
  externalIds: items,
});
