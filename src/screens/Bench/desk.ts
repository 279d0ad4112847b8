'use client';

import { createContext, useContext } from 'react';
import type { LivePlacement } from '@/bench/live';
import type { BenchSession } from '@/bench/session';
import type { SessionState } from '@/bench/session-types';
import type { ProductDocument } from '@/core/document/document';
import type { PricedVariant } from '@/core/pricing/plan';
import type { SetText } from '@/core/lettering/layout';
import type { RateTable } from '@/core/pricing/rates';
import type { ForeseenFinding } from './Findings/findings.worker';
import type { Acceptances } from './Findings/use-findings';
import type { BenchData, BenchStore } from './load';
import type { ProofView } from './Proof/proof-view';
import type { PricesAt } from './Price/prices';
import type { Part } from './view';

export type BenchArtwork = BenchData['artworks'][number];
export type BenchListing = BenchData['listings'][number];

/** What is in view on the bench, and how it is changed. */
export interface Desk {
  readonly data: BenchData;
  readonly session: BenchSession;
  readonly state: SessionState;
  readonly live: LivePlacement;
  readonly doc: ProductDocument;
  readonly rates: RateTable;
  readonly findings: readonly ForeseenFinding[];
  readonly acceptances: Acceptances;
  edit(label: string, change: (doc: ProductDocument) => ProductDocument, key?: string): void;

  /** The proof: which shot is in view, and who draws it. */
  readonly proof: ProofView;
  /** Reads the blank's shots anew: one of the seller's own was made or deleted. */
  reloadShots(): Promise<void>;

  readonly part: Part;
  goTo(part: Part): void;
  readonly artworks: readonly BenchArtwork[];
  /** Sizes of the artworks that are ready, by id. */
  readonly artworkSizes: ReadonlyMap<string, { readonly widthPx: number; readonly heightPx: number }>;
  /** Texts as they are set, by layer. */
  readonly letterings: { readonly [layerId: string]: SetText };
  addArtwork(artwork: BenchArtwork): void;
  readonly listings: readonly BenchListing[];
  reloadListings(): void;

  readonly areaKey: string;
  readonly geometryId: string;
  setArea(areaKey: string, geometryId?: string): void;
  /** The selected layer that numbers speak of, and all that are selected with it. */
  readonly selected: string | null;
  readonly selection: readonly string[];
  /** Selects one layer alone, or with `add` adds it or takes it out; null selects none. */
  select(layerId: string | null, add?: boolean): void;

  /** Color in view on surface and rail; null for a blank without colors. */
  readonly color: string | null;
  setColor(color: string): void;
  /** Variant that the ledger speaks of; null when none is chosen. */
  readonly variant: string | null;
  setVariant(key: string): void;
  /** Store in view, or null for none. */
  readonly store: BenchStore | null;
  setStore(id: string | null): void;
  readonly country: string;
  setCountry(country: string): void;
  /** Whether the Price part sets prices for all stores or for the store in view; kept while one goes from part to part. */
  readonly priceScope: 'base' | 'store';
  setPriceScope(scope: 'base' | 'store'): void;
  readonly priced: readonly PricedVariant[];
  /** All chosen variants priced for a store, or for all stores (null); worked out once for each state of the product. */
  pricesAt(store: BenchStore | null): PricesAt;
  readonly priceProblem: string | null;
}

export const DeskContext = createContext<Desk | null>(null);

/** The desk that the component lies on. */
export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error('there is no bench around this');
  return desk;
}
