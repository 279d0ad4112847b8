'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import { FIRST_LISTING } from '@/core/document/split';
import type { SeenHow } from '@/core/sync/sightings';
import { SYNC_MARKS } from '@/core/sync/state';
import { ActionMenu } from '@/ui/ActionMenu';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { Mark } from '@/ui/Mark';
import { dayAndTime } from '@/ui/when';
import { useDesk, type BenchListing } from '../desk';
import { differenceRows } from './differences';
import { Differences } from './Differences';
import { Fixes } from './Fixes';
import { Guards } from './Guards';
import { OwnHere } from './OwnHere';
import { PicturesThere } from './PicturesThere';
import { Rules } from './Rules';
import { ShadesHere } from './ShadesHere';
import { useListing } from './use-listing';
import { sendable } from './view';

type Listing = ReturnType<typeof useListing>;

/** The product in one store: its state, sending with its progress, what stands in the way, what differs, what happened. */
export function StoreListing({
  listing,
  name,
  channel,
  part,
}: {
  listing: BenchListing;
  name: string;
  channel: string;
  /** Which of several listings there it is; null: the only one. */
  part: string | null;
}) {
  const { data, goTo } = useDesk('data', 'goTo');
  const of = useListing(listing);
  const { job, detail, problem } = of;
  const { currency } = data.stores.find(({ id }) => id === listing.storeId)!;
  // Marking long texts takes some ms: not at every stroke somewhere else.
  const rows = useMemo(
    () => differenceRows(detail?.differences ?? [], { blank: data.blank, currency }),
    [detail?.differences, data.blank, currency],
  );
  const travelling = listing.state === 'on-its-way';
  const failed = job?.state === 'failed' && !travelling && listing.state !== 'in-step';
  return (
    <section aria-label={part === null ? name : `${name}, ${part}`} className="border-t border-hairline py-4">
      <div className="flex items-baseline gap-4 flex-wrap">
        <h3 className="font-semibold text-base">
          {name}{' '}
          <span className="font-normal text-muted">
            {channel}
            {part !== null && `, ${part}`}
          </span>
        </h3>
        <span data-testid="sync-state">
          <Mark {...SYNC_MARKS[listing.state]} />
        </span>
        <Whereabouts listing={listing} />
        <Buttons listing={listing} name={name} of={of} />
      </div>
      {listing.number === FIRST_LISTING && <OwnHere storeId={listing.storeId} name={name} />}
      {travelling && job && <Progress job={job} />}
      {problem && <Alert className="mt-3">{problem}</Alert>}
      {listing.refusal && (
        <div role="alert" className="border-l-[3px] border-stop pl-3 mt-3 text-small" data-testid="refusal">
          <p className="text-stop">The shop rejected it. Its message:</p>
          <blockquote className="font-display text-[15px] my-1">“{listing.refusal.words}”</blockquote>
          <p>Change that here, then send again. Nothing was changed in the shop.</p>
        </div>
      )}
      {failed && !listing.refusal && job.error && <Alert className="mt-3">{job.error.message}</Alert>}
      <Rules
        rules={listing.rules}
        storeId={listing.storeId}
        onGo={goTo}
        onAccept={(accept) => void of.acceptFloor(accept)}
      />
      <Fixes listing={listing} name={name} />
      {listing.number === FIRST_LISTING && <ShadesHere storeId={listing.storeId} name={name} />}
      {listing.number === FIRST_LISTING && <PicturesThere storeId={listing.storeId} name={name} />}
      {!travelling && <Guards guards={detail?.guards ?? []} onLeave={(visibility) => void of.leave(visibility)} />}
      {rows.length > 0 && !travelling && (
        <details className="mt-3" open>
          <summary className="text-small font-medium cursor-pointer">What differs ({rows.length})</summary>
          <Differences
            rows={rows}
            storeName={name}
            currency={currency}
            onSettle={listing.thereHash === null ? null : (settling) => void of.settle(settling)}
          />
        </details>
      )}
      {detail && detail.history.length > 0 && <Activity {...detail} storeId={listing.storeId} />}
    </section>
  );
}

