'use client';

import { useCallback, useEffect, useState } from 'react';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { SureButton } from '@/ui/SureButton';
import { dayText } from '@/ui/when';

interface TokenView {
  readonly id: string;
  readonly name: string;
  readonly scopes: readonly string[];
  readonly createdAt: string;
  readonly expiresAt: string;
  readonly lastUsedAt: string | null;
}

const SCOPES = [
  ['read', 'Read everything'],
  ['design', 'Designs, artwork, pictures'],
  ['price', 'Prices'],
  ['send', 'Send listings'],
  ['money', 'Rates, taxes, price lists'],
  ['keys', 'Stores’ keys and tokens'],
] as const;

const LIVES = [
  { value: '7', name: '7 days' },
  { value: '30', name: '30 days' },
  { value: '90', name: '90 days' },
  { value: '366', name: 'one year' },
];

const isOver = (iso: string) => new Date(iso) < new Date();

/** The form that makes a token. */
function TokenForm({ onMade }: { onMade: (token: string) => void }) {
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<ReadonlySet<string>>(new Set(['read']));
  const [days, setDays] = useState('90');
  const [error, setError] = useState<string | null>(null);
  const make = async (e: React.FormEvent) => {
    e.preventDefault();
    try {
      const wanted = { name, scopes: [...scopes], days: Number(days) };
      const { token } = await call<{ token: string }>('POST', '/tokens', wanted);
      setName('');
      setError(null);
      onMade(token);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const toggle = (scope: string) => (on: boolean) =>
    setScopes((before) => new Set(on ? [...before, scope] : [...before].filter((one) => one !== scope)));
  return (
    <form onSubmit={make} className="border border-hairline bg-sheet rounded-paper p-4 mb-2">
      <div className="flex items-end gap-5">
        <div className="w-72">
          <TextField label="What the token is for" value={name} onChange={setName} error={error} />
        </div>
        <div className="w-52 pb-3">
          <Select label="It ends after" value={days} onChange={setDays} choices={LIVES} />
        </div>
      </div>
      <fieldset className="mt-2">
        <legend className="text-small font-medium mb-1">What it may do</legend>
        <div className="grid grid-cols-3 gap-x-4 gap-y-1.5">
          {SCOPES.map(([scope, says]) => (
            <Check key={scope} on={scopes.has(scope)} onChange={toggle(scope)} className="text-small">
              {says}
            </Check>
          ))}
        </div>
      </fieldset>
      <div className="mt-4">
        <Button kind="primary" type="submit" disabled={name.trim() === '' || scopes.size === 0}>
          Make a token
        </Button>
      </div>
    </form>
  );
}

function TokenTable({ tokens, onRevoke }: { tokens: readonly TokenView[]; onRevoke: (id: string) => Promise<void> }) {
  if (tokens.length === 0) return <p className="text-small text-muted py-3">No token yet.</p>;
  return (
    <table className="w-full text-small border-t border-hairline mt-4">
      <thead className="text-left text-muted">
        <tr className="border-b border-hairline">
          <th className="font-normal py-1.5">For</th>
          <th className="font-normal">May</th>
          <th className="font-normal">Made</th>
          <th className="font-normal">Ends</th>
          <th className="font-normal">Last used</th>
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {tokens.map((token) => (
          <tr key={token.id} className="border-b border-hairline">
            <td className="py-1.5">{token.name}</td>
            <td>{token.scopes.length === SCOPES.length ? 'everything' : token.scopes.join(', ')}</td>
            <td>{dayText(token.createdAt)}</td>
            <td>{isOver(token.expiresAt) ? <span className="text-stop">has ended</span> : dayText(token.expiresAt)}</td>
            <td>{token.lastUsedAt ? dayText(token.lastUsedAt) : 'never'}</td>
            <td className="text-right">
              <SureButton
                title={`Revoke the token “${token.name}”?`}
                says="Scripts that use it stop working at once. It cannot be restored; you can make another one."
                act={() => onRevoke(token.id)}
              >
                Revoke
              </SureButton>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Personal tokens: made, shown once, taken back; and the end of all sessions. */
export function Account() {
  const [tokens, setTokens] = useState<readonly TokenView[] | null>(null);
  const [made, setMade] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const say = (problem: Error) => setError(problem.message);
  const load = useCallback(
    () => void call<{ tokens: TokenView[] }>('GET', '/tokens').then((answer) => setTokens(answer.tokens), say),
    [],
  );
  useEffect(load, [load]);
  const leave = () =>
    void call('DELETE', '/sessions?everywhere=true').then(() => window.location.replace('/sign-in'), say);
  return (
    <div className="max-w-4xl px-8 py-7">
      <h1 className="font-display text-[24px] font-semibold">Personal tokens</h1>
      <p className="text-muted mt-1 mb-5 max-w-xl">
        A token lets a script of yours use the HTTP API in your name, as Bearer. Give it no more than it needs.
      </p>
      <TokenForm
        onMade={(token) => {
          setMade(token);
          load();
        }}
      />
      {made && (
        <div role="status" className="border-l-[3px] border-kept pl-3 my-4">
          <p className="text-small">Copy it now; it is not shown again.</p>
          <code className="font-mono text-small break-all">{made}</code>
        </div>
      )}
      {error && (
        <p role="alert" className="text-small text-stop my-3">
          {error}
        </p>
      )}
      {tokens && (
        <TokenTable
          tokens={tokens}
          onRevoke={(id) => {
            // The one that was just made is not to be copied any more.
            setMade(null);
            return call('DELETE', `/tokens/${encodeURIComponent(id)}`).then(load, say);
          }}
        />
      )}
      <h2 className="font-display text-[18px] font-semibold mt-8">Sessions</h2>
      <p className="text-muted mt-1 mb-3 max-w-xl">
        Ends your session in this browser and in every other one. Tokens stay; revoke them above.
      </p>
      <Button onClick={leave}>Sign out everywhere</Button>
    </div>
  );
}
