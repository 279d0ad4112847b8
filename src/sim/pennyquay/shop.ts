import type { Account, Article } from '../engine/goods';
import type { World } from '../engine/world';

/** What a seller has at Pennyquay beside listings. */
export interface Own {
  makers: { id: string; name: string; country: string }[];
  deliveryProfiles: DeliveryProfile[];
}

export interface DeliveryProfile {
  id: string;
  name: string;
  lanes: { countries: string[]; first: string; further: string }[];
}

/** What an item has beside what every shop's listings have. */
export interface Extra {
  maker: string | null;
  deliveryProfile: string | null;
}

export type Item = Article<Extra>;
export type Seller = Account<Own>;
export type Pennyquay = World<Own, Extra>;

export interface Voucher {
  readonly shop: string;
  readonly code: string;
  readonly percent: string | null;
  readonly amount: string | null;
  readonly items: string[] | null;
}
