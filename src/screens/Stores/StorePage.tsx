'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { useEvents } from '@/ui/events';
import { useAct } from '@/ui/use-act';
import { Mark } from '@/ui/Mark';
import { Select } from '@/ui/Select';
import { SureButton } from '@/ui/SureButton';
import { count } from '@/core/words/count';
import { Asked } from './Asked';
import { Categories } from './Categories';
import { ChangedThere } from './ChangedThere';
import { Collections } from './Collections';
import { Fees } from './Fees';
import { Pricing, Sending } from './Ways';
import { Missing } from './Missing';
import { Shades } from './Shades';
import { Shipping } from './Shipping';
import { Standing } from './Standing';
import { stateWords } from './standing-words';
import type { StoreData } from './load';
import { dayText } from '@/ui/when';

type Act = ReturnType<typeof useAct>['act'];

/** One store: its listings, what it takes, and what it asks for. */
export function StorePage(store: StoreData) {
  const router = useRouter();
  const { act, busy, problem } = useAct();
  useEvents((topic) => {
    if (['listing', 'store', 'reset'].includes(topic)) router.refresh();
  });
  const change = (work: () => Promise<unknown>) => act(() => work().then(() => router.refresh()));
  return (
    <div className="px-8 py-6 grid grid-cols-[minmax(0,1fr)_300px] gap-10 max-w-[1500px] max-[900px]:grid-cols-[minmax(0,1fr)] max-[900px]:px-[18px]">
      <div>
        <Head store={store} act={change} />
        {problem && <Alert className="mb-4">{problem}</Alert>}
        <Missing store={store} busy={busy} act={change} />
        <ChangedThere store={store} busy={busy} act={change} />
        <Listings store={store} />
        <Categories store={store} busy={busy} act={change} />
        <Shades store={store} busy={busy} act={change} />
        <Shipping store={store} busy={busy} act={change} />
        <Collections store={store} busy={busy} act={change} />
        <Fees store={store} told={store.fees} onSaved={() => router.refresh()} />
      </div>
      <Terms store={store} busy={busy} act={change} />
    </div>
  );
}

function Head({ store, act }: { store: StoreData; act: Act }) {
  const state = stateWords(store, new Date());
  return (
    <>
      <p className="mb-1 text-small">
        <Link href="/stores" className="text-primary underline">
          Stores
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-display text-[24px] font-semibold">{store.name}</h1>
        <a className="text-small text-primary underline" href={store.shopUrl} target="_blank" rel="noreferrer">
          Open the shop
        </a>
        <span className="text-small ml-auto">
          <EntryField
            label="Your name for it"
            align="left"
            width="w-56"
            text={store.name}
            read={(typed) => {
              if (typed.trim() === '') throw new Error('Type a name.');
              void act(() => call('PATCH', `/stores/${store.id}`, { name: typed.trim() }));
            }}
          />
        </span>
      </div>
      <p className="text-muted mt-1 mb-5">
        {store.channel}, {store.kind}
        {store.region ? `, ${store.region}` : ''}, in {store.currency}. Connected since {dayText(store.connectedAt)}.{' '}
        {!state.well && <span className="text-stop">{state.says}</span>}
      </p>
    </>
  );
}

