'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { FIRST_LISTING } from '@/core/document/split';
import { count } from '@/core/words/count';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { toast } from '@/ui/toast';
import { useDesk, type BenchListing } from '../desk';
import { useRereadListings } from '../use-listings';
import type { Guard } from '@/core/sync/guards';
import type { SeenHow } from '@/core/sync/sightings';
import type { HoldsWhere } from '@/core/document/own-words';
import type { Difference } from './differences';

interface ListingDetail {
  readonly differences: readonly Difference[];
  /** What of them reaches further than its field. */
  readonly guards: readonly Guard[];
  /** When and how it was last learnt what the shop shows; null: it was not. */
  readonly seen: { readonly at: string; readonly how: SeenHow } | null;
  readonly history: readonly {
    readonly what: string;
    readonly says: string;
    readonly at: string;
    /** Who asked for it, and which kinds of fields went; null where it happened by itself, or the listing was new. */
    readonly by: string | null;
    readonly fields: readonly string[] | null;
  }[];
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

/** How one field is settled: which side holds, or what is written in place of both. */
export interface SettledField {
  readonly field: string;
  readonly hold?: 'ours' | 'theirs';
  readonly value?: string | number;
}

/** Fields of a listing, or all of it alike, and where in the product it holds what is taken. */
export interface Settling {
  readonly fields?: readonly SettledField[];
  readonly all?: 'ours' | 'theirs';
  readonly where: HoldsWhere;
}

/** One listing with its job, its differences and its history, and what can be done with it. */
export function useListing({ storeId, number, jobId, listingId, state, sentAt, thereHash, visibility }: BenchListing) {
  const { data, session } = useDesk('data', 'session');
  const reread = useRereadListings();
  const [problem, setProblem] = useState<string | null>(null);
  const path = `/products/${data.product.id}/listings`;
  const own = `${path}/${storeId}`;
  const asked = number === FIRST_LISTING ? '' : `number=${number}`;
  const job = useQuery(
    {
      queryKey: ['job', jobId],
      queryFn: () => call<JobDetail>('GET', `/jobs/${jobId}`),
      enabled: jobId !== null,
    },
    queries(),
  );
  const detail = useQuery(
    {
      queryKey: ['listing', data.product.id, storeId, number, state, sentAt, visibility],
      queryFn: () => call<ListingDetail>('GET', `${own}?${asked}`),
      enabled: listingId !== null,
      placeholderData: (before) => before,
      meta: { topics: ['product', 'listing'] },
    },
    queries(),
  );
  const act = async (what: () => Promise<unknown>) => {
    setProblem(null);
    try {
      await what();
      reread();
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
  const afterSaving = (method: string, to: string, body?: unknown) =>
    act(async () => {
      await session.flush();
      await call(method, to, body);
    });
  return {
    // What is known of an earlier job says nothing of this one.
    job: jobId !== null && job.data?.id === jobId ? job.data : null,
    detail: detail.data ?? null,
    problem,
    /** What the shop shows now is sent over where it was seen: what comes later stops the listing again. */
    send: (visibility: 'draft' | 'live') =>
      afterSaving('POST', path, {
        storeId,
        number,
        visibility,
        ...(thereHash === null ? {} : { seenHash: thereHash }),
      }),
    remove: (there: boolean) =>
      act(() => call('DELETE', `${own}?${[there ? 'there=true' : '', asked].filter(Boolean).join('&')}`)),
    /** As the shop was seen: what came later is looked at first. */
    settle: (settling: Settling) =>
      act(async () => {
        await session.flush();
        const { left } = await call<{ left: readonly { why: string }[] }>('POST', `${own}/settle`, {
          ...settling,
          number,
          thereHash,
        });
        const [first] = left;
        if (first) toast(`All was taken but ${count(left.length, 'field')}: ${first.why}`);
      }),
    /** It stays on sale, or off sale, as somebody put it in the shop. */
    leave: (visibility: 'draft' | 'live') => act(() => call('POST', `${own}/leave?${asked}`, { visibility })),
    check: () => act(() => call('POST', `${own}/check?${asked}`)),
    acceptFloor: (accept: boolean) => afterSaving(accept ? 'PUT' : 'DELETE', `${own}/floor-acceptance`),
  };
}
