import fc from 'fast-check';
import { BenchSession } from '@/bench/session';
import type { KeptSession, Newest, Transport } from '@/bench/session-types';
import type { ProductDocument } from '@/core/document/document';
import type { Operation } from '@/core/document/patch';
import { THREADS } from '@/core/embroidery/palette';
import { putEntry } from '@/core/own-entry';
import { addTag, dropTag, FakeTime, title } from './sessions';

/** The product as a server holds it, and the way there. */
export interface SharedProduct {
  readonly areaKey: string;
  readonly transport: Transport;
  newest(): Promise<Newest>;
  /** Every revision's patch and its way back, the oldest first. */
  revisions(): Promise<readonly { readonly patch: readonly Operation[]; readonly undo: readonly Operation[] }[]>;
}

export interface Verdict {
  readonly edits: number;
  readonly patches: number;
  readonly asked: number;
  /** Edits that are nowhere, though nobody took them away. */
  readonly lost: readonly string[];
  /** Titles that were written over by somebody who had not seen them. */
  readonly overwritten: readonly string[];
  /** Tabs that in the end show something else than the server holds. */
  readonly unlike: number;
}

type Event =
  | { readonly kind: 'tag' | 'title' | 'pin' | 'drop' | 'notice' | 'reload'; readonly tab: number }
  | { readonly kind: 'time'; readonly tab: number };

const event: fc.Arbitrary<Event> = fc.record({
  kind: fc.constantFrom('tag', 'title', 'pin', 'tag', 'title', 'time', 'time', 'drop', 'notice', 'reload' as const),
  tab: fc.integer({ min: 0, max: 2 }),
});

/** A history: what two or three tabs do one after the other, and which requests and answers are lost on the way. */
export interface History {
  readonly tabs: number;
  readonly events: readonly Event[];
  readonly losses: readonly number[];
}

export const histories = (count: number, seed: number): History[] =>
  fc.sample(
    fc.record({
      tabs: fc.constantFrom(2, 2, 3),
      events: fc.array(event, { minLength: 10, maxLength: 24, size: 'max' }),
      losses: fc.array(fc.integer({ min: 0, max: 99 }), { minLength: 400, maxLength: 400 }),
    }),
    { numRuns: count, seed },
  );

const pin =
  (areaKey: string, code: string) =>
  (d: ProductDocument): ProductDocument => {
    const area = d.areas[areaKey] ?? { layers: {} };
    const threads = area.threads ?? { pinned: {}, swaps: {} };
    const pinned = { ...threads.pinned, [code]: { order: 'a0' } };
    return { ...d, areas: { ...d.areas, [areaKey]: { ...area, threads: { ...threads, pinned } } } };
  };
const titleOf = (d: ProductDocument): string => d.words.base.title;

interface Tab {
  session: BenchSession;
  kept: KeptSession | null;
  /** A page that is gone keeps nothing any more. */
  live: boolean;
}

/** Tabs on one product, a way that loses requests and answers, and what each of them typed and had seen. */
class Play {
  private readonly time = new FakeTime();
  private readonly tabs: Tab[] = [];
  private lossy = true;
  private ids = 0;
  private patches = 0;
  private asked = 0;
  private edits = 0;
  private readonly added = new Set<string>();
  private readonly taken = new Set<string>();
  /** What whoever typed a title had seen before it, itself or by what it had typed over. */
  private readonly seen: Record<string, Set<string>> = {};

  constructor(
    private readonly shared: SharedProduct,
    private readonly losses: readonly number[],
  ) {}

  private readonly transport: Transport = {
    send: async (patch) => {
      this.patches += 1;
      const chance = this.lossy ? this.losses[this.patches % this.losses.length]! : 100;
      if (chance < 5) throw new Error('the request was lost');
      const result = await this.shared.transport.send(patch);
      if (chance < 10) throw new Error('the answer was lost');
      return result;
    },
    load: () => this.shared.transport.load(),
  };

  async open(kept: KeptSession | null): Promise<Tab> {
    const tab: Tab = { session: null as unknown as BenchSession, kept, live: true };
    tab.session = new BenchSession(this.transport, await this.shared.newest(), {
      now: () => this.time.ms,
      later: this.time.later,
      newId: () => `id-${(this.ids += 1)}-${Math.random().toString(36).slice(2, 8)}`,
      chance: () => 0.5,
      keep: (session) => {
        if (tab.live) tab.kept = structuredClone(session);
      },
    });
    if (kept) tab.session.restore(structuredClone(kept));
    return tab;
  }

