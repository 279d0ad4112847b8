'use client';

import { useEffect, useRef } from 'react';

type Handler = (topic: string, payload: Record<string, unknown>) => void;
const TOPICS = ['job', 'product', 'listing', 'artwork', 'store', 'catalog', 'finding', 'picture', 'money'];

const CHANNEL = 'typica-events';
const LOCK = 'typica-event-stream';

let started = false;
const local = new Set<Handler>();

/**
 * One event stream for all tabs: a browser opens only six connections to a server, and a stream takes one. The tab that holds a lock reads
 * the stream and passes events on to the others; when it goes, another takes the lock.
 */
function start(): void {
  if (started) return;
  started = true;
  const channel = new BroadcastChannel(CHANNEL);
  const tell: Handler = (topic, payload) => local.forEach((handler) => handler(topic, payload));
  channel.onmessage = (e: MessageEvent<{ topic: string; payload: Record<string, unknown> }>) =>
    tell(e.data.topic, e.data.payload);
  void navigator.locks.request(LOCK, () => {
    const source = new EventSource('/api/v1/events');
    for (const topic of TOPICS) {
      source.addEventListener(topic, (e) => {
        const payload = JSON.parse((e as MessageEvent<string>).data) as Record<string, unknown>;
        tell(topic, payload);
        channel.postMessage({ topic, payload });
      });
    }
    // Held until the tab closes.
    return new Promise(() => {});
  });
}

/** Calls `handler` for each event of the workspace while the component is shown. */
export function useEvents(handler: Handler): void {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  useEffect(() => {
    start();
    const mine: Handler = (topic, payload) => latest.current(topic, payload);
    local.add(mine);
    return () => void local.delete(mine);
  }, []);
}
