import type { LoadResult, SendResult, SessionMeans, Transport } from '@/bench/session-types';
import { BenchSession } from '@/bench/session';
import type { KeptSession } from '@/bench/session-types';
import { checkDocument } from '@/core/document/check';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { mergeDocuments } from '@/core/document/merge';
import { applyPatch, type Operation } from '@/core/document/patch';

/** What the way to the server does with one request. */
export type Fault = 'none' | 'request lost' | 'answer lost' | 'busy' | 'signed out' | 'too old';

/** A server in memory with the rules of the real one: a patch is laid over what was changed since, once, or refused. */
export class ProductServer {
  readonly documents: ProductDocument[] = [newDocument('b1', 'GBP', 'Tide')];
  private readonly keys = new Set<string>();
  /** What the server cannot take. */
  refuses = (document: ProductDocument): string | null =>
    checkDocument(document).length > 0 ? 'The product would be invalid.' : null;

  get document(): ProductDocument {
    return this.documents.at(-1)!;
  }
  get revision(): number {
    return this.documents.length;
  }

  patch(revision: number, operations: readonly Operation[], key: string): SendResult {
    if (this.keys.has(key)) return { kind: 'saved', revision: this.revision, document: this.document };
    const base = this.documents[revision - 1]!;
    let yours: ProductDocument;
    try {
      yours = applyPatch(base, operations);
    } catch (error) {
      return { kind: 'refused', message: (error as Error).message };
    }
    const { document, conflicts } = mergeDocuments(base, this.document, yours);
    if (conflicts.length > 0) return { kind: 'stale', by: 'Tom' };
    const why = this.refuses(document);
    if (why !== null) return { kind: 'refused', message: why };
    if (JSON.stringify(document) !== JSON.stringify(this.document)) {
      this.documents.push(document);
      this.keys.add(key);
    }
    return { kind: 'saved', revision: this.revision, document: this.document };
  }

  transport(fault: () => Fault = () => 'none'): Transport {
    const hindrance = (kind: Fault) =>
      kind === 'busy'
        ? ({ kind: 'offline', retryAfterMs: 5000 } as const)
        : kind === 'signed out'
          ? ({ kind: 'signed-out' } as const)
          : null;
    return {
      send: async ({ revision, operations, key }): Promise<SendResult> => {
        const kind = fault();
        if (kind === 'request lost') throw new Error('lost');
        if (kind === 'too old') return { kind: 'stale', by: null };
        const hindered = hindrance(kind);
        if (hindered) return hindered;
        const result = this.patch(revision, structuredClone(operations), key);
        if (kind === 'answer lost') throw new Error('lost');
        return structuredClone(result);
      },
      load: async (): Promise<LoadResult> => {
        const kind = fault();
        if (kind === 'request lost' || kind === 'answer lost') throw new Error('lost');
        return hindrance(kind) ?? { kind: 'loaded', revision: this.revision, document: structuredClone(this.document) };
      },
    };
  }
}

/** Time that passes when it is told to, and what waits for it. */
export class FakeTime {
  ms = 0;
  private readonly waiting = new Set<{ at: number; act: () => void }>();

  later = (ms: number, act: () => void): (() => void) => {
    const one = { at: this.ms + ms, act };
    this.waiting.add(one);
    return () => void this.waiting.delete(one);
  };

  /** When the next thing is due. */
  get next(): number | null {
    return this.waiting.size === 0 ? null : Math.min(...[...this.waiting].map(({ at }) => at));
  }

  async pass(ms: number): Promise<void> {
    const until = this.ms + ms;
    for (;;) {
      const due = [...this.waiting].filter(({ at }) => at <= until).toSorted((a, b) => a.at - b.at)[0];
      if (!due) break;
      this.ms = Math.max(this.ms, due.at);
      this.waiting.delete(due);
      due.act();
      await settle();
    }
    this.ms = until;
    await settle();
  }
}

/** Lets everything go on that waits for nothing but its turn. */
export async function settle(): Promise<void> {
  for (let i = 0; i < 40; i += 1) await Promise.resolve();
}

/** A browser tab: its session can be reloaded, and what it kept is then there. */
export class Tab {
  session: BenchSession;
  private kept: string | null = null;
  private ids = 0;

  constructor(
    private readonly server: ProductServer,
    private readonly transport: Transport,
    private readonly time: FakeTime,
    private readonly name = 'tab',
  ) {
    this.session = this.open();
  }

  private open(): BenchSession {
    const means: SessionMeans = {
      now: () => this.time.ms,
      later: this.time.later,
      newId: () => `${this.name}-${(this.ids += 1)}`,
      chance: () => 0.5,
      // As the browser keeps it: a copy.
      keep: (session) => (this.kept = JSON.stringify(session)),
    };
    const start = { revision: this.server.revision, document: structuredClone(this.server.document) };
    return new BenchSession(this.transport, start, means);
  }

  get stored(): KeptSession | null {
    return this.kept === null ? null : (JSON.parse(this.kept) as KeptSession);
  }

  get state() {
    return this.session.getState();
  }

  /** Loads the page anew, as after closing the tab or a crash: nothing but what is kept is left. */
  reload(): void {
    const { stored } = this;
    // The page that is gone must not go on.
    const gone = this.session as unknown as { means: SessionMeans; closed: boolean; callOff: (() => void) | null };
    gone.callOff?.();
    gone.closed = true;
    gone.means = { ...gone.means, keep: () => {} };
    this.session = this.open();
    if (stored) this.session.restore(stored);
  }
}

type Change = (document: ProductDocument) => ProductDocument;

const words =
  (part: (words: ProductDocument['words']['base']) => Partial<ProductDocument['words']['base']>): Change =>
  (d) => ({ ...d, words: { ...d.words, base: { ...d.words.base, ...part(d.words.base) } } });

export const title = (text: string): Change => words(() => ({ title: text }));
export const story = (text: string): Change => words(() => ({ description: text }));
export const addTag = (id: string, text = id): Change =>
  words(({ tags }) => ({ tags: { ...tags, [id]: { text, order: 'a0' } } }));
export const dropTag = (id: string): Change => words(({ tags: { [id]: _gone, ...tags } }) => ({ tags }));
