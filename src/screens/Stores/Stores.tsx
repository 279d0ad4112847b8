'use client';

import Link from 'next/link';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import type { StoresData } from './load';

/** The seller's connected shops, and the kinds of shop that can be connected. */
export function Stores({ stores, channels, problem }: StoresData & { problem: string | null }) {
  const [error, setError] = useState<string | null>(problem);
  const [going, setGoing] = useState<string | null>(null);
  const connect = async (channel: string) => {
    setGoing(channel);
    try {
      const { authorizeUrl } = await call<{ authorizeUrl: string }>('POST', '/stores/connect', { channel });
      window.location.assign(authorizeUrl);
    } catch (e) {
      setError((e as Error).message);
      setGoing(null);
    }
  };
  return (
    <div className="max-w-4xl px-8 py-6">
      <h1 className="font-display text-[24px] font-semibold mb-4">Stores</h1>
      {error && <Alert className="mb-4">{error}</Alert>}
      {stores.length === 0 && (
        <p className="text-muted mb-4 max-w-lg">
          This is where your shops are connected. You are sent to the shop’s own page, say yes there, and come back.
        </p>
      )}
      <ul>
        {stores.map((store) => (
          <li key={store.id} className="border-t border-hairline last:border-b py-3 flex items-baseline gap-6">
            <Link href={`/stores/${store.id}`} className="text-base font-semibold hover:text-primary w-64">
              {store.name}
            </Link>
            <span className="text-muted w-40">
              {store.channel}, {store.currency}
            </span>
            <span className={store.state === 'connected' ? 'text-kept' : 'text-stop'}>
              {store.state === 'connected' ? '✓ connected' : 'connection lapsed: connect again'}
            </span>
            <a
              className="ml-auto text-small text-primary underline"
              href={store.shopUrl}
              target="_blank"
              rel="noreferrer"
            >
              Open the shop
            </a>
          </li>
        ))}
      </ul>
      <h2 className="font-display text-[17px] mt-8 mb-2">Connect a store</h2>
      <ul>
        {channels.map((channel) => (
          <li key={channel.code} className="border-t border-hairline last:border-b py-3 flex items-baseline gap-6">
            <span className="font-semibold w-64">{channel.name}</span>
            <span className="text-muted">
              {channel.kind}, {channel.currency}
            </span>
            <span className="ml-auto">
              <Button
                kind={stores.length === 0 ? 'primary' : 'plain'}
                disabled={going !== null}
                onClick={() => void connect(channel.code)}
              >
                {going === channel.code ? 'Going there …' : `Connect ${channel.name}`}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
