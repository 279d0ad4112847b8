'use client';

import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { WorkerAsker } from '@/bench/worker-asker';
import type { Finding } from '@/core/findings/finding';
import type { SetText } from '@/core/lettering/layout';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { toast } from '@/ui/toast';
import { useDesk } from '../desk';
import type { FindingsQuestion, FindingsShared, ForeseenFinding } from './findings.worker';

type Asker = WorkerAsker<FindingsQuestion, FindingsShared, readonly ForeseenFinding[]>;

const startWorker = () => new Worker(new URL('./findings.worker.ts', import.meta.url), { type: 'module' });

/** Outlines are large and no check looks at them. */
const withoutPaths = (letterings: { readonly [layerId: string]: SetText }) =>
  Object.fromEntries(Object.entries(letterings).map(([id, { inks: _inks, ...looked }]) => [id, looked]));

/** Keeps what the checks say of the design, found in a worker: one question at a time, and of those that came meanwhile only the last. */
export function useFindings(): void {
  const { designed, data, checkedSizes, letterings, tell } = useDesk(
    'designed',
    'data',
    'checkedSizes',
    'letterings',
    'tell',
  );
  const { blank } = data;
  const shared = useMemo(
    (): FindingsShared => ({ blank, artworks: checkedSizes, letterings: withoutPaths(letterings) }),
    [blank, checkedSizes, letterings],
  );
  const asker = useRef<Asker | null>(null);
  useEffect(() => () => asker.current?.close(), []);
  const wanted = useRef({ doc: designed, shared, version: 0, busy: false });
  useEffect(() => {
    const now = wanted.current;
    Object.assign(now, { doc: designed, shared, version: now.version + 1 });
    if (now.busy) return;
    now.busy = true;
    void (async () => {
      for (let done = 0; done !== now.version;) {
        done = now.version;
        asker.current ??= new WorkerAsker(startWorker);
        const found = await asker.current.ask({ doc: now.doc }, now.shared).catch((error: Error) => error);
        if (found instanceof Error) toast.error(`The design could not be checked here: ${found.message}`);
        else tell({ findings: found });
      }
      now.busy = false;
    })();
  }, [designed, shared, tell]);
}

interface Accepted {
  readonly by: string;
  readonly at: string;
}

/** An acceptance holds for its own words: when the numbers change it is another finding. */
const keyOf = ({ id, says }: Finding): string => `${id} ${says}`;

/** Who accepted which warnings of the product, and how that is done and taken back. */
export function useAcceptances() {
  const { data } = useDesk('data');
  const path = `/products/${data.product.id}/findings`;
  const client = queries();
  const queryKey = useMemo(() => ['finding', data.product.id], [data.product.id]);
  const { data: accepted } = useQuery(
    {
      queryKey,
      queryFn: () => call<{ findings: (Finding & { accepted: Accepted | null })[] }>('GET', path),
      select: ({ findings }) =>
        new Map(findings.flatMap((one) => (one.accepted ? [[keyOf(one), one.accepted] as const] : []))),
    },
    queries(),
  );
  return useMemo(
    () => ({
      of: (finding: Finding) => accepted?.get(keyOf(finding)) ?? null,
      async set(finding: Finding, accept: boolean) {
        await call(accept ? 'PUT' : 'DELETE', `${path}/${encodeURIComponent(finding.id)}/acceptance`);
        await client.invalidateQueries({ queryKey });
      },
    }),
    [accepted, client, queryKey, path],
  );
}
