import type { Context } from '../context';

/** Tags that are offered. */
const MAX_TAGS = 100;

/** Kinds of goods and tags of artwork in a workspace: by what many products at once are named. */
export async function kindsAndTags(
  ctx: Context,
  workspaceId: string,
): Promise<{ readonly kinds: readonly string[]; readonly tags: readonly string[] }> {
  const [kinds, tags] = await Promise.all([
    ctx.db.rows<{ kind: string }>(
      `SELECT DISTINCT g.kind FROM product p JOIN blank b ON b.id = p.blank_id JOIN good g ON g.id = b.good_id
       WHERE p.workspace_id = ? AND p.archived_at IS NULL ORDER BY g.kind`,
      [workspaceId],
    ),
    ctx.db.rows<{ tag: string }>(
      `SELECT DISTINCT t.tag FROM artwork a, JSON_TABLE(a.tags, '$[*]' COLUMNS (tag VARCHAR(80) PATH '$')) t
       WHERE a.workspace_id = ? AND a.deleted_at IS NULL ORDER BY t.tag LIMIT ?`,
      [workspaceId, MAX_TAGS],
    ),
  ]);
  return { kinds: kinds.map(({ kind }) => kind), tags: tags.map(({ tag }) => tag) };
}
