'use client';

import Link from 'next/link';
import { useCallback, useEffect, useState } from 'react';
import { SYNC_MARKS } from '@/core/sync/state';
import { ownEntry } from '@/core/own-entry';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useEvents } from '@/ui/events';
import { Mark } from '@/ui/Mark';
import type { Part } from '../view';
import { useDesk, type BenchListing } from '../desk';
import { dayAndTime } from '@/ui/when';

interface ListingDetail {
  readonly differences: readonly {
    readonly field: string;
    readonly change: string;
    readonly agreed: unknown;
    readonly here: unknown;
    readonly there: unknown;
  }[];
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

const shown = (value: unknown): string => {
  const text = value === undefined ? '–' : typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 90 ? `${text.slice(0, 90)} …` : text || '(empty)';
};

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
      {detail && detail.differences.length > 0 && !travelling && (
        <details className="mt-3" open>
          <summary className="text-small font-medium cursor-pointer">
            What differs ({detail.differences.length})
          </summary>
          <table className="w-full text-small mt-1.5 table-fixed">
            <thead className="text-left text-muted border-b border-hairline">
              <tr>
                <th className="font-normal w-[38%] py-1">Field</th>
                <th className="font-normal">Here</th>
                <th className="font-normal">There</th>
                <th className="font-normal w-28">Changed</th>
              </tr>
            </thead>
            <tbody>
              {detail.differences.slice(0, 12).map((d) => (
                <tr key={d.field} className="border-b border-hairline align-top [&>td]:py-1">
                  <td className="break-words pr-3">{fieldName(d.field)}</td>
                  <td className="break-words pr-3">{shown(d.here)}</td>
                  <td className="break-words pr-3">{shown(d.there)}</td>
                  <td>{d.change === 'both-alike' ? 'both, alike' : d.change}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {detail.differences.length > 12 && (
            <p className="text-tiny text-muted mt-1">and {detail.differences.length - 12} more</p>
          )}
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

/** A path in the form for a person: `variants.color=estuary;size=m.priceMinor` is `price of estuary, m`. */
function fieldName(field: string): string {
  const variant = /^variants\.(.+)\.(\w+)$/.exec(field);
  if (!variant) return field;
  const values = variant[1]!
    .split(';')
    .map((part) => part.split('=')[1])
    .join(', ');
  const names: Record<string, string> = { priceMinor: 'price', sku: 'SKU', inStock: 'in stock', pictureKey: 'picture' };
  return `${ownEntry(names, variant[2]!) ?? variant[2]} of ${values}`;
}

function Rules({
  rules,
  onGo,
  onAccept,
}: {
  rules: BenchListing['rules'];
  onGo: (part: Part) => void;
  onAccept: (accept: boolean) => void;
}) {
  const broken = rules.filter((rule) => !rule.kept);
  const kept = rules.filter((rule) => rule.kept);
  return (
    <div className="mt-3 text-small">
      {broken.map((rule) => (
        <div key={rule.id} className="flex gap-3 border-l-[3px] border-stop pl-2 py-1" data-testid="broken-rule">
          <span className="text-stop w-8 shrink-0">stop</span>
          <span>
            {rule.says}{' '}
            {rule.mend &&
              (rule.part === 'stores' ? (
                <Link href="/stores" className="text-primary underline">
                  {rule.mend}
                </Link>
              ) : (
                <button type="button" className="text-primary underline" onClick={() => onGo(rule.part as Part)}>
                  {rule.mend}
                </button>
              ))}
            {rule.acceptable && (
              <button type="button" className="block text-muted underline" onClick={() => onAccept(true)}>
                I accept selling at a loss
              </button>
            )}
          </span>
        </div>
      ))}
      {kept
        .filter((rule) => rule.acceptedBy)
        .map((rule) => (
          <p key={rule.id} className="border-l-[3px] border-caution pl-2 py-1" data-testid="accepted-loss">
            <span className="text-caution">warn</span> {rule.says} {rule.acceptedBy} accepted it as it stands.{' '}
            <button type="button" className="text-primary underline" onClick={() => onAccept(false)}>
              Withdraw
            </button>
          </p>
        ))}
      {kept.length > 0 && (
        <details className="mt-1.5">
          <summary className="cursor-pointer text-kept">
            ✓ {kept.length} of {rules.length} requirements of the shop are met
          </summary>
          <ul className="mt-1 pl-4">
            {kept.map((rule) => (
              <li key={rule.id} className="py-0.5 text-muted">
                ✓ {rule.says}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
