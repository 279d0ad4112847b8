import type { CarriedFields } from '@/core/listing/carried';
import type { ListingForm } from '@/core/listing/form';
import type { Fee } from '@/core/pricing/fees';
import type { ChannelDemands } from '@/core/rules/demands';

/**
 * A kind of shop. What differs between shops is data (`about`) or lies behind these calls; nothing outside an adapter knows a shop's
 * wire format. Errors are TypicaErrors: `shop-refused` (the shop said no, with its words in `fields.words`), `shop-busy` (try again,
 * `fields.retryAfterMs`; with `fields.costsNoTry` nothing is wrong with the shop), `shop-unreachable` (no answer: it may have been done),
 * `shop-token` (consent has lapsed), `shop-scope` (a part of it was taken back, `fields.lacks`).
 */
export interface Channel {
  readonly about: ChannelAbout;
  readonly connecting: Connecting;
  /** Gives keys back: they are worth nothing afterwards, where the shop lets a program do that. Repeating it is harmless. Throws `shop-unreachable`. */
  revoke(secrets: ChannelSecrets): Promise<void>;
  /** What a message to our address tells, once its signature holds; null for nothing that concerns a listing. Only where clients have `hooks`. */
  readonly readNews?: (message: unknown) => HookNews | null;
  /** A client for one shop. */
  open(secrets: ChannelSecrets, hooks: ChannelHooks): ChannelClient;
}

/** How a store is connected: by consent on the shop's own page, or with keys that the seller finds there and pastes. */
export type Connecting =
  | {
      readonly kind: 'consent';
      /** Address of the shop's own consent page. */
      authorizeUrl(ask: { state: string; challenge: string; redirectUri: string; region: string | null }): string;
      /** Trades the code of a consent for tokens, and says for which shop they are. */
      exchange(answer: {
        code: string;
        verifier: string;
        redirectUri: string;
        region: string | null;
      }): Promise<Connection>;
    }
  | {
      readonly kind: 'keys';
      readonly fields: readonly KeyField[];
      /** Where the seller finds them. */
      readonly page: string;
      /**
       * Looks at pasted keys. Throws `key-wrong`; `key-scope` with what is missing; `key-expired`; `key-stores` for one that is for no shop or for
       * several, which it names.
       */
      connect(typed: { readonly [field: string]: string }, region: string | null): Promise<Connection>;
    };

export interface KeyField {
  readonly name: string;
  readonly label: string;
  readonly secret: boolean;
}

/** What a client of a shop is given by whoever opens it: all that several clients of one shop must agree on. */
export interface ChannelHooks {
  /** Called before every request: waits until the shop's rate allows one. Throws when the request may no longer be made. */
  takeTurn(): Promise<ChannelTurn>;
  /** The shop asked to wait (429): whoever asks it next waits too. */
  slowDown(retryAfterMs: number): Promise<void>;
  /**
   * Renews keys that the shop no longer takes, once for all clients: `ask` trades the old ones for new ones at the shop and is called by one of
   * them only. Gives the keys that hold now.
   */
  renew(stale: ChannelSecrets, ask: (stale: ChannelSecrets) => Promise<ChannelSecrets>): Promise<ChannelSecrets>;
  /** Ends requests that are under way. */
  readonly signal?: AbortSignal;
}

export interface ChannelTurn {
  /** The request is answered, or failed. `taken`: the shop took the key. `counted`: for how long the shop counts it, where it says so. */
  answered(taken: boolean, counted?: Counted): Promise<void>;
}

/** For how long a shop counts a request among those that it allows in a time. */
export interface Counted {
  /** For so long after its answer, ms. */
  readonly forMs: number;
  /** Until then by a clock of its own, whatever it began to count at, ms. */
  readonly untilMs?: number;
}

export interface ShopRate {
  readonly perSecond: number;
  /** How many times faster than real the shop's clock runs; absent: as real. */
  readonly pace?: number;
}

export interface ChannelRegion {
  readonly code: string;
  readonly name: string;
}

