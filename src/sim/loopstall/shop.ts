import type { Account, Article } from '../engine/goods';
import type { World } from '../engine/world';

export interface Own {
  readonly warehouses: readonly { readonly id: string; readonly name: string; readonly country: string }[];
}

export interface Extra {
  traits: Record<string, string>;
  warehouse: string | null;
  ship: { to: string[]; each_cents: number }[];
  madeIn: string;
}

export type Piece = Article<Extra>;
export type Stall = Account<Own>;
export type Loopstall = World<Own, Extra>;

/** One thing that a shelf asks of what stands on it. */
export interface Trait {
  readonly key: string;
  readonly label: string;
  /** What can be answered; absent: a text of up to 60 characters. */
  readonly choices?: readonly string[];
  readonly needed: boolean;
}

export interface Shelf {
  readonly id: string;
  readonly name: string;
  readonly parent: string | null;
  /** Only leaves take goods, and they ask. */
  readonly asks?: readonly Trait[];
}
