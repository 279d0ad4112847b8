'use client';

import { useEffect, useState } from 'react';
import { later } from '@/ui/later';
import { useSearchParams } from 'next/navigation';
import { DeskContext, useDesk, useDeskOf } from './desk';
import { makeDesk } from './desk-store';
import { Docket } from './Docket';
import type { BenchData } from './load';
import { ProofRail } from './ProofRail';
import { useBenchSession } from './use-session';
import { partOf, type Part } from './parts';

const LOADS: { readonly [part in Part]: () => Promise<React.ComponentType> } = {
  blank: () => import('./Blank/BlankPart').then((m) => m.BlankPart),
  artwork: () => import('./Artwork/ArtworkPart').then((m) => m.ArtworkPart),
  variants: () => import('./Variants/VariantsPart').then((m) => m.VariantsPart),
  pictures: () => import('./Pictures/PicturesPart').then((m) => m.PicturesPart),
  price: () => import('./Price/PricePart').then((m) => m.PricePart),
  words: () => import('./Words/WordsPart').then((m) => m.WordsPart),
  stores: () => import('./Send/SendPart').then((m) => m.SendPart),
};
/** Each part comes with the first visit to it. */
const PARTS = Object.fromEntries(
  Object.entries(LOADS).map(([part, load]) => [
    part,
    later(load, <p className="px-[18px] py-4 text-muted">Loading …</p>),
  ]),
) as {
  readonly [part in Part]: React.ComponentType;
};
// The one that the address names is asked for at once, not when its turn to be drawn comes.
if (typeof window !== 'undefined') void LOADS[partOf(new URLSearchParams(window.location.search).get('part'))]();

// These are drawn by the server and stay as they are until what moves them is loaded, beside the page.
const Ledger = later(
  () => import('./Ledger').then((m) => m.Ledger),
  <div className="col-span-full min-h-14 border-t-2 border-ink bg-sheet" />,
);
const PriceMoved = later(() => import('./PriceMoved').then((m) => m.PriceMoved));
const Keeping = later(() => import('./Keeping').then((m) => m.Keeping));
const CollisionSheet = later(() => import('./CollisionSheet').then((m) => m.CollisionSheet));
const TurnSheet = later(() => import('./TurnSheet').then((m) => m.TurnSheet));
const KeysSheet = later(() => import('./KeysSheet').then((m) => m.KeysSheet));

/** Names the part in the address: going to another one is a step that the browser can take back. */
function nameInAddress(to: Part): void {
  const url = new URL(window.location.href);
  if (partOf(url.searchParams.get('part')) === to) return;
  url.searchParams.set('part', to);
  window.history.pushState(null, '', url);
}

/** The page on which one product is made: docket, working surface, proof rail, ledger. */
export function Bench({ data }: { data: BenchData }) {
  const session = useBenchSession({ personId: data.personId, productId: data.product.id }, data.product);
  const inAddress = partOf(useSearchParams().get('part'));
  const [desk] = useState(() => makeDesk(data, session, inAddress, nameInAddress));
  // The browser's back and forward change the address; the part follows.
  useEffect(() => desk.getState().tell({ part: inAddress }), [desk, inAddress]);
  const [keysOpen, setKeysOpen] = useState(false);
  const [proofOpen, setProofOpen] = useState(false);
  return (
    <DeskContext value={desk}>
      <Keeping onKeys={() => setKeysOpen(true)} />
      <div className="h-full grid grid-cols-[216px_minmax(0,1fr)_296px] grid-rows-[minmax(0,1fr)] auto-rows-auto min-[1600px]:grid-cols-[232px_minmax(0,1fr)_400px] max-[1100px]:grid-cols-[190px_minmax(0,1fr)_240px] max-[900px]:h-auto max-[900px]:min-h-full max-[900px]:grid-cols-[minmax(0,1fr)] max-[900px]:grid-rows-[auto_minmax(0,1fr)]">
        <Docket onKeys={() => setKeysOpen(true)} proofOpen={proofOpen} onProof={() => setProofOpen(!proofOpen)} />
        <PartInView />
        <ProofRail open={proofOpen} onClose={() => setProofOpen(false)} />
        <PriceMoved />
        <Ledger />
      </div>
      <Questions />
      {keysOpen && <KeysSheet open onClose={() => setKeysOpen(false)} />}
    </DeskContext>
  );
}

function PartInView() {
  const { part } = useDesk('part');
  const Surface = PARTS[part];
  return (
    <section
      aria-label={part}
      className={`min-w-0 min-h-0 overflow-auto border-x border-hairline max-[900px]:border-0 ${part === 'artwork' ? 'max-[900px]:h-[max(340px,calc(100dvh-190px))]' : ''}`}
    >
      <Surface />
    </section>
  );
}

/** What is asked before anything goes on. */
function Questions() {
  const collides = useDeskOf(({ state }) => state.save === 'conflict');
  const asks = useDeskOf(({ state }) => state.question !== null);
  return (
    <>
      {collides && <CollisionSheet />}
      {asks && <TurnSheet />}
    </>
  );
}
