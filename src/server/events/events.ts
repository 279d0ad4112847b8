import type { Context } from '../context';
import type { Database } from '../db/pool';
import { log } from '../log';

/** Something that browsers of a workspace are told. `job`: a job's progress; `product`: a new revision; `listing`: a listing moved; `artwork`: ingested; `picture`: a picture of a product was made. */
export type EventTopic =
  | 'job'
  | 'product'
  | 'listing'
  | 'artwork'
  | 'store'
  | 'catalog'
  | 'finding'
  | 'picture'
  | 'money'
  // Not told to browsers: a session or token ended, and the streams under it with it.
  | 'ended';

export interface WorkspaceEvent {
  readonly id: number;
  readonly workspaceId: string;
  readonly topic: EventTopic;
  readonly payload: unknown;
}

/** Writes an event; inside a transaction it is seen when that commits. */
export async function emit(db: Database, workspaceId: string, topic: EventTopic, payload: object): Promise<void> {
  await db.run('INSERT INTO event (workspace_id, topic, payload) VALUES (?, ?, ?)', [
    workspaceId,
    topic,
    JSON.stringify(payload),
  ]);
}

/** Tells all processes that a session or a token has ended. */
export const emitEnded = (db: Database, workspaceId: string, credentialId: string): Promise<void> =>
  emit(db, workspaceId, 'ended', { credentialId });

type Listener = (event: WorkspaceEvent) => void;

/** How far back a returning browser can catch up; ids can also become visible a little out of order, so the reader overlaps. */
const OVERLAP = 50;
const POLL_MS = 250;
const RETRY_MS = 2000;

/**
 * One reader of the event table for all browsers of this process. It polls while someone listens. Auto-increment ids of transactions
 * that commit late can appear behind newer ones, so each poll reads an overlap and skips what it has given out.
 */
export class EventReader {
  private readonly listeners = new Map<Listener, string>();
  private last = 0;
  private readonly seen = new Set<number>();
  private timer: NodeJS.Timeout | null = null;
  private starting = false;

  constructor(private readonly ctx: Context) {}

  listen(workspaceId: string, listener: Listener): () => void {
    this.listeners.set(listener, workspaceId);
    if (!this.timer) this.begin();
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size === 0 && this.timer) {
        clearInterval(this.timer);
        this.timer = null;
      }
    };
  }

  /** Starts to read; where the database does not answer, again in a while: whoever listens must not wait for ever. */
  private begin() {
    this.start().catch((error: unknown) => {
      log.warn({ err: error }, 'events cannot be read yet');
      setTimeout(() => {
        if (!this.timer && this.listeners.size > 0) this.begin();
      }, RETRY_MS).unref();
    });
  }

  private async start() {
    if (this.starting) return;
    this.starting = true;
    try {
      const newest = await this.ctx.db.row<{ id: number | null }>('SELECT MAX(id) AS id FROM event');
      this.last = newest?.id ?? 0;
      this.seen.clear();
      for (let id = this.last - OVERLAP; id <= this.last; id += 1) this.seen.add(id);
      if (this.listeners.size > 0) this.timer = setInterval(() => void this.poll().catch(this.noteFailure), POLL_MS);
    } finally {
      this.starting = false;
    }
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
      const events = await this.ctx.db.rows<WorkspaceEvent>(
        'SELECT id, workspace_id AS workspaceId, topic, payload FROM event WHERE id > ? ORDER BY id LIMIT 500',
        [Math.max(0, this.last - OVERLAP)],
      );
      for (const event of events) {
        if (this.seen.has(event.id)) continue;
        this.seen.add(event.id);
        this.last = Math.max(this.last, event.id);
        for (const [listener, workspaceId] of this.listeners) if (workspaceId === event.workspaceId) listener(event);
      }
      for (const id of this.seen) if (id < this.last - 4 * OVERLAP) this.seen.delete(id);
    } finally {
      this.polling = false;
    }
  }
}

export async function dropOldEvents(ctx: Context): Promise<void> {
  await ctx.db.run('DELETE FROM event WHERE created_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY LIMIT 10000');
}
