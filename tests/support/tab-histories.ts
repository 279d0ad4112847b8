import fc from 'fast-check';
import { BenchSession } from '@/bench/session';
import type { KeptSession, Newest, Transport } from '@/bench/session-types';
import type { ProductDocument } from '@/core/document/document';
import type { Operation } from '@/core/document/patch';
import { THREADS } from '@/core/embroidery/threads';
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

/** Plays a history against a server. Each tag, title and pin is named once, so that what became of each can be told. */
export async function playHistory({ tabs: count, events, losses }: History, shared: SharedProduct): Promise<Verdict> {
  const time = new FakeTime();
  let [patches, ids, asked] = [0, 0, 0];
  let lossy = true;
  const lost = () => {
    patches += 1;
    const chance = losses[patches % losses.length]!;
    return lossy && chance < 10 ? (chance < 5 ? 'request' : 'answer') : null;
  };
  const transport: Transport = {
    async send(patch) {
      const loss = lost();
      if (loss === 'request') throw new Error('lost');
      const result = await shared.transport.send(patch);
      if (loss === 'answer') throw new Error('lost');
      return result;
    },
    load: () => shared.transport.load(),
  };
  const open = async (kept: KeptSession | null) => {
    const tab = { session: null as unknown as BenchSession, kept, live: true };
    tab.session = new BenchSession(transport, await shared.newest(), {
      now: () => time.ms,
      later: time.later,
      newId: () => `id-${(ids += 1)}-${Math.random().toString(36).slice(2, 8)}`,
      chance: () => 0.5,
      keep: (session) => {
        if (tab.live) tab.kept = structuredClone(session);
      },
    });
    if (kept) tab.session.restore(structuredClone(kept));
    return tab;
  };
  const tabs = await Promise.all(Array.from({ length: count }, () => open(null)));
  const [added, taken] = [new Set<string>(), new Set<string>()];
  /** What whoever typed a title had seen before it, itself or by what it had typed over. */
  const seen: Record<string, Set<string>> = {};
  const settle = async () => {
    for (const { session } of tabs) await session.flush();
  };
  const choose = async (session: BenchSession) => {
    const { collisions, document } = session.getState();
    asked += 1;
    for (const { path, theirs } of collisions)
      if (path === '/words/base/title') seen[titleOf(document)]?.add(String(theirs));
    await session.resolve('yours');
  };
  let edits = 0;
  for (const [n, one] of events.entries()) {
    const tab = tabs[one.tab % tabs.length]!;
    const { session } = tab;
    const { document, save } = session.getState();
    if (save === 'conflict') await choose(session);
    else if (one.kind === 'time') await Promise.all([time.pass(700), settle()]);
    else if (one.kind === 'notice') await session.lookAgain();
    else if (one.kind === 'reload') {
      tab.live = false;
      void session.close();
      tabs[one.tab % tabs.length] = await open(tab.kept);
    } else {
      edits += 1;
      if (one.kind === 'tag') {
        added.add(`tag:t${n}`);
        session.edit(`Tag t${n}`, addTag(`t${n}`));
      } else if (one.kind === 'pin') {
        const code = THREADS[n % THREADS.length]!.code;
        added.add(`pin:${code}`);
        session.edit(`Pin ${code}`, pin(shared.areaKey, code));
      } else if (one.kind === 'title') {
        const before = titleOf(document);
        putEntry(seen, `T${n}`, new Set([before, ...(seen[before] ?? [])]));
        session.edit(`Title T${n}`, title(`T${n}`));
      } else {
        const first = Object.keys(document.words.base.tags)[0];
        if (first) {
          taken.add(`tag:${first}`);
          session.edit('Drop', dropTag(first));
        }
      }
    }
  }
  lossy = false;
  for (let round = 0; round < 6; round += 1)
    for (const { session } of tabs) {
      session.again();
      await time.pass(31_000);
      await session.flush();
      if (session.getState().save === 'conflict') await choose(session);
      await session.lookAgain();
    }
  const { document } = await shared.newest();
  const there = new Set([
    ...Object.keys(document.words.base.tags).map((id) => `tag:${id}`),
    ...Object.keys(document.areas[shared.areaKey]?.threads?.pinned ?? {}).map((code) => `pin:${code}`),
  ]);
  const titles = (operations: readonly Operation[]) =>
    operations.flatMap((op) => (op.op === 'replace' && op.path === '/words/base/title' ? [String(op.value)] : []));
  const overwritten = (await shared.revisions()).flatMap(({ patch, undo }) => {
    const [to, from] = [titles(patch)[0], titles(undo)[0]];
    return to !== undefined && from !== undefined && !seen[to]?.has(from) ? [`${from} by ${to}`] : [];
  });
  return {
    edits,
    patches,
    asked,
    lost: [...added].filter((one) => !there.has(one) && !taken.has(one)),
    overwritten,
    unlike: tabs.filter(({ session }) => JSON.stringify(session.getState().document) !== JSON.stringify(document))
      .length,
  };
}
