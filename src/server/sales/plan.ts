import { invalid } from '@/core/errors';
import { formatMoney, formatPercent, money } from '@/core/pricing/money';
import type { Context } from '../context';
import type { Actor } from '../people/people';
import { previewSale, type StoreDeepest } from './preview';
import { planSale, type SalePlan, type SaleRow } from './sales';

/** The deepest code that still pays, in words for each store. */
const deepestWords = (deepest: readonly StoreDeepest[]): string =>
  deepest
    .map(({ storeName, sharePpm, sumMinor, currency }) =>
      sharePpm === null || sumMinor === null
        ? `in ${storeName} a price loses money without a code already`
        : `in ${storeName} ${formatPercent(sharePpm)} or ${formatMoney(money(sumMinor, currency))} off still pays`,
    )
    .join('; ');

/**
 * Plans a sale or a discount code. A price stays as it is under a code, so that no floor can hold it: one that loses money is planned only where the
 * losses are accepted. Throws `code-loses`, and what `planSale` throws.
 */
export async function planLookedAt(ctx: Context, actor: Actor, plan: SalePlan): Promise<SaleRow> {
  if (plan.code != null && !plan.acceptLosses) {
    const { losing, deepest } = await previewSale(ctx, actor, plan);
    if (losing > 0)
      throw invalid(
        'code-loses',
        `With this code ${losing} ${losing === 1 ? 'variant loses' : 'variants lose'} money: ${deepestWords(deepest)}. Take off less, name other goods, or accept the losses.`,
        { losing, deepest },
      );
  }
  return planSale(ctx, actor, plan);
}
