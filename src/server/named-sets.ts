import { invalid, notFound, TypicaError } from '@/core/errors';
import { contentFault, MAX_SETS, type SetContent, type SetKind } from '@/core/named-sets';
import type { Context } from './context';
import { isDuplicate } from './db/errors';
import { newId } from './db/ids';

export interface NamedSet {
  readonly id: string;
  readonly kind: SetKind;
  readonly name: string;
  readonly content: SetContent;
}

/** What a workspace keeps of one kind, or of all, by name. */
export const namedSets = (ctx: Context, workspaceId: string, kind: SetKind | null): Promise<NamedSet[]> =>
  ctx.db.rows<NamedSet>(
    `SELECT id, kind, name, content FROM named_set WHERE workspace_id = ? AND kind = COALESCE(?, kind) ORDER BY kind, name LIMIT 600`,
    [workspaceId, kind],
  );

/** Keeps something under a name; under one that is there already it takes its place. Throws `set-content`, `sets-full`. */
export async function saveSet(
  ctx: Context,
  workspaceId: string,
  { kind, name, content }: Omit<NamedSet, 'id'>,
): Promise<NamedSet> {
  const fault = contentFault(kind, content);
  if (fault) throw invalid('set-content', `The content of a set of the kind “${kind}” ${fault}.`, { kind });
  return ctx.pools.transaction(async (db) => {
    // One at a time for a workspace: two of one name at once are one set, and the limit holds.
    await db.row('SELECT id FROM workspace WHERE id = ? FOR UPDATE', [workspaceId]);
    const text = JSON.stringify(content);
    const same = await db.row<{ id: string }>(
      'SELECT id FROM named_set WHERE workspace_id = ? AND kind = ? AND name = ?',
      [workspaceId, kind, name],
    );
    if (same) {
      await db.run('UPDATE named_set SET content = ?, name = ? WHERE id = ?', [text, name, same.id]);
      return { id: same.id, kind, name, content };
    }
    const { n } = (await db.row<{ n: number }>(
      'SELECT COUNT(*) AS n FROM named_set WHERE workspace_id = ? AND kind = ?',
      [workspaceId, kind],
    ))!;
    if (Number(n) >= MAX_SETS)
      throw new TypicaError(
        'too-many',
        'sets-full',
        `There are ${MAX_SETS} of these already, the most there can be. Delete one that is no longer used.`,
        { kind },
      );
    const id = newId('n');
    await db.run('INSERT INTO named_set (id, workspace_id, kind, name, content) VALUES (?, ?, ?, ?, ?)', [
      id,
      workspaceId,
      kind,
      name,
      text,
    ]);
    return { id, kind, name, content };
  });
}

/** Gives a set another name. Throws `not-found`, `name-taken`. */
export async function renameSet(ctx: Context, workspaceId: string, id: string, name: string): Promise<void> {
  const had = await ctx.db.row('SELECT id FROM named_set WHERE id = ? AND workspace_id = ?', [id, workspaceId]);
  if (!had) throw notFound('set', id);
  try {
    await ctx.db.run('UPDATE named_set SET name = ? WHERE id = ? AND workspace_id = ?', [name, id, workspaceId]);
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    throw new TypicaError(
      'conflict',
      'name-taken',
      'Another one has this name. Choose a different name.',
      { field: 'name' },
      error,
    );
  }
}

/** Deletes a set. Throws `not-found`. */
export async function deleteSet(ctx: Context, workspaceId: string, id: string): Promise<void> {
  const { affectedRows } = await ctx.db.run('DELETE FROM named_set WHERE id = ? AND workspace_id = ?', [
    id,
    workspaceId,
  ]);
  if (affectedRows === 0) throw notFound('set', id);
}
