'use client';

import { useEffect, useRef } from 'react';
import { TOPICS } from '@/core/topics';
import { call } from './api';
import { onSignedIn } from './signed-out';

/** `reset`: events may have been missed, and everything that is shown is to be read anew. */
type Handler = (topic: string, payload: Record<string, unknown>) => void;
interface Told {
  readonly topic: string;
  readonly payload: Record<string, unknown>;
  /** Absent for what the server does not number. */
  readonly id?: number;
}
type Message = Told | { readonly tellAfter: number };

const CHANNEL = 'typica-events';
const LOCK = 'typica-event-stream';
/** Events that the tab which reads the stream can tell once more to one that has just opened. */
const MAX_REMEMBERED = 300;
const FIRST_RETRY_MS = 1000;
const LAST_RETRY_MS = 30_000;

const handlers = new Set<Handler>();

/**
 * One event stream for all tabs: a browser opens only six connections to a server, and a stream takes one. The tab that holds a lock reads
 * the stream and passes events on to the others; when it goes, another takes the lock and goes on after the event that it saw last.
 */
class Stream {
  private readonly channel = new BroadcastChannel(CHANNEL);
  /** What was told lately, so that nothing is told twice. */
  private readonly recent: Told[] = [];
  private readonly seen = new Set<number>();
  private tries = 0;

  constructor(private last: number) {
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if ('tellAfter' in data) this.tellOnceMore(data.tellAfter);
      else this.tell(data);
    };
    // What another tab's stream told between the making of this page and now.
    this.channel.postMessage({ tellAfter: last } satisfies Message);
    void navigator.locks.request(LOCK, () => {
      this.read();
      // Held until the tab closes.
      return new Promise(() => {});
    });
  }

  private tellOnceMore(after: number): void {
    for (const told of this.recent) if (told.id !== undefined && told.id > after) this.channel.postMessage(told);
  }

  private tell(told: Told): void {
    if (told.id !== undefined) {
      if (this.seen.has(told.id)) return;
      this.seen.add(told.id);
      this.last = Math.max(this.last, told.id);
      this.recent.push(told);
      if (this.recent.length > MAX_REMEMBERED) this.seen.delete(this.recent.shift()!.id!);
    }
    for (const handler of handlers) handler(told.topic, told.payload);
  }

  private read(): void {
    const source = new EventSource(`/api/v1/events?after=${this.last}`);
    for (const topic of [...TOPICS, 'reset']) {
      source.addEventListener(topic, (e) => {
        const { data, lastEventId } = e as MessageEvent<string>;
        const payload = JSON.parse(data) as Record<string, unknown>;
        const told =
          topic !== 'reset' && lastEventId ? { topic, payload, id: Number(lastEventId) } : { topic, payload };
        this.tell(told);
        this.channel.postMessage(told);
      });
    }
    source.onopen = () => (this.tries = 0);
    // A connection that broke is opened again by the browser, with the last id. One that was refused is ours to open again.
    source.onerror = () => source.readyState === EventSource.CLOSED && this.readAgain();
  }

  private readAgain(): void {
    const wait = Math.min(LAST_RETRY_MS, FIRST_RETRY_MS * 2 ** this.tries);
    this.tries += 1;
    let begun = false;
    const begin = () => {
      if (begun) return;
      begun = true;
      clearTimeout(timer);
      quiet();
      this.read();
    };
    const timer = setTimeout(() => {
      // Whether it was refused because the session has ended: then one is asked to sign in again.
      void call('GET', '/me').then(begin, begin);
    }, wait);
    const quiet = onSignedIn(begin);
  }
}

let stream: Stream | null = null;

/** Begins to listen, once for a page. `after`: the newest event when the page was made. */
export function startEvents(after: number): void {
  stream ??= new Stream(after);
}

/** Calls `handler` for each event of the workspace until what it gives is called. */
export function onEvent(handler: Handler): () => void {
  handlers.add(handler);
  return () => void handlers.delete(handler);
}

/** Calls `handler` for each event of the workspace while the component is shown. */
export function useEvents(handler: Handler): void {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  useEffect(() => onEvent((topic, payload) => latest.current(topic, payload)), []);
}
