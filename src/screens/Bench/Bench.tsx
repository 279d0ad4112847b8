'use client';

import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import dynamic from 'next/dynamic';
import { useSearchParams } from 'next/navigation';
import { toast } from '@/ui/toast';
import { LivePlacement } from '@/bench/live';
import { geometryIdFor, parseVariantKey } from '@/core/catalog/blank';
import { chosenColors, chosenGeometryIds } from '@/core/listing/form';
import { RateTable } from '@/core/pricing/rates';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
import { DeskContext, type BenchArtwork, type BenchListing, type Desk } from './desk';
import { Docket } from './Docket';
import { useLetterings } from './Artwork/letters';
import { useAcceptances, useFindings } from './Findings/use-findings';
import { useBenchKeys } from './keys';
import { Ledger } from './Ledger';
import { PriceMoved } from './PriceMoved';
import type { BenchData, BenchShot } from './load';
import { useProofView } from './Proof/use-proof-view';
import { ProofRail } from './ProofRail';
import { useBenchSession } from './use-session';
import { priceBook } from './Price/prices';
import { partOf, partTitle, type Part } from './view';

// Each part comes with the first visit to it; the one that the address names is there from the start.
const PARTS: Record<Part, React.ComponentType> = {
  blank: dynamic(() => import('./Blank/BlankPart').then((m) => m.BlankPart)),
  artwork: dynamic(() => import('./Artwork/ArtworkPart').then((m) => m.ArtworkPart)),
  variants: dynamic(() => import('./Variants/VariantsPart').then((m) => m.VariantsPart)),
  pictures: dynamic(() => import('./Pictures/PicturesPart').then((m) => m.PicturesPart)),
  price: dynamic(() => import('./Price/PricePart').then((m) => m.PricePart)),
  words: dynamic(() => import('./Words/WordsPart').then((m) => m.WordsPart)),
  stores: dynamic(() => import('./Send/SendPart').then((m) => m.SendPart)),
};
const CollisionSheet = dynamic(() => import('./CollisionSheet').then((m) => m.CollisionSheet));
const TurnSheet = dynamic(() => import('./TurnSheet').then((m) => m.TurnSheet));
const KeysSheet = dynamic(() => import('./KeysSheet').then((m) => m.KeysSheet));

/** The part that the address names; going to another one is a step that the browser can take back. */
function useWantedPart(): { part: Part; goTo(part: Part): void } {
  const part = partOf(useSearchParams().get('part'));
  const goTo = useCallback((to: Part) => {
    const url = new URL(window.location.href);
    if (partOf(url.searchParams.get('part')) === to) return;
    url.searchParams.set('part', to);
    window.history.pushState(null, '', url);
  }, []);
  return { part, goTo };
}

