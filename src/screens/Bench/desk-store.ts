import { createStore, type StoreApi } from 'zustand/vanilla';
import { LivePlacement } from '@/bench/live';
import type { BenchSession } from '@/bench/session';
import type { BenchArtwork, Desk, DeskFacts } from './desk';
import { deskDerivation } from './desk-derived';
import type { BenchData } from './load';
import { proofAsking } from './Proof/asking';
import type { Part } from './parts';

/** Layers selected after one is pressed: alone, or added to and taken out of those that are. */
export function nextSelection(before: readonly string[], layerId: string | null, add: boolean): readonly string[] {
  if (layerId === null) return before.length === 0 ? before : [];
  if (!add) return [layerId];
  return before.includes(layerId) ? before.filter((id) => id !== layerId) : [...before, layerId];
}

/** Artworks with one in place of what was known of it; a new one comes first. */
export const withArtwork = (all: readonly BenchArtwork[], artwork: BenchArtwork): readonly BenchArtwork[] =>
  all.some(({ id }) => id === artwork.id)
    ? all.map((one) => (one.id === artwork.id ? artwork : one))
    : [artwork, ...all];

/** The bench's one store. `go` takes the address along when another part is gone to. */
export function makeDesk(data: BenchData, session: BenchSession, part: Part, go: (part: Part) => void): StoreApi<Desk> {
  const home = (storeId: string | null) =>
    data.stores.find(({ id }) => id === storeId)?.sellsTo[0] ?? data.home.country;
  const first = data.stores[0]?.id ?? null;
  const facts: DeskFacts = {
    data,
    state: session.getState(),
    artworks: data.artworks,
    letterings: {},
    findings: [],
    part,
    areaKey: data.blank.areas[0]!.key,
    selection: [],
    priceScope: first === null ? 'base' : 'store',
    country: home(first),
    wish: { geometryId: null, color: null, variant: null, storeId: first, shot: null },
    proofOpen: null,
  };
  return createStore<Desk>()((set, get) => {
    const change = (part: Partial<DeskFacts>) => set((now) => ({ ...part, ...derive({ ...now, ...part }) }));
    const wish = (part: Partial<DeskFacts['wish']>): DeskFacts['wish'] => ({ ...get().wish, ...part });
    const derive = deskDerivation(
      proofAsking,
      (id) => change({ wish: wish({ shot: { id, areaKey: get().areaKey } }) }),
      (proofOpen) => change({ proofOpen }),
    );
    return {
      ...facts,
      ...derive(facts),
      session,
      live: new LivePlacement(),
      edit: (label, make, key) => session.edit(label, make, key ?? null),
      goTo(to) {
        if (get().part === to) return;
        change({ part: to });
        go(to);
      },
      addArtwork: (artwork) => change({ artworks: withArtwork(get().artworks, artwork) }),
      setArea: (areaKey, geometryId) =>
        change({ areaKey, wish: wish({ geometryId: geometryId ?? null }), selection: nextSelection([], null, false) }),
      select: (layerId, add = false) => change({ selection: nextSelection(get().selection, layerId, add) }),
      setColor: (color) => change({ wish: wish({ color, variant: null }) }),
      setVariant: (variant) => change({ wish: wish({ variant }) }),
      setStore: (storeId) => change({ wish: wish({ storeId }), country: home(storeId) }),
      setCountry: (country) => change({ country }),
      setPriceScope: (priceScope) => change({ priceScope }),
      tell: change,
      setShots: (shots) => change({ data: { ...get().data, shots } }),
    };
  });
}
