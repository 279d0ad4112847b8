'use client';

import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';

const CURRENCIES = ['GBP', 'USD', 'EUR', 'CAD', 'AUD', 'JPY'].map((code) => ({ value: code, name: code }));
const COUNTRIES = [
  ['GB', 'United Kingdom'],
  ['US', 'United States'],
  ['DE', 'Germany'],
  ['FR', 'France'],
  ['CA', 'Canada'],
  ['JP', 'Japan'],
].map(([value, name]) => ({ value: value!, name: name! }));

/** Signing in, or making an account. */
export function SignIn({ back, first }: { back: string; first: boolean }) {
  const [making, setMaking] = useState(first);
  const [form, setForm] = useState({
    email: '',
    password: '',
    name: '',
    workspaceName: '',
    currency: 'GBP',
    country: 'GB',
  });
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const set = (key: keyof typeof form) => (value: string) => setForm((f) => ({ ...f, [key]: value }));
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setError(null);
    try {
      if (making) await call('POST', '/people', form);
      await call('POST', '/sessions', { email: form.email, password: form.password });
      window.location.assign(back);
    } catch (problem) {
      setError((problem as Error).message);
      setBusy(false);
    }
  };
  return (
    <div className="min-h-dvh grid place-items-center px-6">
      <form onSubmit={submit} className="w-full max-w-sm" noValidate>
        <h1 className="font-display text-[34px] font-semibold mb-1">Typica</h1>
        <p className="text-muted mb-7">Artwork on blank goods, priced to the cent, kept in step across shops.</p>
        <div className="grid gap-3">
          {making && (
            <TextField label="Your name" value={form.name} onChange={set('name')} autoComplete="name" required />
          )}
          <TextField
            label="Email"
            type="email"
            value={form.email}
            onChange={set('email')}
            autoComplete="username"
            required
          />
          <TextField
            label="Password"
            type="password"
            hint={making ? '10 characters or more' : undefined}
            value={form.password}
            onChange={set('password')}
            autoComplete={making ? 'new-password' : 'current-password'}
            required
          />
          {making && (
            <>
              <TextField
                label="Name of your business"
                value={form.workspaceName}
                onChange={set('workspaceName')}
                autoComplete="organization"
                required
              />
              <div className="flex gap-6 pb-2">
                <Select label="You count in" value={form.currency} choices={CURRENCIES} onChange={set('currency')} />
                <Select label="from" value={form.country} choices={COUNTRIES} onChange={set('country')} />
              </div>
            </>
          )}
          {error && <Alert>{error}</Alert>}
          <div className="flex items-center gap-5 pt-1">
            <Button kind="primary" type="submit" disabled={busy}>
              {making ? 'Create account' : 'Sign in'}
            </Button>
            <Button kind="quiet" onClick={() => setMaking(!making)}>
              {making ? 'I have an account' : 'Create an account'}
            </Button>
          </div>
        </div>
      </form>
    </div>
  );
}
