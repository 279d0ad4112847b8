import type { ShopKind } from '../engine/world';
import type { Extra, Own, Pennyquay, Seller } from './shop';

export type Kind = ShopKind<Own, Extra>;

/** One request of a seller's program that was let in. */
export interface Asked {
  readonly world: Pennyquay;
  readonly kind: Kind;
  readonly shop: Seller;
  readonly method: string;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly requestKey: string;
  readonly body: Buffer;
  readonly fields: Record<string, unknown>;
}
