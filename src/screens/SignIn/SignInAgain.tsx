'use client';

import { later } from '@/ui/later';
import { useEffect, useRef, useState } from 'react';
import { askBy, tellSignedIn } from '@/ui/signed-out';

const SignInSheet = later(() => import('./SignInSheet').then((part) => part.SignInSheet));

const CHANNEL = 'typica-signed-in';

/** Asks for the password over the page when the session has ended, so that what is on the page stays; in all tabs at once, answered in one. */
export function SignInAgain({ email, personId }: { email: string; personId: string }) {
  const [open, setOpen] = useState(false);
  const waiting = useRef<{ promise: Promise<void>; done: () => void } | null>(null);
  const tell = useRef<BroadcastChannel | null>(null);
  useEffect(() => {
    const goOn = (who: string) => {
      // Somebody else's pages are not gone on with: what is theirs is loaded anew.
      if (who !== personId) return window.location.reload();
      setOpen(false);
      waiting.current?.done();
      waiting.current = null;
      tellSignedIn();
    };
    const channel = new BroadcastChannel(CHANNEL);
    channel.onmessage = (e: MessageEvent<string>) => waiting.current && goOn(e.data);
    tell.current = channel;
    const quiet = askBy(() => {
      if (!waiting.current) {
        let done = () => {};
        const promise = new Promise<void>((resolve) => (done = resolve));
        waiting.current = { promise, done };
        setOpen(true);
      }
      return waiting.current.promise;
    });
    const own = (e: Event) => goOn((e as CustomEvent<string>).detail);
    window.addEventListener(CHANNEL, own);
    return () => {
      quiet();
      channel.close();
      window.removeEventListener(CHANNEL, own);
    };
  }, [personId]);
  const signedIn = () => {
    window.dispatchEvent(new CustomEvent(CHANNEL, { detail: personId }));
    tell.current?.postMessage(personId);
  };
  return open && <SignInSheet email={email} onSignedIn={signedIn} />;
}
