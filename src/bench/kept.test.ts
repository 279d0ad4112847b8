import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { newDocument } from '@/core/document/document';
import { isUnsent, Keeper, KeptSessions } from './kept';
import type { KeptSession } from './session-types';

const session = (title: string, over: Partial<KeptSession> = {}): KeptSession => ({
  format: 1,
  title,
  base: newDocument('b1', 'GBP', title),
  revision: 1,
  batch: null,
  pending: [],
  undo: [],
  redo: [],
  ...over,
});
const step = { id: 's1', entryId: 'e1', label: 'Title', forward: [] };

let sessions: KeptSessions;
beforeEach(async () => {
  sessions = await KeptSessions.open();
});

describe('sessions kept in the browser', () => {
  it('are there again, each person’s own, the oldest first', async () => {
    await sessions.put({ id: 'b', personId: 'p1', productId: 'x', at: 2, session: session('second') });
    await sessions.put({ id: 'a', personId: 'p1', productId: 'x', at: 1, session: session('first') });
    await sessions.put({ id: 'c', personId: 'p2', productId: 'x', at: 1, session: session('another’s') });
    sessions.close();
    sessions = await KeptSessions.open();
    expect((await sessions.of('p1')).map((one) => one.session.title)).toEqual(['first', 'second']);
    await sessions.drop('a');
    expect(await sessions.get('a')).toBeUndefined();
  });

  it('are forgotten when old, and never with something unsent', async () => {
    const week = 7 * 24 * 3_600_000;
    await sessions.put({ id: 'done', personId: 'p3', productId: 'x', at: 0, session: session('done') });
    const unsent = session('unsent', { pending: [step] });
    await sessions.put({ id: 'unsent', personId: 'p3', productId: 'x', at: 0, session: unsent });
    await sessions.forgetOld(week + 1);
    expect((await sessions.of('p3')).map(({ id }) => id)).toEqual(['unsent']);
    expect([isUnsent(unsent), isUnsent(session('done'))]).toEqual([true, false]);
    await sessions.put({ id: 'new', personId: 'p3', productId: 'x', at: week, session: session('new') });
    await sessions.forgetSaved();
    expect((await sessions.of('p3')).map(({ id }) => id)).toEqual(['unsent']);
  });

  it('are written as they change, the newest last', async () => {
    const keeper = new Keeper(
      sessions,
      { id: 'k', personId: 'p4', productId: 'x' },
      () => 5,
      () => {},
    );
    for (let i = 0; i < 50; i += 1) keeper.keep(session(`v${i}`));
    await keeper.settled();
    expect((await sessions.get('k'))!.session.title).toBe('v49');
  });

  it('say so when nothing can be kept', async () => {
    const faults: unknown[] = [];
    const keeper = new Keeper(
      sessions,
      { id: 'k', personId: 'p4', productId: 'x' },
      () => 5,
      (e) => faults.push(e),
    );
    sessions.close();
    keeper.keep(session('lost'));
    await keeper.settled();
    expect(faults).toHaveLength(1);
  });
});
