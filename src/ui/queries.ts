import { QueryClient, type Query } from '@tanstack/react-query';
import { Problem } from './api';
import { onEvent } from './events';

/** Events come in bursts, as work goes on: what they made stale is read anew no more often than this. */
const GATHER_MS = 200;

type Payload = Record<string, unknown>;
type Told = readonly [topic: string, about: Payload];

/** What an event is about, where its topic is of one thing. */
const subjectOf = (topic: string, { jobId, artworkId, productId }: Payload): unknown =>
  (topic === 'job' ? jobId : topic === 'artwork' ? artworkId : productId) ?? null;

/**
 * Whether an event makes what was read stale. A key begins with the topic that tells of it and, where it is of one thing, that thing's id;
 * other topics that matter to it stand in `meta.topics`.
 */
export function isStaleBy(
  topic: string,
  payload: Payload,
  { queryKey, meta }: Pick<Query, 'queryKey' | 'meta'>,
): boolean {
  if (topic === 'reset') return true;
  if ((meta?.topics as readonly string[] | undefined)?.includes(topic)) return true;
  if (queryKey[0] !== topic) return false;
  const subject = subjectOf(topic, payload);
  // What is gone cannot be read anew; if it comes back, that is told.
  if (payload.state === 'deleted' && queryKey[1] === subject) return false;
  return subject === null || typeof queryKey[1] !== 'string' || queryKey[1] === subject;
}

/** Whether what was told, in this order, makes what was read stale; what is gone at the end of it is not read for what came before. */
export function isStaleByAny(told: readonly Told[], query: Pick<Query, 'queryKey' | 'meta'>): boolean {
  const last = told.findLast(
    ([topic, about]) => topic === query.queryKey[0] && subjectOf(topic, about) === query.queryKey[1],
  );
  if (last?.[1].state === 'deleted') return false;
  return told.some(([topic, about]) => isStaleBy(topic, about, query));
}

/** Has read anew what events make stale. */
function listen(client: QueryClient): void {
  let gathered: Told[] = [];
  onEvent((topic, payload) => {
    gathered.push([topic, payload]);
    if (gathered.length > 1) return;
    setTimeout(() => {
      const told = gathered;
      gathered = [];
      void client.invalidateQueries({ predicate: (query) => isStaleByAny(told, query) });
    }, GATHER_MS);
  });
}

/** What the server refuses it refuses again; what did not answer is asked twice more. */
const again = (failures: number, error: Error): boolean =>
  failures < 2 && !(error instanceof Problem && error.status >= 400 && error.status < 500);

const made = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: { staleTime: Infinity, refetchOnWindowFocus: false, networkMode: 'always', retry: again },
      mutations: { networkMode: 'always' },
    },
  });

let shared: QueryClient | null = null;

/**
 * What the server knows, read once and kept until an event tells that it has changed: one for the page, given to each `useQuery`. It comes
 * with the first part that reads something, so that a page is there before it. On the server each drawing has its own: nothing of one person
 * is kept for another.
 */
export function queries(): QueryClient {
  if (typeof window === 'undefined') return made();
  if (!shared) {
    shared = made();
    listen(shared);
  }
  return shared;
}
