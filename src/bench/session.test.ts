import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { setChosen } from '@/core/document/choosing';
import type { ProductDocument } from '@/core/document/document';
import { setAims } from '@/core/pricing/fixing';
import { addTag, dropTag, FakeTime, ProductServer, story, Tab, title, type Fault } from '../../tests/support/sessions';

/** A server, tabs on it, and a way between them that can be told what to do. */
function world() {
  const server = new ProductServer();
  const time = new FakeTime();
  const way = { fault: 'none' as Fault };
  const open = (name = 'tab') =>
    new Tab(
      server,
      server.transport(() => way.fault),
      time,
      name,
    );
  return { server, time, way, open };
}

describe('a bench session', () => {
  it('shows an edit at once and saves it a little later', async () => {
    const { server, time, open } = world();
    const tab = open();
    tab.session.edit('Title', title('Ebb'));
    expect(tab.state).toMatchObject({ save: 'saving', canUndo: 'Title' });
    await time.pass(1000);
    expect(tab.state).toMatchObject({ save: 'saved', revision: 2 });
    expect(server.document.words.base.title).toBe('Ebb');
  });

  it('undoes and redoes exactly, and any sequence back to the start', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.oneof(fc.string().map(title), fc.string().map(story)), { minLength: 1, maxLength: 12 }),
        async (changes) => {
          const { server, open } = world();
          server.refuses = () => null;
          const { session } = open();
          const start = session.getState().document;
          for (const change of changes) session.edit('x', change);
          const end = session.getState().document;
          while (session.undo());
          expect(session.getState().document).toEqual(start);
          while (session.redo());
          expect(session.getState().document).toEqual(end);
          await session.flush();
          expect(server.document).toEqual(end);
        },
      ),
      { seed: 2, numRuns: 60 },
    );
  });

  it('makes one step of typing in one field, also over what is on its way', async () => {
    const { server, time, open } = world();
    const tab = open();
    for (const text of ['E', 'Eb', 'Ebb']) tab.session.edit('Title', title(text), 'title');
    const sent = tab.session.flush();
    tab.session.edit('Title', title('Ebbs'), 'title');
    await sent;
    await time.pass(1000);
    expect(server.document.words.base.title).toBe('Ebbs');
    tab.session.undo();
    expect(tab.state.document.words.base.title).toBe('Tide');
    expect(tab.state.canUndo).toBeNull();
  });

  it('keeps what is typed small: one operation for a description, however many letters it took', () => {
    const { open } = world();
    const tab = open();
    for (let i = 1; i <= 500; i += 1) tab.session.edit('Description', story('x'.repeat(i)), 'description');
    expect(tab.stored!.pending.flatMap((step) => step.forward)).toHaveLength(1);
    expect(tab.stored!.undo).toHaveLength(1);
  });

  it('keeps both people’s edits in different places', async () => {
    const { server, open } = world();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Title', title('Ebb'));
    two.session.edit('Story', story('Flood'));
    await one.session.flush();
    await two.session.flush();
    await one.session.noticeRevision(server.revision);
    expect(one.state.document).toEqual(two.state.document);
    expect(server.document.words.base).toMatchObject({ title: 'Ebb', description: 'Flood' });
  });

  it('refuses to wait for a revision that is none, and goes on saving', async () => {
    const { server, open } = world();
    const tab = open('one');
    await expect(tab.session.noticeRevision(Number(undefined))).rejects.toThrow('whole number');
    tab.session.edit('Title', title('Ebb'));
    await tab.session.flush();
    expect(tab.state.save).toBe('saved');
    expect(server.document.words.base.title).toBe('Ebb');
  });

  it.each(['yours', 'theirs'] as const)('asks when both changed the same, and takes %s', async (choice) => {
    const { server, open } = world();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Title', title('Ebb'));
    await one.session.flush();
    two.session.edit('Title', title('Flood'));
    two.session.edit('Story', story('kept'));
    await two.session.flush();
    expect(two.state).toMatchObject({
      save: 'conflict',
      collisionBy: 'Tom',
      collisions: [{ label: 'Title', base: 'Tide', theirs: 'Ebb', yours: 'Flood' }],
    });
    expect(server.document.words.base.title).toBe('Ebb');
    await two.session.resolve(choice);
    expect(two.state.save).toBe('saved');
    const mine = choice === 'yours';
    expect(server.document.words.base).toMatchObject({ title: mine ? 'Flood' : 'Ebb', description: 'kept' });
    // Undo goes back to what the other had set.
    while (two.session.undo());
    expect(two.state.document.words.base).toMatchObject({ title: 'Ebb', description: '' });
  });

  it('asks before typing on writes over what another tab set while a patch was on its way', async () => {
    const { server, open } = world();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Title', title('Ebb'));
    await one.session.flush();
    two.session.edit('Story', story('kept'));
    const sent = two.session.flush();
    two.session.edit('Title', title('Flood'));
    await sent;
    expect(two.state).toMatchObject({ save: 'conflict', collisions: [{ theirs: 'Ebb', yours: 'Flood' }] });
    expect(server.document.words.base.title).toBe('Ebb');
  });
});

