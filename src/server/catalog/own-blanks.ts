import type { OwnBlanks } from '@/core/shelf/browse-blanks';
import { notFound } from '@/core/errors';
import type { Context } from '../context';

/** The blanks that a workspace has marked, and those that one of its products is on. */
export async function ownBlanks({ db }: Context, workspaceId: string): Promise<OwnBlanks> {
  const [favorites, used] = await Promise.all([
    db.arrays<[string]>('SELECT blank_id FROM favorite_blank WHERE workspace_id = ?', [workspaceId]),
    db.arrays<[string]>('SELECT DISTINCT blank_id FROM product WHERE workspace_id = ? AND deleted_at IS NULL', [
      workspaceId,
    ]),
  ]);
  const set = (rows: readonly [string][]) => new Set(rows.map(([id]) => id));
  return { favorites: set(favorites), used: set(used) };
}

/** Marks a blank for a workspace, or takes the mark off. Throws `not-found`. */
export async function setFavorite({ db }: Context, workspaceId: string, blankId: string, on: boolean): Promise<void> {
  if (!on) {
    await db.run('DELETE FROM favorite_blank WHERE workspace_id = ? AND blank_id = ?', [workspaceId, blankId]);
    return;
  }
  const blank = await db.row('SELECT id FROM blank WHERE id = ?', [blankId]);
  if (!blank) throw notFound('blank', blankId);
  await db.run('INSERT IGNORE INTO favorite_blank (workspace_id, blank_id) VALUES (?, ?)', [workspaceId, blankId]);
}

/** Whether a workspace has marked a blank. */
export const isFavorite = async ({ db }: Context, workspaceId: string, blankId: string): Promise<boolean> =>
  (await db.row('SELECT 1 AS one FROM favorite_blank WHERE workspace_id = ? AND blank_id = ?', [
    workspaceId,
    blankId,
  ])) !== null;
