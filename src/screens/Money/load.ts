import { aimWords } from './view';
import { allDestinations } from '../countries';
import type { MoneySettings } from '@/core/pricing/settings';
import { kindsOfGoods } from '@/server/catalog/names';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { listPartners } from '@/server/price-lists/price-lists';
import { listRules, type KeptRule } from '@/server/pricing/rules';
import { allMoneySettings } from '@/server/pricing/settings';
import { viewRateFeed, type RateFeedView } from '@/server/rates/feed';
import { loadExchangeRates, type KeptRate } from '@/server/rates/rates';
import { listStores } from '@/server/stores/stores';

export interface RuleView extends Pick<KeptRule, 'id' | 'name' | 'forNew'> {
  /** What it does, in words. */
  readonly says: string;
}

export interface MoneyData {
  readonly settings: MoneySettings;
  readonly rates: readonly KeptRate[];
  /** What became of the daily rates; null where there are none. */
  readonly feed: RateFeedView | null;
  readonly rules: readonly RuleView[];
  readonly partners: readonly { readonly id: string; readonly name: string }[];
  readonly countries: readonly { readonly value: string; readonly name: string }[];
  /** Kinds of goods that there are. */
  readonly kinds: readonly string[];
  readonly currency: string;
  readonly country: string;
  readonly today: string;
}

/** Everything that the page of rates and rules shows. */
export async function loadMoneyPage(ctx: Context, actor: Actor): Promise<MoneyData> {
  const [{ settings }, rates, feed, rules, partners, stores, kinds] = await Promise.all([
    allMoneySettings(ctx, actor.workspaceId),
    loadExchangeRates(ctx, actor.workspaceId),
    viewRateFeed(ctx),
    listRules(ctx, actor.workspaceId),
    listPartners(ctx, actor.workspaceId),
    listStores(ctx, actor.workspaceId),
    kindsOfGoods(ctx.db),
  ]);
  const nameOf = (id: string) => stores.find((store) => store.id === id)?.name ?? 'a store that is gone';
  return {
    settings,
    rates,
    feed,
    rules: rules.map(({ id, name, forNew, rule }) => ({
      id,
      name,
      forNew,
      says: aimWords(rule, actor.currency, nameOf),
    })),
    partners: partners.map(({ id, name }) => ({ id, name })),
    countries: allDestinations(actor.country),
    kinds,
    currency: actor.currency,
    country: actor.country,
    today: ctx.clock.now().toISOString().slice(0, 10),
  };
}