describe('nothing that was typed is lost', () => {
  it('while the server is away for an hour: it is tried again, less and less often, at most every 30 s', async () => {
    const { server, time, way, open } = world();
    const tab = open();
    way.fault = 'request lost';
    tab.session.edit('Title', title('Ebb'));
    await time.pass(1000);
    expect(tab.state.save).toBe('offline');
    const waits: number[] = [];
    for (let i = 0; i < 8; i += 1) {
      waits.push(time.next! - time.ms);
      await time.pass(time.next! - time.ms);
    }
    expect(waits.at(-1)).toBeLessThanOrEqual(30_000 * 1.25);
    expect(waits).toEqual(waits.toSorted((a, b) => a - b));
    await time.pass(3_600_000);
    tab.session.edit('Story', story('x'));
    way.fault = 'none';
    await time.pass(40_000);
    expect(tab.state.save).toBe('saved');
    expect(server.document.words.base).toMatchObject({ title: 'Ebb', description: 'x' });
  });

  it('when the network is back: it is sent at once', async () => {
    const { server, time, way, open } = world();
    const tab = open();
    way.fault = 'request lost';
    tab.session.edit('Title', title('Ebb'));
    await time.pass(600_000);
    way.fault = 'none';
    tab.session.again();
    await time.pass(0);
    expect(server.document.words.base.title).toBe('Ebb');
  });

  it('when the session has ended: it is kept, and sent after signing in', async () => {
    const { server, time, way, open } = world();
    const tab = open();
    way.fault = 'signed out';
    tab.session.edit('Title', title('Ebb'));
    await time.pass(1000);
    expect(tab.state.save).toBe('signed-out');
    tab.session.edit('Story', story('x'));
    await time.pass(60_000);
    expect(tab.state.document.words.base.title).toBe('Ebb');
    way.fault = 'none';
    tab.session.again();
    await time.pass(0);
    expect(server.document.words.base).toMatchObject({ title: 'Ebb', description: 'x' });
  });

  it('when the answer was lost: the same patch is no conflict with itself, whatever came after it', async () => {
    const { server, time, way, open } = world();
    const [tab, other] = [open('one'), open('two')];
    way.fault = 'answer lost';
    tab.session.edit('Title', title('Ebb'));
    tab.session.edit('Tag', addTag('t1'));
    await time.pass(400);
    way.fault = 'none';
    await other.session.noticeRevision(server.revision);
    other.session.edit('Title', title('Flood'));
    await other.session.flush();
    tab.session.edit('Story', story('typed on'));
    await time.pass(5000);
    expect(tab.state).toMatchObject({ save: 'saved', collisions: [], notKept: [] });
    expect(server.document.words.base).toMatchObject({ title: 'Flood', description: 'typed on' });
    expect(Object.keys(server.document.words.base.tags)).toEqual(['t1']);
  });

  it('when both tabs removed the same: that is done already', async () => {
    const { server, open } = world();
    const first = open('zero');
    first.session.edit('Tag', addTag('t1'));
    await first.session.flush();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Drop', dropTag('t1'));
    await one.session.flush();
    two.session.edit('Drop', dropTag('t1'));
    two.session.edit('Story', story('kept'));
    await two.session.flush();
    expect(two.state).toMatchObject({ save: 'saved', notKept: [] });
    expect(server.document.words.base).toMatchObject({ tags: {}, description: 'kept' });
  });

  it('when its revision is no longer known singly: it is laid over the newest', async () => {
    const { server, way, open } = world();
    const [tab, other] = [open('one'), open('two')];
    other.session.edit('Title', title('Flood'));
    await other.session.flush();
    way.fault = 'too old';
    tab.session.edit('Story', story('kept'));
    const sent = tab.session.flush();
    way.fault = 'none';
    await sent;
    await tab.session.flush();
    expect(tab.state).toMatchObject({ save: 'saved', notKept: [] });
    expect(server.document.words.base).toMatchObject({ title: 'Flood', description: 'kept' });
  });

  it('when one edit of many is refused: it alone is left out, and named', async () => {
    const { server, time, open } = world();
    server.refuses = (document) => (document.words.base.title.includes('!') ? 'No exclamation marks.' : null);
    const tab = open();
    tab.session.edit('Tag one', addTag('t1'));
    tab.session.edit('Title', title('Ebb!'));
    tab.session.edit('Tag two', addTag('t2'));
    tab.session.edit('Story', story('kept'));
    await time.pass(1000);
    expect(tab.state).toMatchObject({ save: 'saved', notKept: [{ label: 'Title', why: 'No exclamation marks.' }] });
    expect(tab.state.document).toEqual(server.document);
    expect(server.document.words.base).toMatchObject({ title: 'Tide', description: 'kept' });
    expect(Object.keys(server.document.words.base.tags)).toEqual(['t1', 't2']);
    expect([tab.session.undo(), tab.session.undo(), tab.session.undo(), tab.session.undo()]).toEqual([
      true,
      true,
      true,
      false,
    ]);
  });

  it('when the page goes in the middle, and undo goes on after it', async () => {
    const { server, time, way, open } = world();
    const tab = open();
    tab.session.edit('Title', title('Ebb'));
    await time.pass(1000);
    way.fault = 'request lost';
    tab.session.edit('Story', story('x'));
    await time.pass(1000);
    tab.session.edit('Tag', addTag('t1'));
    tab.reload();
    expect(tab.state.document.words.base).toMatchObject({ title: 'Ebb', description: 'x' });
    way.fault = 'none';
    await time.pass(60_000);
    expect(server.document.words.base).toMatchObject({ title: 'Ebb', description: 'x' });
    expect(Object.keys(server.document.words.base.tags)).toEqual(['t1']);
    while (tab.session.undo());
    expect(tab.state.document.words.base).toMatchObject({ title: 'Tide', description: '', tags: {} });
  });

  it('when another tab took the product up after it was closed: what it left unsent is taken in', async () => {
    const { server, time, way, open } = world();
    const closed = open('one');
    way.fault = 'request lost';
    closed.session.edit('Title', title('Ebb'));
    closed.session.edit('Tag', addTag('t1'));
    await time.pass(1000);
    way.fault = 'none';
    const other = open('two');
    other.session.edit('Title', title('Flood'));
    await other.session.flush();
    other.session.takeIn(closed.stored!);
    await time.pass(1000);
    expect(server.document.words.base.title).toBe('Flood');
    expect(Object.keys(server.document.words.base.tags)).toEqual(['t1']);
    expect(other.state.notKept).toMatchObject([{ label: 'Title' }]);
  });
});