  async begin(count: number): Promise<void> {
    for (let i = 0; i < count; i += 1) this.tabs.push(await this.open(null));
  }

  /** Takes this tab's side of a collision: it has seen the other's now. */
  private async choose(session: BenchSession): Promise<void> {
    const { collisions, document } = session.getState();
    this.asked += 1;
    for (const { path, theirs } of collisions)
      if (path === '/words/base/title') this.seen[titleOf(document)]?.add(String(theirs));
    await session.resolve('yours');
  }

  private async rest(): Promise<void> {
    await this.time.pass(700);
    for (const { session } of this.tabs) await session.flush();
  }

  async play(one: Event, n: number): Promise<void> {
    const at = one.tab % this.tabs.length;
    const tab = this.tabs[at]!;
    if (tab.session.getState().save === 'conflict') await this.choose(tab.session);
    else if (one.kind === 'time') await this.rest();
    else if (one.kind === 'notice') await tab.session.lookAgain();
    else if (one.kind === 'reload') {
      tab.live = false;
      void tab.session.close();
      this.tabs[at] = await this.open(tab.kept);
    } else this.type(tab.session, one.kind, n);
  }

  private type(session: BenchSession, kind: 'tag' | 'title' | 'pin' | 'drop', n: number): void {
    const { document } = session.getState();
    this.edits += 1;
    if (kind === 'tag') {
      this.added.add(`tag:t${n}`);
      session.edit(`Tag t${n}`, addTag(`t${n}`));
    } else if (kind === 'pin') {
      const { code } = THREADS[n % THREADS.length]!;
      this.added.add(`pin:${code}`);
      session.edit(`Pin ${code}`, pin(this.shared.areaKey, code));
    } else if (kind === 'title') {
      const before = titleOf(document);
      putEntry(this.seen, `T${n}`, new Set([before, ...(this.seen[before] ?? [])]));
      session.edit(`Title T${n}`, title(`T${n}`));
    } else {
      const [first] = Object.keys(document.words.base.tags);
      if (!first) return;
      this.taken.add(`tag:${first}`);
      session.edit('Drop', dropTag(first));
    }
  }

  /** The way is good again, and every tab comes to rest. */
  async end(): Promise<void> {
    this.lossy = false;
    for (let round = 0; round < 6; round += 1)
      for (const { session } of this.tabs) {
        session.again();
        await this.time.pass(31_000);
        await session.flush();
        if (session.getState().save === 'conflict') await this.choose(session);
        await session.lookAgain();
      }
  }

  async verdict(): Promise<Verdict> {
    const { document } = await this.shared.newest();
    const there = new Set([
      ...Object.keys(document.words.base.tags).map((id) => `tag:${id}`),
      ...Object.keys(document.areas[this.shared.areaKey]?.threads?.pinned ?? {}).map((code) => `pin:${code}`),
    ]);
    const overwritten = (await this.shared.revisions()).flatMap(({ patch, undo }) => {
      const [to, from] = [titlesIn(patch)[0], titlesIn(undo)[0]];
      return to !== undefined && from !== undefined && !this.seen[to]?.has(from) ? [`${from} by ${to}`] : [];
    });
    const { edits, patches, asked } = this;
    const shown = this.tabs.map(({ session }) => JSON.stringify(session.getState().document));
    return {
      edits,
      patches,
      asked,
      lost: [...this.added].filter((one) => !there.has(one) && !this.taken.has(one)),
      overwritten,
      unlike: shown.filter((one) => one !== JSON.stringify(document)).length,
    };
  }
}

const titlesIn = (operations: readonly Operation[]): string[] =>
  operations.flatMap((op) => (op.op === 'replace' && op.path === '/words/base/title' ? [String(op.value)] : []));

/** Plays a history against a server. Each tag, title and pin is named once, so that what became of each can be told. */
export async function playHistory({ tabs, events, losses }: History, shared: SharedProduct): Promise<Verdict> {
  const play = new Play(shared, losses);
  await play.begin(tabs);
  for (const [n, one] of events.entries()) await play.play(one, n);
  await play.end();
  return play.verdict();
}
