import type { Blank, PriceList } from '@/core/catalog/blank';
import type { ExchangeRate } from '@/core/pricing/rates';
import { loadOffer } from '@/server/catalog/kept-offers';
import { loadShots } from '@/server/catalog/blanks';
import { isFavorite } from '@/server/catalog/own-blanks';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { usesOf, type BlankUse } from '@/server/products/used-by';
import type { MoneySettings } from '@/core/pricing/settings';
import { loadMoney } from '@/server/pricing/settings';
import { loadExchangeRates } from '@/server/rates/rates';

export interface BlankData {
  readonly blank: Blank;
  readonly list: PriceList | null;
  readonly shotHash: string | null;
  /** Whether the workspace has marked it. */
  readonly favorite: boolean;
  readonly uses: readonly BlankUse[];
  readonly exchangeRates: readonly ExchangeRate[];
  readonly settings: MoneySettings;
  readonly currency: string;
  readonly country: string;
}

/** Everything that the page of one blank shows. Throws `not-found`. */
export async function loadBlankPage(ctx: Context, actor: Actor, id: string): Promise<BlankData> {
  const [{ blank, list }, shots, exchangeRates, { settings }, favorite] = await Promise.all([
    loadOffer(ctx, actor.workspaceId, id),
    loadShots(ctx, [id], actor.workspaceId),
    loadExchangeRates(ctx, actor.workspaceId),
    loadMoney(ctx, actor.workspaceId),
    isFavorite(ctx, actor.workspaceId, id),
  ]);
  return {
    blank,
    list,
    shotHash: shots[0]?.contentHash.slice(0, 16) ?? null,
    favorite,
    uses: await usesOf(ctx, actor.workspaceId, blank),
    exchangeRates,
    settings,
    currency: actor.currency,
    country: actor.country,
  };
}
