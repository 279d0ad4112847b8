'use client';

import { useEffect } from 'react';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
import { toast } from '@/ui/toast';
import { useLetterings } from './Artwork/letters';
import { useDesk, useDeskNow, useDeskOf, type BenchArtwork } from './desk';
import { useFindings } from './Findings/use-findings';
import { useBenchKeys } from './keys';
import { closeProofs } from './Proof/asking';
import { partTitle } from './parts';

/** Keeps the bench's store true: what the session holds, what workers find, what others do. It shows nothing. */
export function Keeping({ onKeys }: { onKeys: () => void }) {
  useSessionState();
  useTexts();
  useFindings();
  useNews();
  useBenchKeys(onKeys);
  useTitle();
  useEffect(() => closeProofs, []);
  return null;
}

function useSessionState(): void {
  const { session, tell } = useDesk('session', 'tell');
  const message = useDeskOf(({ state }) => state.message);
  useEffect(() => {
    const take = () => tell({ state: session.getState() });
    take();
    return session.subscribe(take);
  }, [session, tell]);
  useEffect(() => {
    if (message) toast(message);
  }, [message]);
}

function useTexts(): void {
  const { tell } = useDesk('tell');
  const areas = useDeskOf(({ doc }) => doc.areas);
  const { letterings, problem } = useLetterings(areas);
  useEffect(() => tell({ letterings }), [tell, letterings]);
  useEffect(() => {
    if (problem) toast(problem);
  }, [problem]);
}

/** What others do to the product and to artwork; after a gap in what was heard, everything that is kept here is read anew. */
function useNews(): void {
  const now = useDeskNow();
  const take = (artwork: BenchArtwork) => artwork.state === 'ready' && now().addArtwork(artwork);
  useEvents((topic, payload) => {
    const { session, data } = now();
    // Archiving and the like tell of the product too, but make no revision of it.
    if (topic === 'product' && payload.productId === data.product.id && typeof payload.revision === 'number')
      void session.noticeRevision(payload.revision);
    if (topic === 'reset') void session.lookAgain();
    if (topic === 'artwork')
      void call<BenchArtwork>('GET', `/artwork/${String(payload.artworkId)}`).then(
        take,
        // Deleted meanwhile, or the server is away: what is known of it stays until it is read anew.
        () => undefined,
      );
    if (topic === 'reset')
      void call<{ artwork: BenchArtwork[] }>('GET', '/artwork').then(
        (all) => [...all.artwork].reverse().forEach(take),
        () => undefined,
      );
  });
}

/** The tab's name: the product and the part in view. */
function useTitle(): void {
  const { data } = useDesk('data');
  const title = useDeskOf(
    ({ doc, part }) => `${doc.words.base.title.trim() || 'Untitled'}, ${partTitle(part, data.blank)} · Typica`,
  );
  useEffect(() => {
    document.title = title;
  }, [title]);
}
