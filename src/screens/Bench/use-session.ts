'use client';

import { useEffect, useState } from 'react';
import type { Keeper } from '@/bench/kept';
import { BenchSession } from '@/bench/session';
import type { KeptSession, Newest } from '@/bench/session-types';
import { onSignedIn } from '@/ui/signed-out';
import { holdLock, whenFree } from '@/ui/tab-lock';
import { apiTransport } from './transport';
import { newId } from '@/ui/ids';

/** Where a session is kept: before the browser's storage is open, nowhere yet. */
class Place {
  private latest: KeptSession | null = null;
  private keeper: Keeper | null = null;
  /** False until it is known that edits outlive the page. */
  keeps = false;

  readonly keep = (session: KeptSession): void => {
    this.latest = session;
    this.keeper?.keep(session);
  };

  open(keeper: Keeper): void {
    this.keeper = keeper;
    this.keeps = true;
    if (this.latest) keeper.keep(this.latest);
  }

  settled = (): Promise<void> | undefined => this.keeper?.settled();
}

interface Whose {
  readonly personId: string;
  readonly productId: string;
}

/** This tab's own id for a product: after a reload the same, in a copy of the tab another. */
async function ownPlace(
  { personId, productId }: Whose,
  sessionLock: (id: string) => string,
): Promise<{ id: string; release: () => void }> {
  const name = `typica-session:${personId}:${productId}`;
  const before = sessionStorage.getItem(name);
  const held = before ? await holdLock(sessionLock(before)) : null;
  if (before && held) return { id: before, release: held };
  const id = newId();
  sessionStorage.setItem(name, id);
  return { id, release: (await holdLock(sessionLock(id))) ?? (() => {}) };
}

/** Goes on with what this tab kept, and takes in what closed tabs left unsent, also those that are closed later. Gives what ends it. */
async function goOn(session: BenchSession, place: Place, whose: Whose, signal: AbortSignal): Promise<() => void> {
  // The browser's storage comes after the page: nothing on it waits for that.
  const { isUnsent, Keeper, KeptSessions, sessionLock } = await import('@/bench/kept');
  const sessions = await KeptSessions.open();
  const { id, release } = await ownPlace(whose, sessionLock);
  if (signal.aborted) {
    release();
    return () => {};
  }
  const own = await sessions.get(id);
  if (own)
    try {
      session.restore(own.session);
    } catch (error) {
      // What an older build kept in another way: the page begins with what is saved.
      console.error('what was kept of this product cannot be read', error);
    }
  const failed = (error: unknown) => {
    place.keeps = false;
    console.error('edits cannot be kept in this browser', error);
  };
  place.open(new Keeper(sessions, { id, ...whose }, () => Date.now(), failed));
  const takeIn = async (left: string) => {
    const record = await sessions.get(left);
    if (!record || !isUnsent(record.session)) return;
    session.takeIn(record.session);
    await place.settled();
    await sessions.drop(left);
  };
  for (const record of await sessions.of(whose.personId))
    if (record.id !== id && record.productId === whose.productId)
      void whenFree(sessionLock(record.id), signal, () => takeIn(record.id));
  void sessions.forgetOld(Date.now());
  return release;
}

/** The session of a product in this tab. It outlives reloads, closed tabs and ends of sign-in. */
export function useBenchSession(whose: Whose, start: Newest): BenchSession {
  const { personId, productId } = whose;
  const [place] = useState(() => new Place());
  const [session] = useState(
    () =>
      new BenchSession(apiTransport(productId), start, {
        now: () => Date.now(),
        later: (ms, act) => {
          const timer = setTimeout(act, ms);
          return () => clearTimeout(timer);
        },
        newId: () => newId(),
        chance: () => Math.random(),
        keep: place.keep,
      }),
  );
  useEffect(() => {
    const end = new AbortController();
    const going = goOn(session, place, { personId, productId }, end.signal).catch((error: unknown) => {
      // A browser that keeps nothing (a private window): then one is asked before the page goes.
      console.error('edits cannot be kept in this browser', error);
      return () => {};
    });
    return () => {
      end.abort();
      void session
        .close()
        .then(place.settled)
        .then(async () => (await going)());
    };
  }, [session, place, personId, productId]);
  useEffect(() => {
    const again = () => session.again();
    const flush = () => void session.flush();
    const warn = (e: BeforeUnloadEvent) => {
      if (session.unsaved && !place.keeps) e.preventDefault();
    };
    const hidden = () => document.visibilityState === 'hidden' && session.unsaved && flush();
    window.addEventListener('online', again);
    window.addEventListener('pagehide', flush);
    document.addEventListener('visibilitychange', hidden);
    window.addEventListener('beforeunload', warn);
    const quiet = onSignedIn(again);
    return () => {
      window.removeEventListener('online', again);
      window.removeEventListener('pagehide', flush);
      document.removeEventListener('visibilitychange', hidden);
      window.removeEventListener('beforeunload', warn);
      quiet();
    };
  }, [session, place]);
  return session;
}
