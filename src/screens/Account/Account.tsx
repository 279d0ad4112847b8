'use client';

import { useCallback, useEffect, useState } from 'react';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';

interface TokenView {
  readonly id: string;
  readonly name: string;
  readonly createdAt: string;
  readonly lastUsedAt: string | null;
}

const day = (iso: string) =>
  new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** Personal tokens: made, shown once, taken back. */
export function Account() {
  const [tokens, setTokens] = useState<TokenView[] | null>(null);
  const [name, setName] = useState('');
  const [made, setMade] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const load = useCallback(
    () =>
      void call<{ tokens: TokenView[] }>('GET', '/tokens').then(
        (answer) => setTokens(answer.tokens),
        (e: Error) => setError(e.message),
      ),
    [],
  );
  useEffect(load, [load]);
  const make = async (e: React.FormEvent) => {
    e.preventDefault();
    try {
      const { token } = await call<{ token: string }>('POST', '/tokens', { name });
      setMade(token);
      setName('');
      setError(null);
      load();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <div className="max-w-3xl px-8 py-7">
      <h1 className="font-display text-[24px] font-semibold">Personal tokens</h1>
      <p className="text-muted mt-1 mb-5 max-w-xl">
        A token lets a script of yours do what you can do here, through the HTTP API, as Bearer. docs/api.md in the
        project shows how, from an upload to a live listing.
      </p>
      <form onSubmit={make} className="flex items-end gap-3 mb-2">
        <div className="w-72">
          <TextField label="What the token is for" value={name} onChange={setName} error={error} />
        </div>
        <div className="mb-[3px]">
          <Button kind="primary" type="submit" disabled={name.trim() === ''}>
            Make a token
          </Button>
        </div>
      </form>
      {made && (
        <div role="status" className="border-l-[3px] border-kept pl-3 my-4">
          <p className="text-small">Copy it now; it is not shown again.</p>
          <code className="font-mono text-small break-all">{made}</code>
        </div>
      )}
      <table className="w-full text-small border-t border-hairline mt-4">
        <thead className="text-left text-muted">
          <tr className="border-b border-hairline">
            <th className="font-normal py-1.5">For</th>
            <th className="font-normal">Made</th>
            <th className="font-normal">Last used</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {tokens?.map((token) => (
            <tr key={token.id} className="border-b border-hairline">
              <td className="py-1.5">{token.name}</td>
              <td>{day(token.createdAt)}</td>
              <td>{token.lastUsedAt ? day(token.lastUsedAt) : 'never'}</td>
              <td className="text-right">
                <Button kind="quiet" onClick={() => void call('DELETE', `/tokens/${token.id}`).then(load)}>
                  Revoke
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {tokens?.length === 0 && <p className="text-small text-muted py-3">No token yet.</p>}
    </div>
  );
}