export interface ChannelAbout {
  readonly code: string;
  readonly name: string;
  readonly kind: string;
  /** Currency of its fees' sums; null where each store has one of its own, in which they are then. */
  readonly currency: string | null;
  /** Regions of which the seller chooses one before connecting; none: it has none. */
  readonly regions: readonly ChannelRegion[];
  readonly fees: readonly Fee[];
  readonly demands: ChannelDemands;
  /** What of a listing form it keeps. */
  readonly carries: CarriedFields;
  /** Requests that the shop takes in any second. */
  readonly rate: ShopRate;
  /** Listings go in files of rows that are answered later; null: one by one. */
  readonly batches: { readonly rowsMax: number; readonly everyMs: number } | null;
  /** Countries to which its shoppers have goods sent, ISO 3166 alpha-2. */
  readonly sellsTo: readonly string[];
  /** Whether it shows a price to compare with beside the price. */
  readonly comparesAt: boolean;
  /** Whether it takes discount codes from a program. */
  readonly takesCodes: boolean;
  /** Whether it can be asked what changed since a mark (`list`). */
  readonly tellsChanges: boolean;
  /** For how long it may not find what it has, ms: before that has passed, absence proves nothing. */
  readonly foundAfterMs: number;
  /** What keeps a thing from being made twice there. */
  readonly onceOnly: 'idempotency-key' | 'look-up' | 'delayed-look-up';
  /** How long a live listing lasts by the shop's clock, days; null: until it is taken off. */
  readonly liveDays: number | null;
}

/** What is kept sealed for a store. Its shape is the adapter's. */
export type ChannelSecrets = { readonly [name: string]: string };

export interface Connection {
  readonly shopId: string;
  readonly shopName: string;
  readonly shopUrl: string;
  readonly currency: string;
  readonly region: string | null;
  readonly secrets: ChannelSecrets;
  /** When keys end that cannot renew themselves. */
  readonly endsAt: Date | null;
}

/** An attempt to make a listing, written down before it is made. */
export interface CreateAttempt {
  /** The same for every try of the same creation. */
  readonly key: string;
  /** Our own mark on the listing, by which the shop can be asked for it. */
  readonly reference: string;
  readonly sentAt: Date;
  /** SKUs of the form, where a shop can be asked by nothing else. */
  readonly skus: readonly string[];
}

/** What became of an attempt whose answer never came. */
export type Settlement =
  | { readonly kind: 'made'; readonly listing: RemoteRef }
  /** Certainly not made, or safe to make again with the same key. */
  | { readonly kind: 'make' }
  /** Not to be known yet. */
  | { readonly kind: 'wait'; readonly retryAfterMs: number };

export interface RemoteRef {
  readonly externalId: string;
  readonly url: string;
}

/** The shop's ids of pictures, by our keys. */
export type PictureIds = { readonly [pictureKey: string]: string };

