'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { useEvents } from '@/ui/events';
import { dayAndTime } from '@/ui/when';
import { Connect } from './Connect';
import type { StoreLine, StoresData } from './load';
import { standingWords, stateWords } from './standing-words';

/** The seller's connected shops in one table, and the kinds of shop that can be connected. */
export function Stores({ stores, channels, problem }: StoresData & { problem: string | null }) {
  const router = useRouter();
  useEvents((topic) => {
    if (['listing', 'store', 'outcome', 'reset'].includes(topic)) router.refresh();
  });
  return (
    <div className="px-8 py-6 max-[900px]:px-[18px]">
      <h1 className="font-display text-[24px] font-semibold mb-4">Stores</h1>
      {problem && <Alert className="mb-4">{problem}</Alert>}
      {stores.length === 0 ? (
        <p className="text-muted mb-4 max-w-lg">
          This is where your shops are connected. Some ask for your consent on a page of their own, others give you a
          key to paste here.
        </p>
      ) : (
        <StoreTable stores={stores} />
      )}
      <Connect channels={channels} none={stores.length === 0} />
    </div>
  );
}

function StoreTable({ stores }: { stores: readonly StoreLine[] }) {
  return (
    <div data-wide className="relative overflow-x-auto">
      <table className="w-full text-small">
        <TableHead
          className="border-y border-hairline"
          columns={[
            ['Store', 'py-2 pr-4'],
            'Channel',
            'Region',
            'Currency',
            'Connection',
            'Listings',
            ['Requests now', 'text-right pr-4'],
            ['Last read', 'text-right'],
            '(In the shop)',
          ]}
        />
        <tbody>
          {stores.map((store) => (
            <StoreRow key={store.id} store={store} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function StoreRow({ store }: { store: StoreLine }) {
  const state = stateWords(store, new Date());
  return (
    <tr className="border-b border-hairline align-baseline">
      <td className="py-2 pr-4">
        <Link href={`/stores/${store.id}`} className="font-semibold hover:text-primary">
          {store.name}
        </Link>
        {store.shopName !== store.name && <span className="block text-tiny text-muted">{store.shopName}</span>}
      </td>
      <td className="pr-4">{store.channel}</td>
      <td className="pr-4 text-muted">{store.region ?? '–'}</td>
      <td className="pr-4">{store.currency}</td>
      <td className={`pr-4 max-w-[240px] ${state.well ? 'text-kept' : 'text-stop'}`}>{state.says}</td>
      <td className="pr-4">{standingWords(store)}</td>
      <td className="pr-4 text-right whitespace-nowrap">
        {store.requests} of {store.allowed} a second
      </td>
      <td className="text-right whitespace-nowrap text-muted">{store.readAt ? dayAndTime(store.readAt) : '–'}</td>
      <td className="pl-4 text-right">
        <a className="text-primary underline" href={store.shopUrl} target="_blank" rel="noreferrer">
          Open<span className="sr-only"> the shop of {store.name}</span>
        </a>
      </td>
    </tr>
  );
}