/** What was sent to the store, a page at a time. */
function Listings({ store }: { store: StoreData }) {
  return (
    <>
      <table className="w-full text-small">
        <TableHead
          className="border-y border-hairline"
          columns={[
            ['Listing', 'py-2'],
            'State',
            'Shown',
            ['Price', 'text-right'],
            ['Sent', 'text-right'],
            '(In the shop)',
          ]}
        />
        <tbody>
          {store.listings.map((listing) => (
            <tr key={`${listing.productId} ${listing.number}`} className="border-b border-hairline">
              <td className="py-2">
                <Link href={`/products/${listing.productId}?part=stores`} className="font-semibold hover:text-primary">
                  {listing.title}
                  {listing.number > 1 && <span className="font-normal text-muted"> listing {listing.number}</span>}
                </Link>
              </td>
              <td>
                <Mark mark={listing.mark} word={listing.word} />
              </td>
              <td>{listing.visibility ?? '–'}</td>
              <td className="text-right">{listing.price}</td>
              <td className="text-right">{listing.sentAt ? dayText(listing.sentAt) : '–'}</td>
              <td className="text-right">
                {listing.url && (
                  <a className="text-primary underline" href={listing.url} target="_blank" rel="noreferrer">
                    See it there
                  </a>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {(store.next !== null || store.after !== null) && (
        <nav aria-label="Pages of the listings" className="mt-3 flex gap-6 text-small">
          <span className="text-muted">
            {store.listings.length} of {count(store.total, 'listing')}
          </span>
          {store.after !== null && (
            <Link className="text-primary underline" href={`/stores/${store.id}`}>
              First page
            </Link>
          )}
          {store.next !== null && (
            <Link
              className="text-primary underline"
              href={`/stores/${store.id}?after=${encodeURIComponent(store.next)}`}
            >
              Next page
            </Link>
          )}
        </nav>
      )}
      {store.listings.length === 0 && (
        <p className="text-muted py-4">Nothing was sent here yet. Open a product and its part Stores to send it.</p>
      )}
    </>
  );
}

interface TermsProps {
  readonly store: StoreData;
  readonly busy: boolean;
  readonly act: Act;
}

/** How the store is priced, what it requires, who prints for it, and how it is left. */
function Terms({ store, busy, act }: TermsProps) {
  const router = useRouter();
  return (
    <aside className="grid gap-6 content-start text-small">
      <Pricing store={store} act={act} />
      <Sending store={store} act={act} />
      <Standing store={store} act={act} />
      {store.ending && <Ending store={store} ending={store.ending} act={act} />}
      <section>
        <h2 className="font-display text-[17px] mb-1.5">Requirements</h2>
        <ul className="border-t border-hairline">
          {store.demands.map((demand) => (
            <li key={demand} className="border-b border-hairline py-1.5">
              {demand}
            </li>
          ))}
        </ul>
      </section>
      <Asked store={store} busy={busy} act={act} />
      {store.asks.partners && <Partners store={store} busy={busy} act={act} />}
      <div className="flex gap-3">
        <Pause store={store} busy={busy} act={act} />
        <SureButton
          kind="plain"
          disabled={busy}
          title={`Disconnect ${store.name}?`}
          says="Its listings stay in the shop as they are. Typica forgets its key and no longer keeps them in step; you can connect the store again."
          act={() => act(() => call('DELETE', `/stores/${store.id}`).then(() => router.push('/stores')))}
        >
          Disconnect
        </SureButton>
      </div>
    </aside>
  );
}

/** Takes all of the store off sale for a while, and shows it again as it was. */
function Pause({ store, busy, act }: TermsProps) {
  if (store.pausedAt !== null)
    return (
      <Button disabled={busy} onClick={() => void act(() => call('DELETE', `/stores/${store.id}/pause`))}>
        End the pause
      </Button>
    );
  return (
    <SureButton
      kind="plain"
      disabled={busy}
      title={`Pause ${store.name}?`}
      says="All that is live there is taken off sale in the shop. When you end the pause, just that is shown again; what you change meanwhile waits to be sent."
      act={() => act(() => call('PUT', `/stores/${store.id}/pause`))}
    >
      Pause
    </SureButton>
  );
}

const RENEWAL_WORDS = { end: 'let them end', renew: 'renew them' } as const;

/** What becomes of live listings when their span is over, and what the next one takes. */
function Ending({
  store,
  ending: { liveDays, fee, renewal },
  act,
}: Pick<TermsProps, 'store' | 'act'> & { ending: NonNullable<StoreData['ending']> }) {
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">When listings end</h2>
      <div className="border-t border-hairline py-1.5">
        <Select
          label={`After ${liveDays} days`}
          value={renewal}
          choices={(['end', 'renew'] as const).map((value) => ({ value, name: RENEWAL_WORDS[value] }))}
          onChange={(next) => void act(() => call('PATCH', `/stores/${store.id}`, { renewal: next }))}
        />
        <p className="mt-1 text-muted">
          {renewal === 'renew'
            ? `Each is renewed two days before it ends, for ${fee}.`
            : `The next ${liveDays} days would take ${fee} a listing.`}
        </p>
      </div>
    </section>
  );
}

function Partners({ store, busy, act }: TermsProps) {
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">Print partners declared there</h2>
      <ul className="border-t border-hairline">
        {store.partners.map((partner) => (
          <li key={partner.id} className="border-b border-hairline py-1.5 flex justify-between">
            {partner.name}
            {partner.declared ? (
              <span className="text-kept">✓ declared</span>
            ) : (
              <Button
                kind="quiet"
                disabled={busy}
                onClick={() => void act(() => call('POST', `/stores/${store.id}/partners`, { partnerId: partner.id }))}
              >
                Declare
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