/** Whether buyers see it, and the way to it. */
function Whereabouts({ listing }: { listing: BenchListing }) {
  return (
    <>
      {listing.visibility && (
        <span className="text-muted">
          {listing.visibility === 'live' ? 'live, buyers see it' : 'draft, only you see it'}
        </span>
      )}
      {listing.url && (
        <a
          href={listing.url}
          target="_blank"
          rel="noreferrer"
          className="text-small text-primary underline"
          data-testid="see-there"
        >
          See it in the shop
        </a>
      )}
    </>
  );
}

function Buttons({ listing, name, of }: { listing: BenchListing; name: string; of: Listing }) {
  const { data } = useDesk('data');
  const can = sendable(listing);
  const sendsAs = data.stores.find(({ id }) => id === listing.storeId)?.sendsAs;
  const draftFirst = listing.visibility === null && sendsAs === 'draft';
  return (
    <span className="ml-auto flex gap-2.5">
      {listing.externalId && (
        <Button onClick={() => void of.check()} disabled={!can.check}>
          Check the shop now
        </Button>
      )}
      {listing.externalId && can.check && <Remove name={name} of={of} />}
      <Button kind={draftFirst ? 'primary' : 'plain'} onClick={() => void of.send('draft')} disabled={!can.draft}>
        {listing.visibility === 'live' ? 'Take off sale' : 'Send as draft'}
      </Button>
      <Button kind={draftFirst ? 'plain' : 'primary'} onClick={() => void of.send('live')} disabled={!can.live}>
        {listing.thereHash !== null
          ? 'Replace what is there'
          : listing.visibility === 'live'
            ? 'Send changes'
            : 'Send live'}
      </Button>
    </span>
  );
}

/** Deletes it here and there, or forgets it here alone. */
function Remove({ name, of }: { name: string; of: Listing }) {
  return (
    <ActionMenu
      label={`Delete the listing in ${name}`}
      className="min-h-6 text-small text-primary underline"
      anchor="bottom end"
      entries={[
        { name: 'Delete here and in the shop', act: () => void of.remove(true) },
        { name: 'Delete here only', act: () => void of.remove(false) },
      ]}
    >
      Delete
    </ActionMenu>
  );
}

function Progress({ job }: { job: NonNullable<Listing['job']> }) {
  return (
    <div className="mt-3 max-w-md" role="status">
      <progress
        aria-label="Progress"
        className="w-full h-1.5 accent-primary"
        value={job.progressDone}
        max={Math.max(1, job.progressTotal)}
      />
      <p className="text-small text-muted">
        {job.progressTotal > 0 ? `${job.progressDone} of ${job.progressTotal}: ${job.progressNote}` : 'Queued'}
        {job.attempts > 1 && job.error ? ` · try ${job.attempts}; before: ${job.error.message}` : ''}
      </p>
    </div>
  );
}

/** How it was learnt what the shop shows. */
const SEEN: { readonly [how in SeenHow]: string } = {
  sent: 'when it was sent',
  told: 'after the shop told of a change',
  since: 'after the shop was asked what changed',
  reading: 'when its turn to be read came',
  asked: 'because somebody had it checked',
};

function Activity({
  history,
  seen,
  storeId,
}: Pick<NonNullable<Listing['detail']>, 'history' | 'seen'> & { storeId: string }) {
  const { data } = useDesk('data');
  return (
    <details className="mt-3">
      <summary className="text-small font-medium cursor-pointer">Activity</summary>
      {seen && (
        <p className="mt-1.5 text-small text-muted">
          Last read in the shop {dayAndTime(seen.at)}, {SEEN[seen.how]}.
        </p>
      )}
      <ul className="text-small mt-1.5">
        {history.map((entry, i) => (
          <li key={i} className="py-0.5">
            <span className="text-muted inline-block w-32">{dayAndTime(entry.at)}</span> {entry.says}
            {entry.fields && entry.fields.length > 0 && ` Changed: ${entry.fields.join(', ')}.`}
            {entry.by && <span className="text-muted"> {entry.by}</span>}
          </li>
        ))}
      </ul>
      <Link
        href={`/activity?product=${data.product.id}&store=${storeId}`}
        className="mt-1 inline-block text-small text-primary underline"
      >
        All that happened to it
      </Link>
    </details>
  );
}
