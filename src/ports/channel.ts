import type { ListingForm } from '@/core/listing/form';
import type { Fee } from '@/core/pricing/fees';
import type { ChannelDemands } from '@/core/rules/demands';

/**
 * A kind of shop. What differs between shops is data (`about`) or lies behind these calls; nothing outside an adapter knows a shop's
 * wire format. Errors are TypicaErrors: `shop-refused` (the shop said no, with its words in `fields.words`), `shop-busy` (try again,
 * `fields.retryAfterMs`; with `fields.costsNoTry` nothing is wrong with the shop), `shop-unreachable` (no answer: it may have been done),
 * `shop-token` (consent has lapsed).
 */
export interface Channel {
  readonly about: ChannelAbout;
  /** Address of the shop's own consent page. */
  authorizeUrl(ask: { state: string; challenge: string; redirectUri: string }): string;
  /** Trades the code of a consent for tokens, and says for which shop they are. */
  exchange(answer: { code: string; verifier: string; redirectUri: string }): Promise<Connection>;
  /** Gives keys back: they are worth nothing afterwards. Repeating it is harmless. Throws `shop-unreachable`. */
  revoke(secrets: ChannelSecrets): Promise<void>;
  /** A client for one shop. */
  open(secrets: ChannelSecrets, hooks: ChannelHooks): ChannelClient;
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
  /** The request is answered, or failed. `taken`: the shop took the key. */
  answered(taken: boolean): Promise<void>;
}

export interface ChannelAbout {
  readonly code: string;
  readonly name: string;
  readonly kind: string;
  readonly currency: string;
  readonly fees: readonly Fee[];
  readonly demands: ChannelDemands;
  /** Requests that the shop takes in any second. */
  readonly rate: { readonly perSecond: number };
  /** Countries to which its shoppers have goods sent, ISO 3166 alpha-2. */
  readonly sellsTo: readonly string[];
  /** Whether it shows a price to compare with beside the price. */
  readonly comparesAt: boolean;
  /** Whether it takes discount codes from a program. */
  readonly takesCodes: boolean;
  /** What keeps a thing from being made twice there. */
  readonly onceOnly: 'idempotency-key' | 'look-up' | 'delayed-look-up';
}

/** What is kept sealed for a store. Its shape is the adapter's. */
export type ChannelSecrets = { readonly [name: string]: string };

export interface Connection {
  readonly shopId: string;
  readonly shopName: string;
  readonly shopUrl: string;
  readonly currency: string;
  readonly secrets: ChannelSecrets;
}

/** An attempt to make a listing, written down before it is made. */
export interface CreateAttempt {
  /** The same for every try of the same creation. */
  readonly key: string;
  /** Our own mark on the listing, by which the shop can be asked for it. */
  readonly reference: string;
  readonly sentAt: Date;
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
}

export interface ChannelClient {
  /** Partners that the seller has declared there. */
  declaredPartners(): Promise<readonly string[]>;
  declarePartner(partner: { name: string; country: string }): Promise<void>;
  /** Looks after an attempt whose answer was lost. */
  settle(attempt: CreateAttempt): Promise<Settlement>;
  /** Makes a draft that is named after the form and carries our reference. Repeating it with the same attempt makes no second one where the shop allows. */
  create(attempt: CreateAttempt, form: ListingForm): Promise<RemoteRef>;
  /** Uploads one picture to a listing, gives the shop's id for it. */
  uploadPicture(externalId: string, picture: PictureUpload): Promise<string>;
  /** Brings everything of the listing to the form. `pictureIds`: the shop's ids by our picture keys. Repeating it is harmless. */
  update(externalId: string, form: ListingForm, pictureIds: { readonly [pictureKey: string]: string }): Promise<void>;
  /** Shows it to buyers, or hides it. Repeating it is harmless. */
  show(externalId: string, visibility: 'draft' | 'live'): Promise<void>;
  /** Discount codes that hold there; none where it takes no codes. */
  codes(): Promise<readonly ShopCode[]>;
  /** Lets a code hold from now on; one of the same name is replaced. Only where `about.takesCodes`. */
  putCode(code: ShopCode): Promise<void>;
  /** Ends a code. Repeating it is harmless. */
  dropCode(code: string): Promise<void>;
  /** The listing as it is there now; null when it is gone. */
  read(
    externalId: string,
    known: ListingForm,
    pictureIds: { readonly [pictureKey: string]: string },
  ): Promise<RemoteListing | null>;
}
