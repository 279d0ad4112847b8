'use client';

import { createContext, useContext } from 'react';
import type { StoreApi } from 'zustand/vanilla';
import { useStore } from 'zustand/react';
import { useShallow } from 'zustand/react/shallow';
import type { LivePlacement } from '@/bench/live';
import type { BenchSession } from '@/bench/session';
import type { SessionState } from '@/bench/session-types';
import type { ArtworkSize } from '@/core/findings/finding';
import type { ProductDocument } from '@/core/document/document';
import type { SetText } from '@/core/lettering/layout';
import type { ForeseenFinding } from './Findings/findings.worker';
import type { BenchData, BenchShot, BenchStore } from './load';
import type { ProofAsking, ProofView } from './Proof/proof-view';
import type { Part } from './parts';

export type BenchArtwork = BenchData['artworks'][number];
export type BenchListing = BenchData['listings'][number];

/** What the bench shows and what it is about: set by its actions, by the session and by what comes from the server. */
export interface DeskFacts {
  readonly data: BenchData;
  readonly state: SessionState;
  readonly artworks: readonly BenchArtwork[];
  /** Texts as they are set, by layer. */
  readonly letterings: { readonly [layerId: string]: SetText };
  readonly findings: readonly ForeseenFinding[];
  readonly part: Part;
  readonly areaKey: string;
  /** The selected layers; numbers speak of the last. */
  readonly selection: readonly string[];
  /** Whether the Price part sets prices for all stores or for the store in view; kept while one goes from part to part. */
  readonly priceScope: 'base' | 'store';
  readonly country: string;
  /** What was asked for in view; what is in view where it is not there any more is derived. */
  readonly wish: {
    readonly geometryId: string | null;
    readonly color: string | null;
    readonly variant: string | null;
    readonly storeId: string | null;
    readonly shot: { readonly id: string; readonly areaKey: string } | null;
  };
  readonly proofOpen: ProofView['open'];
}

/** What follows from the facts; the same object as long as what it follows from is the same. */
export interface DeskDerived {
  readonly doc: ProductDocument;
  /** The document as it was when its areas or variants last changed: for what words and prices are no matter to. */
  readonly designed: ProductDocument;
  /** The document as it was when its prices, areas or variants last changed. */
  readonly priceable: ProductDocument;
  /** Sizes of the artworks that are ready, by id. */
  readonly artworkSizes: ReadonlyMap<string, { readonly widthPx: number; readonly heightPx: number }>;
  /** What the checks know of the artworks, by id. */
  readonly checkedSizes: { readonly [id: string]: ArtworkSize | undefined };
  /** The revision that this tab's edits are made on, and whether all of them are saved. */
  readonly revision: SessionState['revision'];
  readonly save: SessionState['save'];
  readonly selected: string | null;
  /** Color in view on surface and rail; null for a blank without colors. */
  readonly color: string | null;
  /** Variant that the ledger speaks of; null when none is chosen. */
  readonly variant: string | null;
  readonly geometryId: string;
  /** Store in view, or null for none. */
  readonly store: BenchStore | null;
  readonly asking: ProofAsking;
  /** The proof: which shot is in view, and who draws it. */
  readonly proof: ProofView;
}

export interface DeskActions {
  readonly session: BenchSession;
  readonly live: LivePlacement;
  edit(label: string, change: (doc: ProductDocument) => ProductDocument, key?: string): void;
  goTo(part: Part): void;
  /** An artwork that is ready, new or known under its id. */
  addArtwork(artwork: BenchArtwork): void;
  setArea(areaKey: string, geometryId?: string): void;
  /** Selects one layer alone, or with `add` adds it or takes it out; null selects none. */
  select(layerId: string | null, add?: boolean): void;
  setColor(color: string): void;
  setVariant(key: string): void;
  setStore(id: string | null): void;
  setCountry(country: string): void;
  setPriceScope(scope: 'base' | 'store'): void;
  /** Puts in what was found or read outside of it. */
  tell(facts: Partial<Pick<DeskFacts, 'state' | 'letterings' | 'findings' | 'part' | 'artworks'>>): void;
  setShots(shots: readonly BenchShot[]): void;
}

/** What is in view on the bench, and how it is changed. */
export type Desk = DeskFacts & DeskDerived & DeskActions;

export const DeskContext = createContext<StoreApi<Desk> | null>(null);

function useDeskStore(): StoreApi<Desk> {
  const store = useContext(DeskContext);
  if (!store) throw new Error('there is no bench around this');
  return store;
}

/** Parts of the bench by name: what shows them is drawn anew when one of these changes, and not when others do. */
export function useDesk<K extends keyof Desk>(...keys: readonly K[]): Pick<Desk, K> {
  return useStore(
    useDeskStore(),
    useShallow((desk) => Object.fromEntries(keys.map((key) => [key, desk[key]])) as unknown as Pick<Desk, K>),
  );
}

/** Something that is read off the bench: drawn anew when it differs. */
export function useDeskOf<T>(read: (desk: Desk) => T): T {
  return useStore(useDeskStore(), read);
}

/** The bench as it is when something is pressed: for what is done, not for what is shown. */
export function useDeskNow(): () => Desk {
  return useDeskStore().getState;
}
