import { invalid, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { EventReader, eventsMissed, type WorkspaceEvent } from '../events/events';
import { log } from '../log';
import type { Credential } from '../people/people';

const holder = globalThis as { typicaStreams?: Map<() => void, string>; typicaReader?: EventReader };

/** Open streams of this process, each with its workspace: a server that still has one open ignores SIGTERM, so they are closed first (instrumentation.ts). */
export const openStreams = (): Map<() => void, string> => (holder.typicaStreams ??= new Map());

/** Most that one process holds open, for all workspaces. */
const MAX_STREAMS = 5000;
/** Events that may wait for a browser that does not read; it is cut off then and comes again. More than are told as missed. */
const MAX_UNREAD = 1000;
const BEAT_MS = 20_000;

function refuseTooMany(ctx: Context, workspaceId: string): void {
  const streams = openStreams();
  const own = [...streams.values()].filter((one) => one === workspaceId).length;
  if (own >= ctx.config.quotas.streams)
    throw new TypicaError(
      'too-many',
      'quota-streams',
      `This workspace has ${own} event streams open, the most it may; close one first.`,
      { quota: 'streams', most: ctx.config.quotas.streams },
    );
  if (streams.size >= MAX_STREAMS)
    throw new TypicaError('unavailable', 'streams-full', 'Too many event streams are open just now; try again later.');
}

const isEndOf = (event: WorkspaceEvent, credential: Credential): boolean =>
  (event.payload as { credentialId?: string }).credentialId === credential.id;

/** The id of the event that a browser saw last: its own header when it comes back by itself, else as the page asks (`?after=`). Null: from now on. */
export function readAfter(request: Request, query: URLSearchParams): number | null {
  const text = request.headers.get('last-event-id') || query.get('after');
  if (text === null || text === '') return null;
  if (!/^\d{1,15}$/.test(text)) throw invalid('after-wrong', 'after must be the id of an event, a whole number.');
  return Number(text);
}

const told = ({ id, topic, payload }: WorkspaceEvent): string =>
  `id: ${id}\nevent: ${topic}\ndata: ${JSON.stringify(payload)}\n\n`;

/**
 * Server-sent events of a workspace, until the browser goes away, or the session or token under which it was opened ends. With `after`, what came
 * after that event is told first, or `reset` where that is no longer known. A comment every 20 s keeps what lies between from closing it. Throws
 * `quota-streams`.
 */
export function eventStream(
  ctx: Context,
  workspaceId: string,
  credential: Credential,
  signal: AbortSignal,
  after: number | null = null,
): Response {
  refuseTooMany(ctx, workspaceId);
  const reader = (holder.typicaReader ??= new EventReader(ctx));
  const text = new TextEncoder();
  let close = () => {};
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const write = (chunk: string) => {
          if ((controller.desiredSize ?? 0) <= 0) return close();
          try {
            controller.enqueue(text.encode(chunk));
          } catch {
            close();
          }
        };
        // What comes while the missed ones are read waits for them.
        let held: WorkspaceEvent[] | null = after === null ? null : [];
        const { stop, ready } = reader.listen(workspaceId, (event) => {
          if (event.topic !== 'ended') return held ? void held.push(event) : write(told(event));
          if (isEndOf(event, credential)) close();
        });
        const catchUp = async (from: number) => {
          await ready;
          const missed = await eventsMissed(ctx, workspaceId, from);
          if (missed) missed.forEach((event) => write(told(event)));
          else write('event: reset\ndata: {}\n\n');
          const known = new Set(missed?.map(({ id }) => id));
          for (const event of held ?? []) if (!known.has(event.id)) write(told(event));
          held = null;
        };
        const beat = setInterval(() => {
          if (credential.expiresAt <= ctx.clock.now()) close();
          else write(': here\n\n');
        }, BEAT_MS);
        close = () => {
          clearInterval(beat);
          stop();
          openStreams().delete(close);
          try {
            controller.close();
          } catch {
            // closed by the other side already
          }
        };
        openStreams().set(close, workspaceId);
        signal.addEventListener('abort', close);
        if (signal.aborted) close();
        else {
          write('retry: 2000\n\n');
          if (after !== null)
            catchUp(after).catch((error: unknown) => {
              log.warn({ err: error }, 'missed events could not be read');
              close();
            });
        }
      },
      cancel: () => close(),
    },
    new CountQueuingStrategy({ highWaterMark: MAX_UNREAD }),
  );
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' },
  });
}
