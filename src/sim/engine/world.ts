import type { Answer, Exchange } from './exchange';
import type { FaultBox } from './faults';
import type { Account, Article, Charge, Objection, Order, StoredPicture } from './goods';
import type { Records, Table } from './records';

/** What a shop knows and does, whatever its kind. */
export interface World<Own = unknown, Extra = unknown> {
  readonly records: Records;
  readonly accounts: Table<Account<Own>>;
  readonly articles: Table<Article<Extra>>;
  readonly pictures: Table<StoredPicture>;
  readonly orders: Table<Order>;
  readonly charges: Table<Charge>;
  readonly faults: FaultBox;
  /** Programs that may ask for consent, with the address to which answers go. */
  readonly clients: ReadonlyMap<string, string>;
  url: string;
  /** Requests of programs that the limit let through since the shop was opened, and those that came too soon. */
  taken: number;
  tooMany: number;
  /** The shop's time, ms: it can be made to run faster. */
  now(): number;
  /** What it says the time is: its clock can be off, ms. */
  told(): number;
  /** What it says the time is to others that do not know of a faster clock, ms. */
  stamp(): number;
  /** Sets the clock forward by so much, ms. */
  forward(ms: number): void;
  /** Sleeps so long by the shop's clock, ms. */
  sleep(ms: number): Promise<void>;
  /** From 0 up to 1, the same row of numbers for the same seed. */
  chance(): number;
  newId(prefix: string): string;
}

/** The words and colors of a shop's pages. */
export interface Look {
  readonly strap: string;
  readonly ground: string;
  readonly ink: string;
  readonly bar: string;
  readonly face: string;
  /** What it calls a listing, its tags, its place; null for what it has not. */
  readonly article: string;
  readonly tags: string | null;
  readonly category: string | null;
  readonly draft: string;
  /** Where the pages of listings and of shops are. */
  readonly articlePath: string;
  readonly shopPath: string;
}

/** What happened to a listing. */
export type Happening = 'changed' | 'removed';

/** One kind of shop: its data, its words, its rules and its wire format. */
export interface ShopKind<Own = unknown, Extra = unknown> {
  readonly name: string;
  readonly look: Look;
  readonly accounts: readonly Account<Own>[];
  /** Where programs call. */
  readonly apiPath: string;
  /** Answers a program's request that was let through; null for an address that it does not have. */
  api(exchange: Exchange, body: Buffer, world: World<Own, Extra>): Promise<Answer | null> | Answer | null;
  /** Pages of its own, such as consent; null for what is none of them. */
  pages?(exchange: Exchange, world: World<Own, Extra>): Promise<Answer | null>;
  /** Share of programs' requests that come to nothing by themselves, from 0 to 1; half of them after the work was done. */
  readonly troubles?: number;
  /** It looks at what stands around a good in a picture. */
  readonly looksAtGround?: boolean;
  /** Links of its own on the sellers' page: address and words. */
  readonly deskLinks?: readonly (readonly [href: string, words: string])[];
  /** Called before every request: does what time has brought. */
  advance?(world: World<Own, Extra>): void;
  newExtra(): Extra;
  /** What has to be otherwise for a listing to be kept, and for buyers to see it. */
  objections(article: Article<Extra>, world: World<Own, Extra>): Objection[];
  objectionsToLive(article: Article<Extra>, world: World<Own, Extra>): Objection[];
  /** What being live costs and how long it lasts; absent: nothing, for ever. */
  readonly livePrice?: { readonly what: string; readonly amountMinor: number; readonly days: number };
  /** Places for a listing, for the seller's page. */
  categories?(account: Account<Own>): readonly { readonly id: string; readonly name: string }[];
  /** What delivery of some listings costs to a country; null where one of them is not delivered there. */
  deliveryMinor(
    lines: readonly { readonly article: Article<Extra>; readonly variantSku: string; readonly quantity: number }[],
    country: string,
    world: World<Own, Extra>,
  ): number | null;
  /** What else its pages say about a listing. */
  notes?(article: Article<Extra>, world: World<Own, Extra>): readonly string[];
  happened?(article: Article<Extra>, what: Happening, world: World<Own, Extra>): void;
}