describe('prices set for many variants at once', () => {
  const keys = ['size=s', 'size=m', 'size=l'];
  const chosen = (d: ProductDocument): ProductDocument => setChosen(d, keys, true);
  it('are saved, undone and kept, though one aim stands for all of them', async () => {
    const { server, time, way, open } = world();
    const tab = open();
    tab.session.edit('Choose', chosen);
    tab.session.edit('Price', (d) => setAims(d, 's1', keys, { kind: 'retail', amountMinor: 900 }));
    tab.session.edit('Price', (d) => setAims(d, 's1', keys, { kind: 'margin', ppm: 400_000 }));
    await time.pass(1000);
    expect(tab.state).toMatchObject({ save: 'saved', notKept: [] });
    way.fault = 'request lost';
    tab.session.edit('Price', (d) => setAims(d, 's1', keys, { kind: 'profit', amountMinor: 300 }));
    tab.session.edit('Price', (d) => setAims(d, 's1', keys.slice(1), { kind: 'margin', ppm: 100_000 }));
    await time.pass(1000);
    tab.reload();
    way.fault = 'none';
    await time.pass(60_000);
    expect(server.document.price.stores['s1']!.variants).toEqual({
      'size=s': { kind: 'profit', amountMinor: 300 },
      'size=m': { kind: 'margin', ppm: 100_000 },
      'size=l': { kind: 'margin', ppm: 100_000 },
    });
    while (tab.session.undo());
    expect(tab.state.document.price.stores).toEqual({});
    expect(tab.state.document.variants).toEqual({});
  });
});

describe('undo among others', () => {
  it('asks before it writes over what somebody else set later', async () => {
    const { server, open } = world();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Title', title('Ebb'));
    await one.session.flush();
    await two.session.noticeRevision(server.revision);
    two.session.edit('Title', title('Flood'));
    await two.session.flush();
    await one.session.noticeRevision(server.revision);
    expect(one.session.undo()).toBe(false);
    expect(one.state.question).toMatchObject({
      way: 'undo',
      label: 'Title',
      others: [{ path: '/words/base/title', theirs: 'Flood', yours: 'Tide' }],
    });
    one.session.answer(false);
    expect(one.state.document.words.base.title).toBe('Flood');
    one.session.undo();
    one.session.answer(true);
    expect(one.state.document.words.base.title).toBe('Tide');
  });

  it('says so when what it would change is gone', async () => {
    const { server, open } = world();
    const first = open('zero');
    first.session.edit('Tag', addTag('t1'));
    await first.session.flush();
    const [one, two] = [open('one'), open('two')];
    one.session.edit('Rename tag', addTag('t1', 'other'));
    await one.session.flush();
    await two.session.noticeRevision(server.revision);
    two.session.edit('Drop', dropTag('t1'));
    await two.session.flush();
    await one.session.noticeRevision(server.revision);
    expect(one.session.undo()).toBe(false);
    expect(one.state.message).toContain('“Rename tag” can no longer be undone');
  });
});
