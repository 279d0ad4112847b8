import { NO_OWN_COSTS, type Duty, type OwnCosts } from './own-costs';
import type { GoodClass, Tax } from './tax';

/** What holds for all prices of a workspace. */
export interface MoneySettings {
  /** Added to the rate at which costs are converted, parts per million. */
  readonly rateMarginPpm: number;
  readonly taxes: readonly Tax[];
  /** What partners take off all making for this seller, by the partner's id, parts per million. */
  readonly discounts: { readonly [partnerId: string]: number };
  /** Where the seller sells: weights by destination; empty means the workspace's own country alone. */
  readonly mix: readonly { readonly country: string; readonly weight: number }[];
  /** By currency: the prices that may be asked for, rising, in its minor units. */
  readonly ladders: { readonly [currency: string]: readonly number[] };
  /** Kinds of goods that are not taxed as standard. */
  readonly goods: readonly GoodClass[];
  readonly duties: readonly Duty[];
  readonly own: OwnCosts;
}

export const PLAIN_SETTINGS: MoneySettings = {
  rateMarginPpm: 0,
  taxes: [],
  discounts: {},
  mix: [],
  ladders: {},
  goods: [],
  duties: [],
  own: NO_OWN_COSTS,
};

/** The settings as they hold on a day (YYYY-MM-DD): what begins later is left out. */
export const settingsOn = (settings: MoneySettings, day: string): MoneySettings => ({
  ...settings,
  taxes: settings.taxes.filter(({ firstDay = day }) => firstDay <= day),
  duties: settings.duties.filter(({ firstDay = day }) => firstDay <= day),
});
