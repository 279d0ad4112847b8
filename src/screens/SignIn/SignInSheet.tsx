'use client';

import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';

/** The password once more, over the page. */
export function SignInSheet({ email, onSignedIn }: { email: string; onSignedIn: () => void }) {
  const [password, setPassword] = useState('');
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setError(null);
    try {
      await call('POST', '/sessions', { email, password });
      setPassword('');
      onSignedIn();
    } catch (problem) {
      setError((problem as Error).message);
    }
    setBusy(false);
  };
  return (
    <Sheet open title="Sign in again">
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