/** The page on which one product is made: docket, working surface, proof rail, ledger. */
export function Bench({ data: loaded }: { data: BenchData }) {
  const [shots, setShots] = useState(loaded.shots);
  const data = useMemo(() => ({ ...loaded, shots }), [loaded, shots]);
  const { blank, list, product, stores, home } = data;
  const session = useBenchSession({ personId: data.personId, productId: product.id }, product);
  const [live] = useState(() => new LivePlacement());
  const state = useSyncExternalStore(session.subscribe, session.getState, session.getState);
  const doc = state.document;
  const { part, goTo } = useWantedPart();
  const [artworks, setArtworks] = useState<readonly BenchArtwork[]>(data.artworks);
  const [listings, setListings] = useState<readonly BenchListing[]>(data.listings);
  const [area, setAreaState] = useState<{ key: string; geometryId: string | null }>(() => ({
    key: blank.areas[0]!.key,
    geometryId: null,
  }));
  const [selection, setSelection] = useState<readonly string[]>([]);
  const select = (layerId: string | null, add = false) =>
    setSelection((before) =>
      layerId === null
        ? []
        : !add
          ? [layerId]
          : before.includes(layerId)
            ? before.filter((id) => id !== layerId)
            : [...before, layerId],
    );
  const [colorWish, setColor] = useState<string | null>(null);
  // Until one is asked for, the first that is chosen: also when a product began without any.
  const color = colorWish ?? chosenColors(doc, blank)[0] ?? null;
  const [variantWish, setVariant] = useState<string | null>(null);
  const [storeId, setStore] = useState<string | null>(stores[0]?.id ?? null);
  const store = stores.find((s) => s.id === storeId) ?? null;
  const [country, setCountry] = useState(store?.sellsTo[0] ?? home.country);
  const [priceScope, setPriceScope] = useState<'base' | 'store'>(() => (stores.length > 0 ? 'store' : 'base'));
  const [keysOpen, setKeysOpen] = useState(false);
  const [proofOpen, setProofOpen] = useState(false);

  const rates = useMemo(
    () => new RateTable(data.exchangeRates, data.settings.rateMarginPpm),
    [data.exchangeRates, data.settings],
  );
  const sizes = useMemo(
    () =>
      Object.fromEntries(
        artworks.map((artwork) => [
          artwork.id,
          artwork.facts
            ? { ...artwork.facts, name: artwork.name, replaced: artwork.replaced, twins: artwork.twins }
            : undefined,
        ]),
      ),
    [artworks],
  );
  const artworkSizes = useMemo(
    () => new Map(artworks.flatMap(({ id, facts }) => (facts ? [[id, facts] as const] : []))),
    [artworks],
  );
  const { letterings, problem: letterProblem } = useLetterings(doc.areas);
  const findings = useFindings(doc, blank, sizes, letterings);
  const acceptances = useAcceptances(product.id);
  useEffect(() => {
    if (letterProblem) toast(letterProblem);
  }, [letterProblem]);
  const pricesAt = useMemo(
    () => priceBook(doc, { blank, list, rates, settings: data.settings, home }),
    [doc, blank, list, rates, data.settings, home],
  );
  const { priced, problem } = pricesAt(store);

  // The first chosen variant in the color in view, unless one was picked that is still chosen.
  const variant = useMemo(() => {
    const keys = blank.variants.filter((v) => Object.hasOwn(doc.variants, v.key)).map((v) => v.key);
    if (variantWish && keys.includes(variantWish)) return variantWish;
    const inColor = keys.filter((key) => color === null || Object.values(parseVariantKey(key)).includes(color));
    // Of a long run of sizes the second: M says more than S.
    return inColor[inColor.length > 3 ? 1 : 0] ?? keys[0] ?? null;
  }, [blank, doc.variants, variantWish, color]);

  const geometryId = useMemo(() => {
    const def = blank.areas.find((a) => a.key === area.key)!;
    const ids = chosenGeometryIds(doc, blank, area.key);
    const own = variant ? geometryIdFor(def, parseVariantKey(variant)) : null;
    return area.geometryId ?? own ?? ids[0] ?? def.geometries[0]!.geometryId;
  }, [area, blank, doc, variant]);

  const proof = useProofView({ data, artworks, letterings, variant, areaKey: area.key, geometryId });

  const reloadListings = useCallback(
    () =>
      void call<{ listings: BenchListing[] }>('GET', `/products/${product.id}/listings`).then(
        (answer) => setListings(answer.listings),
        (error: Error) => toast.error(`The stores could not be read: ${error.message}`),
      ),
    [product.id],
  );

  // Rules and sync states follow what is saved.
  const savedRevision = state.revision;
  const lastListed = useRef(savedRevision);
  useEffect(() => {
    if (lastListed.current === savedRevision) return;
    lastListed.current = savedRevision;
    const timer = setTimeout(reloadListings, 300);
    return () => clearTimeout(timer);
  }, [savedRevision, reloadListings]);
  useEffect(() => {
    if (state.message) toast(state.message);
  }, [state.message]);

  /** Puts artworks that are ready in place of what was known of them, new ones first. */
  const takeArtworks = (told: readonly BenchArtwork[]) =>
    setArtworks((all) => {
      const ready = told.filter((one) => one.state === 'ready');
      const renewed = all.map((one) => ready.find(({ id }) => id === one.id) ?? one);
      return [...ready.filter(({ id }) => all.every((one) => one.id !== id)), ...renewed];
    });
  useEvents((topic, payload) => {
    if (topic === 'product' && payload.productId === product.id) void session.noticeRevision(Number(payload.revision));
    if (topic === 'reset') void session.lookAgain();
    if ((topic === 'listing' && payload.productId === product.id) || topic === 'store' || topic === 'reset')
      reloadListings();
    if (topic === 'artwork')
      void call<BenchArtwork>('GET', `/artwork/${String(payload.artworkId)}`).then(
        (artwork) => takeArtworks([artwork]),
        // Deleted meanwhile, or the server is away: what is known of it stays until it is read anew.
        () => undefined,
      );
    if (topic === 'reset')
      void call<{ artwork: BenchArtwork[] }>('GET', '/artwork').then((all) => takeArtworks(all.artwork));
  });

  const desk: Desk = {
    data,
    session,
    state,
    live,
    doc,
    rates,
    findings,
    acceptances,
    proof,
    reloadShots: async () => {
      const answer = await call<{ shots: BenchShot[] }>('GET', `/blanks/${blank.id}/shots`);
      setShots(answer.shots);
    },
    part,
    artworks,
    listings,
    reloadListings,
    artworkSizes,
    letterings,
    selected: selection.at(-1) ?? null,
    selection,
    select,
    color,
    variant,
    setVariant,
    store,
    country,
    setCountry,
    geometryId,
    priced,
    areaKey: area.key,
    priceScope,
    setPriceScope,
    pricesAt,
    priceProblem: problem,
    edit: (label, change, key) => session.edit(label, change, key ?? null),
    goTo,
    addArtwork: (artwork) => setArtworks((all) => [artwork, ...all.filter((a) => a.id !== artwork.id)]),
    setArea: (key, id) => {
      setAreaState({ key, geometryId: id ?? null });
      select(null);
    },
    setColor: (code) => {
      setColor(code);
      setVariant(null);
    },
    setStore: (id) => {
      setStore(id);
      setCountry(stores.find((s) => s.id === id)?.sellsTo[0] ?? home.country);
    },
  };
  useBenchKeys(desk, () => setKeysOpen(true));
  const title = `${doc.words.base.title.trim() || 'Untitled'}, ${partTitle(part, blank)} · Typica`;
  useEffect(() => {
    document.title = title;
  }, [title]);
  const Surface = PARTS[part];
  return (
    <DeskContext value={desk}>
      <div className="h-full grid grid-cols-[216px_minmax(0,1fr)_296px] grid-rows-[minmax(0,1fr)] auto-rows-auto min-[1600px]:grid-cols-[232px_minmax(0,1fr)_400px] max-[1100px]:grid-cols-[190px_minmax(0,1fr)_240px] max-[900px]:h-auto max-[900px]:min-h-full max-[900px]:grid-cols-[minmax(0,1fr)] max-[900px]:grid-rows-[auto_minmax(0,1fr)]">
        <Docket onKeys={() => setKeysOpen(true)} proofOpen={proofOpen} onProof={() => setProofOpen(!proofOpen)} />
        <section
          aria-label={part}
          className={`min-w-0 min-h-0 overflow-auto border-x border-hairline max-[900px]:border-0 ${part === 'artwork' ? 'max-[900px]:h-[max(340px,calc(100dvh-190px))]' : ''}`}
        >
          <Surface />
        </section>
        <ProofRail open={proofOpen} onClose={() => setProofOpen(false)} />
        <PriceMoved />
        <Ledger />
      </div>
      {state.save === 'conflict' && <CollisionSheet />}
      {state.question !== null && <TurnSheet />}
      {keysOpen && <KeysSheet open onClose={() => setKeysOpen(false)} />}
    </DeskContext>
  );
}
