'use client';

import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { SYNC_MARKS } from '@/core/sync/state';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useEvents } from '@/ui/events';
import { Mark } from '@/ui/Mark';
import { useDesk, type BenchListing } from '../desk';
import { differenceRows, type Difference } from './differences';
import { Differences } from './Differences';
import { Rules } from './Rules';
import { dayAndTime } from '@/ui/when';

interface ListingDetail {
  readonly differences: readonly Difference[];
  readonly history: readonly { readonly what: string; readonly says: string; readonly at: string }[];
}

interface JobDetail {
  readonly id: string;
  readonly state: string;
  readonly progressDone: number;
  readonly progressTotal: number;
  readonly progressNote: string;
  readonly attempts: number;
  readonly error: { readonly message: string } | null;
}

/** Where the product stands in each store: its rules, sending, progress, what the shop said. */
export function SendPart() {
  const { data, listings } = useDesk();
  return (
    <div className="px-7 py-5 max-w-4xl">
      <h2 className="font-display text-[20px] font-semibold mb-3">Stores</h2>
      {data.stores.length === 0 && (
        <p className="text-muted">
          No store is connected yet.{' '}
          <Link href="/stores" className="text-primary underline">
            Connect one
          </Link>
          , then come back; your work stays here.
        </p>
      )}
      {data.stores.map((store) => {
        const listing = listings.find((l) => l.storeId === store.id);
        return listing ? (
          <StoreListing key={store.id} listing={listing} name={store.name} channel={store.channelName} />
        ) : null;
      })}
    </div>
  );
}

function StoreListing({ listing, name, channel }: { listing: BenchListing; name: string; channel: string }) {
  const { data, session, goTo, reloadListings, state } = useDesk();
  const [error, setError] = useState<string | null>(null);
  const [job, setJob] = useState<JobDetail | null>(null);
  const [detail, setDetail] = useState<ListingDetail | null>(null);
  const path = `/products/${data.product.id}/listings`;
  const { storeId, jobId, listingId } = listing;
  const loadJob = useCallback(() => {
    if (jobId) void call<JobDetail>('GET', `/jobs/${jobId}`).then(setJob, () => undefined);
  }, [jobId]);
  useEffect(loadJob, [loadJob]);
  useEvents((topic, payload) => {
    if (jobId && (topic === 'reset' || (topic === 'job' && payload.jobId === jobId))) loadJob();
  });
  const showsDetail = listingId !== null;
  useEffect(() => {
    if (showsDetail) void call<ListingDetail>('GET', `${path}/${storeId}`).then(setDetail, () => undefined);
  }, [showsDetail, path, storeId, listing.state, listing.sentAt, state.revision]);

  const send = async (visibility: 'draft' | 'live') => {
    setError(null);
    try {
      await session.flush();
      await call('POST', path, { storeId, visibility });
      reloadListings();
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  const { currency } = data.stores.find(({ id }) => id === storeId)!;
  const rows = differenceRows(detail?.differences ?? [], { blank: data.blank, currency });
  const broken = listing.rules.filter((rule) => !rule.kept);
  const travelling = listing.state === 'on-its-way';
  const nothingNew = listing.state === 'in-step';
  const failed = job?.state === 'failed' && !travelling && listing.state !== 'in-step';
  return (
    <section aria-label={channel} className="border-t border-hairline py-4">
      <div className="flex items-baseline gap-4 flex-wrap">
        <h3 className="font-semibold text-base">
          {channel} <span className="font-normal text-muted">{name}</span>
        </h3>
        <span data-testid="sync-state">
          <Mark {...SYNC_MARKS[listing.state]} />
        </span>
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
        <span className="ml-auto flex gap-2.5">
          {listing.externalId && (
            <Button
              onClick={() =>
                void call('POST', `${path}/${storeId}/check`).then(reloadListings, (e: Error) => setError(e.message))
              }
              disabled={travelling}
            >
              Check the shop now
            </Button>
          )}
          {listing.visibility !== 'live' && (
            <Button
              onClick={() => void send('draft')}
              disabled={travelling || broken.length > 0 || (nothingNew && listing.visibility === 'draft')}
            >
              Send as draft
            </Button>
          )}
          <Button
            kind="primary"
            onClick={() => void send('live')}
            disabled={travelling || broken.length > 0 || (nothingNew && listing.visibility === 'live')}
          >
            {listing.visibility === 'live' ? 'Send changes' : 'Send live'}
          </Button>
        </span>
      </div>
      {travelling && job && (
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
      )}
      {error && <Alert className="mt-3">{error}</Alert>}
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
        onGo={goTo}
        onAccept={(accept) =>
          void session
            .flush()
            .then(() => call(accept ? 'PUT' : 'DELETE', `${path}/${storeId}/floor-acceptance`))
            .then(reloadListings, (e: Error) => setError(e.message))
        }
      />
      {rows.length > 0 && !travelling && (
        <details className="mt-3" open>
          <summary className="text-small font-medium cursor-pointer">What differs ({rows.length})</summary>
          <Differences rows={rows} />
        </details>
      )}
      {detail && detail.history.length > 0 && (
        <details className="mt-3">
          <summary className="text-small font-medium cursor-pointer">Activity</summary>
          <ul className="text-small mt-1.5">
            {detail.history.map((entry, i) => (
              <li key={i} className="py-0.5">
                <span className="text-muted inline-block w-32">{dayAndTime(entry.at)}</span> {entry.says}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
