import { setTimeout as delay } from 'node:timers/promises';
import type { Topic } from '@/core/topics';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { log } from '../log';
import { markDue } from './due';

/** What is written down: what browsers are told of, and that a session or token `ended`, with the streams under it. */
export type EventTopic = Topic | 'ended';

export interface WorkspaceEvent {
  readonly id: number;
  readonly workspaceId: string;
  readonly topic: EventTopic;
  readonly payload: unknown;
}

/** Writes events of something that changes no product's outcome in a store; inside a transaction they are seen when that commits. */
export const tellAll = (
  db: Database,
  workspaceId: string,
  topic: EventTopic,
  payloads: readonly object[],
): Promise<void> =>
  db.insertMany(
    'event',
    ['workspace_id', 'topic', 'payload'],
    payloads.map((payload) => [workspaceId, topic, JSON.stringify(payload)]),
  );

/** `tellAll` of one event. */
export const tell = (db: Database, workspaceId: string, topic: EventTopic, payload: object): Promise<void> =>
  tellAll(db, workspaceId, topic, [payload]);

/** Writes an event, and marks the products that it concerns to be judged anew. */
export async function emit(db: Database, workspaceId: string, topic: EventTopic, payload: object): Promise<void> {
  await tell(db, workspaceId, topic, payload);
  await markDue(db, workspaceId, topic, payload);
}

/** Tells all processes that a session or a token has ended. */
export const emitEnded = (db: Database, workspaceId: string, credentialId: string): Promise<void> =>
  emit(db, workspaceId, 'ended', { credentialId });

/** The newest id there is: a page that is made now has seen everything up to it. */
export async function newestEvent(ctx: Context): Promise<number> {
  const row = await ctx.db.row<{ id: number | null }>('SELECT MAX(id) AS id FROM event');
  return Number(row?.id ?? 0);
}

/** Most that is told to a browser that comes back; one that missed more reads everything anew. */
const MAX_MISSED = 500;
/** Ids are given when an event is written and seen when that commits: later ones can be there first, for as long as this. */
const LATE_SECONDS = 120;
const LATE_IDS = 1000;

/**
 * What a browser missed that has seen events up to `after`, oldest first: also what became visible late beside it, which the browser may have
 * already. Null when it cannot be told: too much, or too long ago.
 */
export async function eventsMissed(ctx: Context, workspaceId: string, after: number): Promise<WorkspaceEvent[] | null> {
  const bounds = await ctx.db.row<{ oldest: number | null; newest: number | null }>(
    'SELECT MIN(id) AS oldest, MAX(id) AS newest FROM event',
  );
  const [oldest, newest] = [Number(bounds?.oldest ?? 0), Number(bounds?.newest ?? 0)];
  // A database that was brought back from a copy begins to count at an older id.
  if (after < oldest - 1 || after > newest) return after === 0 && newest === 0 ? [] : null;
  const events = await ctx.db.rows<WorkspaceEvent>(
    `SELECT id, workspace_id AS workspaceId, topic, payload FROM event WHERE workspace_id = ? AND topic <> 'ended' AND (id > ?
       OR (id > ? AND created_at > UTC_TIMESTAMP(3) - INTERVAL ? SECOND)) ORDER BY id LIMIT ?`,
    [workspaceId, after, after - LATE_IDS, LATE_SECONDS, MAX_MISSED + 1],
  );
  return events.length > MAX_MISSED ? null : events;
}

type Listener = (event: WorkspaceEvent) => void;

const POLL_MS = 250;
const RETRY_MS = 2000;
const MAX_GAPS = 1000;

/**
 * One reader of the event table for all browsers of this process. It polls while someone listens. Ids of transactions that commit late appear
 * behind newer ones: every id that was passed over is looked for until it is there or its transaction must have ended.
 */
export class EventReader {
  private readonly listeners = new Map<Listener, string>();
  private last = 0;
  /** Ids that were passed over, and until when they are looked for. */
  private readonly gaps = new Map<number, number>();
  private timer: NodeJS.Timeout | null = null;
  private started: Promise<void> | null = null;

  constructor(private readonly ctx: Context) {}

  /** `ready` settles when everything that is written from then on reaches the listener. */
  listen(workspaceId: string, listener: Listener): { readonly ready: Promise<void>; stop(): void } {
    this.listeners.set(listener, workspaceId);
    this.started ??= this.start();
    return {
      ready: this.started,
      stop: () => {
        this.listeners.delete(listener);
        if (this.listeners.size === 0) this.end();
      },
    };
  }

  private end(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    this.started = null;
  }

  /** Starts to read; where the database does not answer, again in a while: whoever listens must not wait for ever. */
  private async start(): Promise<void> {
    for (;;) {
      try {
        await this.findStart();
        break;
      } catch (error) {
        log.warn({ err: error }, 'events cannot be read yet');
        await delay(RETRY_MS, undefined, { ref: false });
      }
    }
    if (this.listeners.size > 0 && !this.timer)
      this.timer = setInterval(() => void this.poll().catch(this.noteFailure), POLL_MS);
  }

  private async findStart(): Promise<void> {
    const newest = await this.ctx.db.rows<{ id: number }>('SELECT id FROM event ORDER BY id DESC LIMIT ?', [LATE_IDS]);
    this.gaps.clear();
    this.last = Number(newest.at(-1)?.id ?? 1) - 1;
    for (const { id } of newest.toReversed()) this.pass(Number(id));
  }

  /** Goes on to an id; what lies between is looked for. */
  private pass(id: number): void {
    const until = Date.now() + LATE_SECONDS * 1000;
    for (let gap = Math.max(this.last + 1, id - MAX_GAPS); gap < id; gap += 1) this.gaps.set(gap, until);
    this.last = id;
  }

  private failures = 0;
  /** The next poll comes soon: what fails is logged once at first, then every minute or so. */
  private readonly noteFailure = (error: unknown) => {
    if (this.failures % 240 === 0) log.warn({ err: error }, 'events could not be read');
    this.failures += 1;
  };

  private polling = false;

  private async poll() {
    if (this.polling) return;
    this.polling = true;
    try {
      const late = [...this.gaps.keys()].slice(-MAX_GAPS);
      const events = await this.ctx.db.rows<WorkspaceEvent>(
        `SELECT id, workspace_id AS workspaceId, topic, payload FROM event
         WHERE id > ? ${late.length > 0 ? `OR id IN (${late.join(',')})` : ''} ORDER BY id LIMIT 500`,
        [this.last],
      );
      for (const event of events) {
        if (!this.gaps.delete(Number(event.id))) this.pass(Number(event.id));
        for (const [listener, workspaceId] of this.listeners) if (workspaceId === event.workspaceId) listener(event);
      }
      const now = Date.now();
      for (const [id, until] of this.gaps) if (until < now) this.gaps.delete(id);
    } finally {
      this.polling = false;
    }
  }
}