export interface PictureUpload {
  readonly key: string;
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

/** A discount code as a shop keeps it. */
export interface ShopCode {
  readonly code: string;
  /** A share in tenths of a percent, as parts per million; or a sum off an order, minor units of the shop's currency. */
  readonly off:
    { readonly kind: 'share'; readonly ppm: number } | { readonly kind: 'sum'; readonly amountMinor: number };
  /** For which listings it is; null: for all. */
  readonly externalIds: readonly string[] | null;
}

export interface RemoteListing extends RemoteRef {
  readonly visibility: 'draft' | 'live';
  /** The listing as it stands there in our form, read against a known form: its variants by SKU, its pictures by the ids we hold. */
  readonly form: ListingForm;
  /** When it ends by the shop's clock; null: it does not. */
  readonly endsAt: Date | null;
  /** The shop's own sign of this state, the same as in `list`; another one after every change. At most 64 characters. */
  readonly stamp: string;
  /** Pictures that the shop took and then did not want, with its words. */
  readonly refusedPictures: readonly { readonly key: string; readonly words: string }[];
}

/** One of a page of a shop's listings. */
export interface ListedThere extends RemoteRef {
  readonly title: string;
  readonly visibility: 'draft' | 'live';
  /** Our mark where the shop keeps it. */
  readonly reference: string | null;
  readonly skus: readonly string[];
  /** The shop's own sign of its state: nothing of it changed since where it is the same. */
  readonly stamp: string;
}

export interface ListingPage {
  readonly listings: readonly ListedThere[];
  /** Where the next page begins; null: this was the last. */
  readonly cursor: string | null;
  /** From where to ask for what changes from now on, by the shop's own clock; null where it cannot be asked that (`about.tellsChanges`). */
  readonly mark: string | null;
}

/** One thing that a place in a shop's tree asks. */
export interface CategoryAttribute {
  readonly key: string;
  readonly label: string;
  /** The answers that there are; absent: a text of one's own. */
  readonly choices?: readonly string[];
  readonly needed: boolean;
}

export interface Category {
  readonly id: string;
  /** From the root down. */
  readonly path: readonly string[];
  readonly attributes: readonly CategoryAttribute[];
}

/** Leave to sell without product codes. */
export interface Exemption {
  readonly id: string;
  readonly brand: string;
  readonly state: 'asked' | 'granted' | 'refused';
  readonly askedAt: Date;
}

/** One listing of a file of rows: made where it has no id, else changed. */
export type BatchRow =
  | {
      readonly row: string;
      readonly kind: 'put';
      readonly externalId: string | null;
      readonly reference: string;
      readonly form: ListingForm;
      readonly pictureIds: PictureIds;
      readonly visibility: 'draft' | 'live';
    }
  | { readonly row: string; readonly kind: 'remove'; readonly externalId: string };

export interface RowAnswer {
  readonly row: string;
  readonly outcome:
    | { readonly kind: 'taken'; readonly listing: RemoteRef }
    | { readonly kind: 'refused'; readonly words: string; readonly fields: readonly string[] }
    /** The shop did not come to it: it can be sent again. */
    | { readonly kind: 'not-done' };
}

/** For channels that take files: `about.batches` says of how many rows. */
export interface BatchClient {
  /** Sends a file. Nothing keeps the shop from doing it twice when it is sent twice. */
  submit(rows: readonly BatchRow[]): Promise<{ readonly ticket: string }>;
  /** The answers so far. */
  answers(ticket: string): Promise<{ readonly done: boolean; readonly rows: readonly RowAnswer[] }>;
}

/** What a message of a shop told. */
export interface HookNews {
  readonly externalId: string;
  readonly kind: 'changed' | 'removed';
}

/** For channels that tell changes by themselves. */
export interface HookClient {
  /** Has changes told to an address from now on; gives what their signatures are checked with. One address is told once. */
  subscribe(address: string): Promise<{ readonly secret: string }>;
}

export interface ChannelClient {
  /** Partners that the seller has declared there; absent where the channel wants none declared. */
  readonly partners?: {
    list(): Promise<readonly string[]>;
    declare(partner: { name: string; country: string }): Promise<void>;
  };
  /** Its tree of places, leaves alone. */
  readonly categories?: () => Promise<readonly Category[]>;
  readonly warehouses?: () => Promise<
    readonly { readonly id: string; readonly name: string; readonly country: string }[]
  >;
  readonly exemptions?: { list(): Promise<readonly Exemption[]>; ask(brand: string): Promise<Exemption> };
  readonly batch?: BatchClient;
  readonly hooks?: HookClient;
  /** Pays a live listing's next span; only where `about.liveDays`. Gives when it ends then. */
  readonly renew?: (externalId: string) => Promise<Date>;
  /** Looks after an attempt whose answer was lost. */
  settle(attempt: CreateAttempt): Promise<Settlement>;
  /**
   * Makes a draft that is named after the form and carries our reference. Repeating it with the same attempt makes no second one where the shop
   * allows. Not for channels with batches.
   */
  create(attempt: CreateAttempt, form: ListingForm): Promise<RemoteRef>;
  /** Uploads one picture, gives the shop's id for it. */
  uploadPicture(picture: PictureUpload): Promise<string>;
  /** Brings everything of the listing to the form. Repeating it is harmless. Not for channels with batches. */
  update(externalId: string, form: ListingForm, pictureIds: PictureIds): Promise<void>;
  /** Shows it to buyers, or takes it off sale. Repeating it is harmless. Not for channels with batches. */
  show(externalId: string, visibility: 'draft' | 'live'): Promise<void>;
  /** Deletes it. Repeating it is harmless. Not for channels with batches. */
  remove(externalId: string): Promise<void>;
  /** The seller's listings there, page by page; since a mark that an earlier page gave, or all. */
  list(since: string | null, cursor: string | null): Promise<ListingPage>;
  /** Discount codes that hold there; none where it takes no codes. */
  codes(): Promise<readonly ShopCode[]>;
  /** Lets a code hold from now on; one of the same name is replaced. Only where `about.takesCodes`. */
  putCode(code: ShopCode): Promise<void>;
  /** Ends a code. Repeating it is harmless. */
  dropCode(code: string): Promise<void>;
  /** The listing as it is there now; null when it is gone. */
  read(externalId: string, known: ListingForm, pictureIds: PictureIds): Promise<RemoteListing | null>;
}
