import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { KeptSession } from './session-types';

/** A session as it lies in the browser: whose, of which product, and when it last changed. */
export interface KeptRecord {
  readonly id: string;
  readonly personId: string;
  readonly productId: string;
  readonly at: number;
  readonly session: KeptSession;
}

interface Schema extends DBSchema {
  sessions: { key: string; value: KeptRecord; indexes: { person: string } };
}

const DATABASE = 'typica';
/** How long undo outlives a page that left nothing unsent, ms. */
const UNDO_FOR_MS = 7 * 24 * 3_600_000;

/** The lock that the tab holds in which a session is open. */
export const sessionLock = (id: string): string => `typica-session-${id}`;

export const isUnsent = ({ batch, pending }: KeptSession): boolean => batch !== null || pending.length > 0;

/** Sessions in IndexedDB, one for each tab and product. */
export class KeptSessions {
  private constructor(private readonly db: IDBPDatabase<Schema>) {}

  static async open(): Promise<KeptSessions> {
    return new KeptSessions(
      await openDB<Schema>(DATABASE, 1, {
        upgrade: (db) => void db.createObjectStore('sessions', { keyPath: 'id' }).createIndex('person', 'personId'),
      }),
    );
  }

  async put(record: KeptRecord): Promise<void> {
    await this.db.put('sessions', record);
  }

  async get(id: string): Promise<KeptRecord | undefined> {
    return this.db.get('sessions', id);
  }

  async drop(id: string): Promise<void> {
    await this.db.delete('sessions', id);
  }

  /** What a person left, the oldest first. */
  async of(personId: string): Promise<KeptRecord[]> {
    const all = await this.db.getAllFromIndex('sessions', 'person', personId);
    return all.toSorted((a, b) => a.at - b.at);
  }

  /** Forgets sessions with nothing unsent that were left long ago. */
  forgetOld(now: number): Promise<void> {
    return this.forget(({ at }) => at < now - UNDO_FOR_MS);
  }

  /** Forgets whatever is saved: who signs out leaves nothing in the browser but what would be lost. */
  forgetSaved(): Promise<void> {
    return this.forget(() => true);
  }

  private async forget(which: (record: KeptRecord) => boolean): Promise<void> {
    for (const record of await this.db.getAll('sessions'))
      if (!isUnsent(record.session) && which(record)) await this.drop(record.id);
  }

  close(): void {
    this.db.close();
  }
}

/** Forgets in this browser whatever is saved on the server. */
export async function forgetSaved(): Promise<void> {
  const sessions = await KeptSessions.open();
  await sessions.forgetSaved();
  sessions.close();
}

/**
 * Writes a session down as it changes. While one write runs, only the newest of what comes meanwhile is kept for the next. `failed` is called
 * once when nothing can be kept here.
 */
export class Keeper {
  private next: KeptSession | null = null;
  private writing: Promise<void> | null = null;

  constructor(
    private readonly sessions: KeptSessions,
    private readonly of: Omit<KeptRecord, 'at' | 'session'>,
    private readonly now: () => number,
    private readonly failed: (error: unknown) => void,
  ) {}

  keep(session: KeptSession): void {
    this.next = session;
    this.writing ??= this.write().finally(() => (this.writing = null));
  }

  /** Settles when what was given last is written. */
  async settled(): Promise<void> {
    await this.writing;
  }

  private async write(): Promise<void> {
    while (this.next) {
      const session = this.next;
      this.next = null;
      try {
        await this.sessions.put({ ...this.of, at: this.now(), session });
      } catch (error) {
        this.failed(error);
      }
    }
  }
}
