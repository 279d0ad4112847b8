import type { Blank, PriceList } from '@/core/catalog/blank';
import type { ExchangeRate } from '@/core/pricing/rates';
import { loadBlanks, loadPriceLists } from '@/server/catalog/blanks';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { loadExchangeRates } from '@/server/rates/rates';

export interface BlanksData {
  readonly blanks: readonly { readonly blank: Blank; readonly list: PriceList }[];
  readonly exchangeRates: readonly ExchangeRate[];
  readonly currency: string;
  readonly country: string;
}

/** All blanks with the price lists in force. */
export async function loadBlanksScreen(ctx: Context, actor: Actor): Promise<BlanksData> {
  const [blanks, exchangeRates] = await Promise.all([loadBlanks(ctx), loadExchangeRates(ctx, actor.workspaceId)]);
  const lists = await loadPriceLists(ctx, actor.workspaceId, blanks);
  return {
    blanks: blanks.flatMap((blank) => {
      const list = lists.get(blank.id);
      return list ? [{ blank, list }] : [];
    }),
    exchangeRates,
    currency: actor.currency,
    country: actor.country,
  };
}
