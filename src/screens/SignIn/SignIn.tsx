'use client';

import { later } from '@/ui/later';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { useApiForm } from '@/ui/use-api-form';

// Lists of countries and currencies: only who makes an account needs them.
const Whereabouts = later(() => import('./Whereabouts').then((part) => part.Whereabouts));

const EMPTY = { email: '', password: '', name: '', workspaceName: '', currency: 'GBP', country: 'GB' };

/** Signing in, or making an account. */
export function SignIn({ back, first }: { back: string; first: boolean }) {
  const [making, setMaking] = useState(first);
  const { form, field, put, submit, problem, busy } = useApiForm(EMPTY, async (values) => {
    if (making) await call('POST', '/people', values);
    await call('POST', '/sessions', { email: values.email, password: values.password });
    window.location.assign(back);
    // The page goes away: until then nothing is pressed again.
    await new Promise(() => {});
  });
  return (
    <main className="min-h-dvh grid place-items-center px-6 py-8">
      <form onSubmit={submit} className="w-full max-w-sm" noValidate>
        <h1 className="font-display text-[34px] font-semibold mb-1">Typica</h1>
        <p className="text-muted mb-7">Artwork on blank goods, priced to the cent, kept in step across shops.</p>
        <div className="grid gap-3">
          {making && <TextField label="Your name" autoComplete="name" required {...field('name')} />}
          <TextField label="Email" type="email" autoComplete="username" required {...field('email')} />
          <TextField
            label="Password"
            type="password"
            hint={making ? '10 characters or more' : undefined}
            autoComplete={making ? 'new-password' : 'current-password'}
            required
            {...field('password')}
          />
          {making && (
            <>
              <TextField
                label="Name of your business"
                autoComplete="organization"
                required
                {...field('workspaceName')}
              />
              <Whereabouts
                place={{ country: form.watch('country'), currency: form.watch('currency') }}
                fault={field('currency').error}
                onChange={put}
              />
            </>
          )}
          {problem && <Alert>{problem}</Alert>}
          <div className="flex items-center gap-5 pt-1">
            <Button kind="primary" type="submit" disabled={busy}>
              {making ? 'Create account' : 'Sign in'}
            </Button>
            <Button
              kind="quiet"
              onClick={() => {
                setMaking(!making);
                form.clearErrors();
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
