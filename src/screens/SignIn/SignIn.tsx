'use client';

import { useMemo, useRef, useState } from 'react';
import { currencyCodes } from '@/core/pricing/money';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { CountryField } from '@/ui/CountryField';
import { TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { allDestinations } from '../countries';
import { currencyOf, faultsOf, type Faults } from './view';

const EMPTY = { email: '', password: '', name: '', workspaceName: '', currency: 'GBP', country: 'GB' };
type Form = typeof EMPTY;

/** Signing in, or making an account. */
export function SignIn({ back, first }: { back: string; first: boolean }) {
  const [making, setMaking] = useState(first);
  const [form, setForm] = useState<Form>(EMPTY);
  const [faults, setFaults] = useState<Faults<Form>>({ all: null, at: {} });
  const [busy, setBusy] = useState(false);
  const self = useRef<HTMLFormElement>(null);
  const set = (key: keyof Form) => (value: string) => {
    setForm((f) => ({ ...f, [key]: value }));
    setFaults(({ all, at: { [key]: _gone, ...at } }) => ({ all, at }));
  };
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setFaults({ all: null, at: {} });
    try {
      if (making) await call('POST', '/people', form);
      await call('POST', '/sessions', { email: form.email, password: form.password });
      window.location.assign(back);
    } catch (problem) {
      setFaults(faultsOf<Form>(problem as Error, making ? Object.keys(EMPTY) : ['email', 'password']));
      setBusy(false);
      // The first field that is wrong is where one goes on.
      requestAnimationFrame(() => self.current?.querySelector<HTMLElement>('[aria-invalid=true]')?.focus());
    }
  };
  const field = (key: 'email' | 'password' | 'name' | 'workspaceName') => ({
    value: form[key],
    error: faults.at[key] ?? null,
    onChange: set(key),
    required: true,
  });
  return (
    <main className="min-h-dvh grid place-items-center px-6">
      <form ref={self} onSubmit={submit} className="w-full max-w-sm" noValidate>
        <h1 className="font-display text-[34px] font-semibold mb-1">Typica</h1>
        <p className="text-muted mb-7">Artwork on blank goods, priced to the cent, kept in step across shops.</p>
        <div className="grid gap-3">
          {making && <TextField label="Your name" autoComplete="name" {...field('name')} />}
          <TextField label="Email" type="email" autoComplete="username" {...field('email')} />
          <TextField
            label="Password"
            type="password"
            hint={making ? '10 characters or more' : undefined}
            autoComplete={making ? 'new-password' : 'current-password'}
            {...field('password')}
          />
          {making && (
            <>
              <TextField label="Name of your business" autoComplete="organization" {...field('workspaceName')} />
              <Whereabouts form={form} onChange={setForm} />
            </>
          )}
          {faults.all && <Alert>{faults.all}</Alert>}
          <div className="flex items-center gap-5 pt-1">
            <Button kind="primary" type="submit" disabled={busy}>
              {making ? 'Create account' : 'Sign in'}
            </Button>
            <Button
              kind="quiet"
              onClick={() => {
                setMaking(!making);
                setFaults({ all: null, at: {} });
              }}
            >
              {making ? 'I have an account' : 'Create an account'}
            </Button>
          </div>
        </div>
      </form>
    </main>
  );
}

/** The country of a business, and the currency of its sums: that of the country, until another one is chosen. */
function Whereabouts({ form, onChange }: { form: Form; onChange: (change: (form: Form) => Form) => void }) {
  const countries = useMemo(() => allDestinations('GB'), []);
  const currencies = useMemo(() => currencyCodes().map((value) => ({ value, name: value })), []);
  return (
    <div className="flex flex-wrap gap-6 pb-2">
      <CountryField
        label="Country"
        value={form.country}
        choices={countries}
        onChange={(country) =>
          onChange((f) => ({
            ...f,
            country,
            currency: f.currency === currencyOf(f.country) ? currencyOf(country) : f.currency,
          }))
        }
      />
      <Select
        label="Currency"
        value={form.currency}
        choices={currencies}
        onChange={(currency) => onChange((f) => ({ ...f, currency }))}
      />
    </div>
  );
}
