'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { useAct } from '@/ui/use-act';
import type { ConnectableChannel } from './load';

/** Kinds of shop that can be connected: by consent, or with keys, a region first where there are some. */
export function Connect({ channels, none }: { channels: readonly ConnectableChannel[]; none: boolean }) {
  return (
    <section className="max-w-4xl">
      <h2 className="font-display text-[17px] mt-8 mb-2">Connect a store</h2>
      <ul>
        {channels.map((channel, i) => (
          <ChannelLine key={channel.code} channel={channel} first={none && i === 0} />
        ))}
      </ul>
    </section>
  );
}

const MONEY = 'the store’s own currency';

function ChannelLine({ channel, first }: { channel: ConnectableChannel; first: boolean }) {
  const { code, name, kind, currency, regions, keys } = channel;
  const [region, setRegion] = useState<string>(regions[0]?.code ?? '');
  const [pasting, setPasting] = useState(false);
  const { act, busy, problem } = useAct();
  const consent = () =>
    act(async () => {
      const body = { channel: code, ...(region ? { region } : {}) };
      const { authorizeUrl } = await call<{ authorizeUrl: string }>('POST', '/stores/connect', body);
      window.location.assign(authorizeUrl);
      // The page goes away: the button stays as it is until then.
      await new Promise(() => {});
    });
  return (
    <li className="border-t border-hairline last:border-b py-2.5">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <span className="font-semibold w-40">{name}</span>
        <span className="text-muted">
          {kind}, {currency ?? MONEY}
        </span>
        {regions.length > 0 && (
          <span className="text-small">
            <Select
              label="Region"
              value={region}
              choices={regions.map((one) => ({ value: one.code, name: one.name }))}
              onChange={setRegion}
            />
          </span>
        )}
        <span className="ml-auto">
          <Button
            kind={first ? 'primary' : 'plain'}
            disabled={busy}
            onClick={() => (keys ? setPasting(true) : void consent())}
          >
            {busy ? 'Going there …' : `Connect ${name}`}
          </Button>
        </span>
      </div>
      {problem && <Alert className="mt-2">{problem}</Alert>}
      {keys && (
        <PasteKeys
          channel={channel}
          region={region || null}
          keys={keys}
          open={pasting}
          onClose={() => setPasting(false)}
        />
      )}
    </li>
  );
}

interface PasteProps {
  readonly channel: ConnectableChannel;
  readonly region: string | null;
  readonly keys: NonNullable<ConnectableChannel['keys']>;
  readonly open: boolean;
  readonly onClose: () => void;
}

/** Keys that the seller found on the shop's own page. What was typed stays when it was not right. */
function PasteKeys({ channel, region, keys, open, onClose }: PasteProps) {
  const router = useRouter();
  const [typed, setTyped] = useState<ReadonlyMap<string, string>>(new Map());
  const { act, busy, problem } = useAct();
  const connect = () =>
    act(async () => {
      const body = { channel: channel.code, ...(region ? { region } : {}), keys: Object.fromEntries(typed) };
      const { id } = await call<{ id: string }>('POST', '/stores', body);
      router.push(`/stores/${id}`);
    });
  return (
    <Sheet open={open} onClose={onClose} title={`Connect ${channel.name}`}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void connect();
        }}
      >
        <p className="text-small text-muted">
          You find {keys.fields.length > 1 ? 'these' : 'it'} on{' '}
          <a className="text-primary underline" href={keys.page} target="_blank" rel="noreferrer">
            a page of {channel.name}
          </a>
          , for exactly one shop.
        </p>
        {keys.fields.map(({ name, label, secret }) => (
          <TextField
            key={name}
            label={label}
            type={secret ? 'password' : 'text'}
            autoComplete="off"
            required
            value={typed.get(name) ?? ''}
            onChange={(text) => setTyped(new Map(typed).set(name, text))}
          />
        ))}
        {problem && <Alert>{problem}</Alert>}
        <div className="flex justify-end gap-3">
          <Button type="button" kind="quiet" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" kind="primary" disabled={busy}>
            {busy ? 'Connecting …' : 'Connect'}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
