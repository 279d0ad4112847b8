import type { ProductDocument } from '@/core/document/document';
import type { Operation, PatchConflict } from '@/core/document/patch';
import type { Collision, Entry, Step } from './steps';

/** How patches reach the server. */
export interface Transport {
  /** `key` is the same for every try of one patch: one that arrived is not applied again. */
  send(patch: {
    readonly revision: number;
    readonly operations: readonly Operation[];
    readonly label: string;
    readonly key: string;
  }): Promise<SendResult>;
  load(): Promise<LoadResult>;
}

export interface Newest {
  readonly revision: number;
  readonly document: ProductDocument;
}

/** Why nothing can be sent just now. */
export type Hindrance =
  /** No answer, or one that asks to wait. */
  | { readonly kind: 'offline'; readonly retryAfterMs?: number }
  | { readonly kind: 'signed-out' }
  /** The product was put away. */
  | { readonly kind: 'gone' };

export type SendResult =
  | ({ readonly kind: 'saved' } & Newest)
  /** It cannot be laid over what others have done, or it is not known on what it was made: the newest must be looked at. `by`: who was there last. */
  | { readonly kind: 'stale'; readonly by: string | null }
  /** The server cannot take it, whenever it comes. */
  | { readonly kind: 'refused'; readonly message: string }
  | Hindrance;

export type LoadResult = ({ readonly kind: 'loaded' } & Newest) | Hindrance;

/** What of a session is kept in the browser, so that nothing is lost with the page. */
export interface KeptSession {
  readonly format: 1;
  readonly title: string;
  readonly base: ProductDocument;
  /** Null when `base` is a document that the server never had. */
  readonly revision: number | null;
  readonly batch: Batch | null;
  readonly pending: readonly Step[];
  readonly undo: readonly Entry[];
  readonly redo: readonly Entry[];
}

/** What is on its way: not changed until it is answered, since it may have arrived. */
export interface Batch {
  readonly key: string;
  readonly revision: number;
  readonly steps: readonly Step[];
}

export interface SessionMeans {
  now(): number;
  /** Calls back after a time; gives what calls it off. */
  later(ms: number, act: () => void): () => void;
  newId(): string;
  /** From 0 to below 1: many tabs must not come back in the same moment. */
  chance(): number;
  /** Called whenever something changed that must outlive the page. */
  keep(session: KeptSession): void;
}

export type SaveState = 'saved' | 'saving' | 'offline' | 'conflict' | 'signed-out' | 'gone';

/** An edit that could not be kept, and why. */
export interface NotKept {
  readonly label: string;
  readonly why: string;
}

/** Undoing or redoing would write over what somebody else set since. */
export interface TurnQuestion {
  readonly way: 'undo' | 'redo';
  readonly label: string;
  readonly others: readonly PatchConflict[];
}

export interface SessionState {
  readonly document: ProductDocument;
  readonly save: SaveState;
  readonly savedAt: number | null;
  readonly collisions: readonly Collision[];
  readonly collisionBy: string | null;
  readonly notKept: readonly NotKept[];
  readonly question: TurnQuestion | null;
  readonly message: string | null;
  readonly canUndo: string | null;
  readonly canRedo: string | null;
  readonly revision: number;
}
