'use client';

import { useEffect, useRef, useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { askBy, tellSignedIn } from '@/ui/signed-out';

const CHANNEL = 'typica-signed-in';

/** Asks for the password over the page when the session has ended, so that what is on the page stays; in all tabs at once, answered in one. */
export function SignInAgain({ email, personId }: { email: string; personId: string }) {
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState('');
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
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
        setPassword('');
        setError(null);
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
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setError(null);
    try {
      await call('POST', '/sessions', { email, password });
      setPassword('');
      window.dispatchEvent(new CustomEvent(CHANNEL, { detail: personId }));
      tell.current?.postMessage(personId);
    } catch (problem) {
      setError((problem as Error).message);
    }
    setBusy(false);
  };
  return (
    <Sheet open={open} title="Sign in again">
      <form onSubmit={submit} noValidate className="grid gap-3">
        <p>Your session has ended. What you changed is kept: sign in, and it goes on from here.</p>
        <TextField label="Email" type="email" value={email} onChange={() => {}} autoComplete="username" readOnly />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          autoFocus
          required
        />
        {error && <Alert>{error}</Alert>}
        <div className="flex items-center gap-5 pt-1">
          <Button kind="primary" type="submit" disabled={busy || password === ''}>
            Sign in
          </Button>
          <Button kind="quiet" onClick={() => window.location.replace('/sign-in')}>
            Somebody else signs in
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
