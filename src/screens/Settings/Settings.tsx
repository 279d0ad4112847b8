'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { toast } from '@/ui/toast';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { useApiForm } from '@/ui/use-api-form';
import { saidWithUndo } from '@/ui/with-undo';
import { Whereabouts } from '../SignIn/Whereabouts';

interface Person {
  readonly name: string;
  readonly email: string;
}
interface Workspace {
  readonly name: string;
  readonly country: string;
  readonly currency: string;
}

/** What holds for the workspace, and for who is signed in. */
export function Settings({ person, workspace }: { person: Person; workspace: Workspace }) {
  return (
    <div className="max-w-5xl px-8 py-7 max-[900px]:px-[18px]">
      <h1 className="font-display text-[24px] font-semibold">Settings</h1>
      <div className="mt-4 grid gap-x-12 gap-y-8 min-[860px]:grid-cols-2">
        <WorkspaceForm workspace={workspace} />
        <PersonForm person={person} />
        <Section title="Where you sell">
          <p className="mb-3 text-small text-muted">
            Countries and how much you sell to each, taxes, rates and prices that may be asked for hold for the whole
            workspace; each store names its own countries.
          </p>
          <p className="flex flex-wrap gap-x-5 gap-y-1 text-small">
            <Link href="/money" className="text-primary underline">
              Rates and rules
            </Link>
            <Link href="/stores" className="text-primary underline">
              Stores
            </Link>
            <Link href="/account" className="text-primary underline">
              Tokens and sessions
            </Link>
          </p>
        </Section>
        <PasswordForm />
      </div>
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t border-hairline pt-3">
      <h2 className="mb-2 font-display text-[18px] font-semibold">{title}</h2>
      {children}
    </section>
  );
}

function Save({ busy, off, children }: { busy: boolean; off: boolean; children: string }) {
  return (
    <Button type="submit" disabled={busy || off} title={off ? 'Nothing was changed yet' : undefined}>
      {children}
    </Button>
  );
}

function WorkspaceForm({ workspace }: { workspace: Workspace }) {
  const router = useRouter();
  const { form, field, put, submit, problem, busy, changed } = useApiForm(
    { ...workspace },
    async (values, { reset }) => {
      await call('PATCH', '/workspace', values);
      reset(values);
      router.refresh();
      saidWithUndo('The workspace was changed.', async () => {
        await call('PATCH', '/workspace', workspace);
        reset({ ...workspace });
        router.refresh();
      });
    },
  );
  return (
    <Section title="Workspace">
      <form onSubmit={submit} className="grid gap-3" noValidate>
        <TextField label="Name of your business" autoComplete="organization" {...field('name')} />
        <Whereabouts
          place={{ country: form.watch('country'), currency: form.watch('currency') }}
          fault={field('currency').error}
          onChange={put}
        />
        <p className="text-tiny text-muted">
          The currency can be changed until there is a first product: prices are kept in it.
        </p>
        {problem && <Alert>{problem}</Alert>}
        <div>
          <Save busy={busy} off={!changed}>
            Save the workspace
          </Save>
        </div>
      </form>
    </Section>
  );
}

function PersonForm({ person }: { person: Person }) {
  const router = useRouter();
  const { form, field, submit, problem, busy, changed } = useApiForm(
    { ...person, currentPassword: '' },
    async ({ currentPassword, ...values }, { reset }) => {
      await call('PATCH', '/me', { ...values, ...(currentPassword ? { currentPassword } : {}) });
      reset({ ...values, currentPassword: '' });
      router.refresh();
      // An address is given back only with the password: its way back is the form itself.
      if (values.email !== person.email) return toast('Your email was changed.');
      saidWithUndo('Your name was changed.', async () => {
        await call('PATCH', '/me', { name: person.name });
        reset({ ...person, currentPassword: '' });
        router.refresh();
      });
    },
  );
  const newEmail = form.watch('email') !== person.email;
  return (
    <Section title="You">
      <form onSubmit={submit} className="grid gap-3" noValidate>
        <TextField label="Your name" autoComplete="name" {...field('name')} />
        <TextField label="Email" type="email" autoComplete="username" {...field('email')} />
        {newEmail && (
          <TextField
            label="Current password"
            hint="needed for a new email"
            type="password"
            autoComplete="current-password"
            {...field('currentPassword')}
          />
        )}
        {problem && <Alert>{problem}</Alert>}
        <div>
          <Save busy={busy} off={!changed}>
            Save name and email
          </Save>
        </div>
      </form>
    </Section>
  );
}

function PasswordForm() {
  const { field, submit, problem, busy, changed } = useApiForm(
    { currentPassword: '', password: '' },
    async (values, { reset }) => {
      await call('PATCH', '/me', values);
      reset();
      toast('Your password was changed. You are signed out everywhere else.');
    },
  );
  return (
    <Section title="Password">
      <form onSubmit={submit} className="grid gap-3" noValidate>
        <TextField
          label="Current password"
          type="password"
          autoComplete="current-password"
          {...field('currentPassword')}
        />
        <TextField
          label="New password"
          hint="10 characters or more"
          type="password"
          autoComplete="new-password"
          {...field('password')}
        />
        {problem && <Alert>{problem}</Alert>}
        <div>
          <Save busy={busy} off={!changed}>
            Change the password
          </Save>
        </div>
      </form>
    </Section>
  );
}
