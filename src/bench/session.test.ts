import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { applyPatch, findConflicts, touchedPaths, type Operation } from '@/core/document/patch';
import { BenchSession, type SendResult, type Transport } from './session';

/** A server in memory with the same rule as the real one: patches go on top unless they touch what was changed since. */
function server() {
  const documents: ProductDocument[] = [newDocument('b1', 'GBP', 'Tide')];
  const patches: Operation[][] = [[]];
  const transport: Transport & { down: boolean } = {
    down: false,
    async send(revision, operations): Promise<SendResult> {
      if (transport.down) throw new Error('down');
      const current = documents.at(-1)!;
      const touched = patches.slice(revision).flatMap(touchedPaths);
      const conflicts = findConflicts(documents[revision - 1]!, current, operations, touched);
      if (conflicts.length > 0) return { kind: 'conflict', conflicts, by: 'Tom' };
      const next = applyPatch(current, operations);
      documents.push(next);
      patches.push([...operations]);
      return { kind: 'saved', revision: documents.length, document: next };
    },
    load: async () => ({ revision: documents.length, document: documents.at(-1)! }),
  };
  return {
    transport,
    get document() {
      return documents.at(-1)!;
    },
    get revision() {
      return documents.length;
    },
  };
}

const title =
  (text: string) =>
  (d: ProductDocument): ProductDocument => ({ ...d, words: { ...d.words, base: { ...d.words.base, title: text } } });
const story =
  (text: string) =>
  (d: ProductDocument): ProductDocument => ({
    ...d,
    words: { ...d.words, base: { ...d.words.base, description: text } },
  });

async function open(s: ReturnType<typeof server>) {
  let clock = 0;
  const session = new BenchSession(s.transport, await s.transport.load(), () => (clock += 10_000));
  return session;
}

describe('a bench session', () => {
  it('shows an edit at once and saves it', async () => {
    const s = server();
    const session = await open(s);
    session.edit('Title', title('Ebb'));
    expect(session.getState()).toMatchObject({ save: 'saving', canUndo: 'Title' });
    await session.flush();
    expect(session.getState()).toMatchObject({ save: 'saved', revision: 2 });
    expect(s.document.words.base.title).toBe('Ebb');
  });

  it('undoes and redoes exactly, and any sequence back to the start', async () => {
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.oneof(fc.string().map(title), fc.string().map(story)), { minLength: 1, maxLength: 12 }),
        async (changes) => {
          const s = server();
          const session = await open(s);
          const start = session.getState().document;
          for (const change of changes) session.edit('x', change);
          const end = session.getState().document;
          while (session.undo());
          expect(session.getState().document).toEqual(start);
          while (session.redo());
          expect(session.getState().document).toEqual(end);
          await session.flush();
          expect(s.document).toEqual(end);
        },
      ),
      { seed: 2, numRuns: 60 },
    );
  });

  it('makes one step of typing in one field', async () => {
    const s = server();
    const session = new BenchSession(s.transport, await s.transport.load(), () => 0);
    for (const text of ['E', 'Eb', 'Ebb']) session.edit('Title', title(text), 'title');
    session.undo();
    expect(session.getState().document.words.base.title).toBe('Tide');
  });

  it('keeps both people’s edits in different places', async () => {
    const s = server();
    const [one, two] = [await open(s), await open(s)];
    one.edit('Title', title('Ebb'));
    two.edit('Story', story('Flood'));
    await one.flush();
    await two.flush();
    await one.noticeRevision(s.revision);
    expect(one.getState().document).toEqual(two.getState().document);
    expect(s.document.words.base).toMatchObject({ title: 'Ebb', description: 'Flood' });
  });

  it.each(['mine', 'theirs'] as const)('asks when both changed the same, and does %s', async (choice) => {
    const s = server();
    const [one, two] = [await open(s), await open(s)];
    one.edit('Title', title('Ebb'));
    await one.flush();
    two.edit('Title', title('Flood'));
    two.edit('Story', story('kept'));
    await two.flush();
    expect(two.getState()).toMatchObject({
      save: 'conflict',
      conflictBy: 'Tom',
      conflicts: [{ theirs: 'Ebb', yours: 'Flood' }],
    });
    expect(s.document.words.base.title).toBe('Ebb');
    await two.resolve(choice);
    expect(two.getState().save).toBe('saved');
    expect(s.document.words.base).toMatchObject({ title: choice === 'mine' ? 'Flood' : 'Ebb', description: 'kept' });
  });

  it('keeps edits while the server is away', async () => {
    const s = server();
    const session = await open(s);
    s.transport.down = true;
    session.edit('Title', title('Ebb'));
    await session.flush();
    expect(session.getState().save).toBe('offline');
    session.edit('Story', story('x'));
    s.transport.down = false;
    await session.flush();
    expect(s.document.words.base).toMatchObject({ title: 'Ebb', description: 'x' });
  });
});
