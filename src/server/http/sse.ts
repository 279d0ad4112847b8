import type { Context } from '../context';
import { EventReader } from '../events/events';

const holder = globalThis as { typicaStreams?: Set<() => void>; typicaReader?: EventReader };

/** Open streams of this process: a server that still has one open ignores SIGTERM, so they are closed first (instrumentation.ts). */
export const openStreams = (): Set<() => void> => (holder.typicaStreams ??= new Set());

/** Server-sent events of a workspace, until the browser goes away. A comment every 20 s keeps what lies between from closing it. */
export function eventStream(ctx: Context, workspaceId: string, signal: AbortSignal): Response {
  const reader = (holder.typicaReader ??= new EventReader(ctx));
  const text = new TextEncoder();
  let close = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (chunk: string) => {
        try {
          controller.enqueue(text.encode(chunk));
        } catch {
          close();
        }
      };
      const stop = reader.listen(workspaceId, (event) =>
        write(`id: ${event.id}\nevent: ${event.topic}\ndata: ${JSON.stringify(event.payload)}\n\n`),
      );
      const beat = setInterval(() => write(': here\n\n'), 20_000);
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
      openStreams().add(close);
      signal.addEventListener('abort', close);
      write('retry: 2000\n\n');
    },
    cancel: () => close(),
  });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' },
  });
}
