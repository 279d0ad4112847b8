import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addTag, dropTag, FakeTime, ProductServer, story, Tab, title, type Fault } from '../../tests/support/sessions';

type Event =
  | { readonly kind: 'tag' | 'drop' | 'title' | 'refused' | 'undo' | 'reload' | 'notice'; readonly tab: number }
  | { readonly kind: 'time'; readonly ms: number }
  | { readonly kind: 'way'; readonly fault: Fault };

const tab = fc.integer({ min: 0, max: 2 });
const event: fc.Arbitrary<Event> = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constantFrom('tag' as const, 'title' as const), tab }) },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constantFrom('drop' as const, 'refused' as const, 'undo' as const, 'reload' as const, 'notice' as const),
      tab,
    }),
  },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('time' as const), ms: fc.integer({ min: 1, max: 4000 }) }) },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('way' as const),
      fault: fc.constantFrom<Fault>('none', 'none', 'request lost', 'answer lost', 'busy', 'signed out', 'too old'),
    }),
  },
);

/**
 * Three tabs, a way that loses requests and answers, reloads at any moment. Every tag has an id of its own, so that where each went can be told:
 * it is in the product, or was dropped or undone by somebody, or is named as not kept.
 */
async function play(events: readonly Event[]): Promise<void> {
  const server = new ProductServer();
  server.refuses = ({ words }) =>
    Object.keys(words.base.tags).some((id) => id.startsWith('bad')) ? 'Not this tag.' : null;
  const time = new FakeTime();
  let fault: Fault = 'none';
  const tabs = ['one', 'two', 'three'].map(
    (name) =>
      new Tab(
        server,
        server.transport(() => fault),
        time,
        name,
      ),
  );
  const added = new Set<string>();
  const taken = new Set<string>();
  const titles = new Set<string>(['Tide']);
  const bad = new Set<string>();
  let count = 0;
  const settleConflicts = async () => {
    for (const one of tabs) if (one.state.save === 'conflict') await one.session.resolve('yours');
  };
  for (const one of events) {
    count += 1;
    if (one.kind === 'time') await time.pass(one.ms);
    else if (one.kind === 'way') fault = one.fault;
    else {
      const { session, state } = tabs[one.tab]!;
      const tags = Object.keys(state.document.words.base.tags);
      if (state.save === 'conflict') await settleConflicts();
      else if (one.kind === 'tag') {
        added.add(`t${count}`);
        session.edit(`Tag t${count}`, addTag(`t${count}`));
      } else if (one.kind === 'title') {
        titles.add(`T${count}`);
        // Typing goes on in one step; time passes between some letters and not between others.
        session.edit('Title', title(`T${count}`), 'title');
        if (count % 3 === 0) session.edit('Story', story(`S${count}`), 'story');
      } else if (one.kind === 'refused') {
        bad.add(`bad${count}`);
        session.edit(`Tag bad${count}`, addTag(`bad${count}`));
      } else if (one.kind === 'drop' && tags.length > 0) {
        taken.add(tags[0]!);
        session.edit('Drop', dropTag(tags[0]!));
      } else if (one.kind === 'undo') {
        const before = new Set(tags);
        session.undo(true);
        const after = new Set(Object.keys(tabs[one.tab]!.state.document.words.base.tags));
        for (const id of before) if (!after.has(id)) taken.add(id);
        for (const id of after) if (!before.has(id)) added.add(id);
      } else if (one.kind === 'reload') tabs[one.tab]!.reload();
      else if (one.kind === 'notice') void session.noticeRevision(server.revision);
    }
  }
  // In the end the way is good again, and every tab comes to rest.
  fault = 'none';
  for (let round = 0; round < 12; round += 1) {
    for (const { session } of tabs) session.again();
    await time.pass(60_000);
    await settleConflicts();
    for (const { session } of tabs) await session.noticeRevision(server.revision);
  }
  for (const { session, state } of tabs) {
    expect(session.unsaved).toBe(false);
    expect(state.save).toBe('saved');
    expect(state.document).toEqual(server.document);
  }
  const there = new Set(Object.keys(server.document.words.base.tags));
  const lost = [...added].filter((id) => !there.has(id) && !taken.has(id) && !id.startsWith('bad'));
  expect(lost).toEqual([]);
  expect(titles).toContain(server.document.words.base.title);
  for (const id of bad) expect(there).not.toContain(id);
}

describe('edits, failures of the way, and reloads, whatever they are', () => {
  it('never lose a tag, and all tabs end alike', async () => {
    await fc.assert(fc.asyncProperty(fc.array(event, { minLength: 10, maxLength: 60, size: 'max' }), play), {
      seed: 16,
      numRuns: 400,
    });
  });
});
