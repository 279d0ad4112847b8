import { conflict, invalid } from '@/core/errors';
import type { Finding } from '@/core/findings/finding';
import { areaTitle } from '@/core/catalog/blank';
import { note } from '../activity/note';
import type { Context } from '../context';
import { findingsOf } from '../findings/findings';
import { likely } from '../db/like';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import { deletePhotograph } from '../photographs/photographs';
import { loadDesigns } from '../products/bundle';
import { findProduct, type Product } from '../products/products';
import { cleanName, findArtwork, readArtworks, type Artwork, type ArtworkRow } from './artwork';
import { ownEntry } from '@/core/own-entry';

/** An artwork in a list, with how many products print it. */
export interface ListedArtwork extends ArtworkRow {
  readonly products: number;
}

export interface ArtworkQuery {
  /** Words of the name or a tag; all must be there. */
  readonly words: string;
  readonly tag: string | null;
  readonly offset: number;
  readonly limit: number;
  readonly sort?: ArtworkSort;
}

/** Orders in which artwork can stand. */
const ORDERS = {
  newest: 'created_at DESC, id',
  oldest: 'created_at, id',
  name: 'name, id',
} as const;
export type ArtworkSort = keyof typeof ORDERS;
export const ARTWORK_SORTS = Object.keys(ORDERS) as ArtworkSort[];

const likeText = (word: string): string => `%${likely(word)}%`;

/** One page of a workspace's artwork in the order that is asked for; files that were refused are not among them. */
export async function browseArtwork(
  ctx: Context,
  workspaceId: string,
  { words, tag, offset, limit, sort = 'newest' }: ArtworkQuery,
): Promise<{ total: number; artwork: ListedArtwork[]; tags: { tag: string; count: number }[] }> {
  const asked = words.split(/\s+/).filter(Boolean).slice(0, 8);
  const where = [
    "workspace_id = ? AND purpose = 'artwork' AND state <> 'refused' AND deleted_at IS NULL",
    ...asked.map(() => '(name LIKE ? OR tags LIKE ?)'),
    ...(tag === null ? [] : ['tags LIKE ?']),
  ].join(' AND ');
  const values = [
    workspaceId,
    ...asked.flatMap((word) => [likeText(word), likeText(word)]),
    ...(tag === null ? [] : [likeText(JSON.stringify(tag))]),
  ];
  const [rows, count, tagged] = await Promise.all([
    readArtworks(ctx.db, `WHERE ${where} ORDER BY ${ORDERS[sort]} LIMIT ? OFFSET ?`, [...values, limit, offset]),
    ctx.db.row<{ total: number }>(`SELECT COUNT(*) AS total FROM artwork WHERE ${where}`, values),
    ctx.db.rows<{ tags: string }>(
      "SELECT tags FROM artwork WHERE workspace_id = ? AND tags <> '[]' AND deleted_at IS NULL",
      [workspaceId],
    ),
  ]);
  const uses = rows.length
    ? await ctx.db.rows<{ artworkId: string; products: number }>(
        `SELECT a.artwork_id AS artworkId, COUNT(*) AS products FROM product_artwork a JOIN product p ON p.id = a.product_id
         WHERE a.artwork_id IN (${rows.map(() => '?').join(',')}) AND p.archived_at IS NULL GROUP BY a.artwork_id`,
        rows.map((row) => row.id),
      )
    : [];
  const counts = new Map<string, number>();
  for (const row of tagged)
    for (const one of JSON.parse(row.tags) as string[]) counts.set(one, (counts.get(one) ?? 0) + 1);
  return {
    total: Number(count!.total),
    artwork: rows.map((row) => ({
      ...row,
      products: Number(uses.find((use) => use.artworkId === row.id)?.products ?? 0),
    })),
    tags: [...counts].map(([name, n]) => ({ tag: name, count: n })).sort((a, b) => (a.tag < b.tag ? -1 : 1)),
  };
}

/** A product that prints an artwork, and what the checks say of it there. */
export interface ArtworkUse {
  readonly productId: string;
  readonly title: string;
  readonly blank: string;
  readonly areas: readonly string[];
  readonly findings: readonly Finding[];
}

/** How many products are looked at, at most. */
const MAX_USES = 100;

/** Products in which an artwork is placed, or stands in for another on some colors: the newest, at most a hundred. */
export async function productsWith(ctx: Context, workspaceId: string, artworkId: string): Promise<Product[]> {
  const ids = await ctx.db.rows<{ id: string }>(
    `SELECT p.id FROM product_artwork a JOIN product p ON p.id = a.product_id
     WHERE a.artwork_id = ? AND p.workspace_id = ? AND p.archived_at IS NULL ORDER BY p.updated_at DESC, p.id LIMIT ?`,
    [artworkId, workspaceId, MAX_USES],
  );
  return Promise.all(ids.map(({ id }) => findProduct(ctx, workspaceId, id)));
}

const WITH = `FROM product_artwork a JOIN product p ON p.id = a.product_id
  WHERE a.artwork_id = ? AND p.workspace_id = ? AND p.archived_at IS NULL`;

/** How many products print an artwork. */
export async function countWith(ctx: Context, workspaceId: string, artworkId: string): Promise<number> {
  const row = await ctx.db.row<{ n: number }>(`SELECT COUNT(*) AS n ${WITH}`, [artworkId, workspaceId]);
  return Number(row!.n);
}

/** Ids of products that print an artwork, in order, after one of them. */
export async function idsWith(
  ctx: Context,
  workspaceId: string,
  artworkId: string,
  after: string,
  limit: number,
): Promise<string[]> {
  const rows = await ctx.db.rows<{ id: string }>(`SELECT p.id ${WITH} AND p.id > ? ORDER BY p.id LIMIT ?`, [
    artworkId,
    workspaceId,
    after,
    limit,
  ]);
  return rows.map(({ id }) => id);
}

export async function usesOfArtwork(ctx: Context, workspaceId: string, artworkId: string): Promise<ArtworkUse[]> {
  const products = await productsWith(ctx, workspaceId, artworkId);
  if (products.length === 0) return [];
  const designs = await loadDesigns(ctx, workspaceId, products);
  return Promise.all(
    designs.map(async (design) => {
      const { product, blank } = design;
      const own = new Set<string>();
      const areas = blank.areas.filter((area) =>
        Object.entries(ownEntry(product.document.areas, area.key)?.layers ?? {}).some(([layerId, layer]) => {
          const uses =
            (layer.kind === 'artwork' && layer.artworkId === artworkId) ||
            Object.values(layer.versions ?? {}).some((version) => version.artworkId === artworkId);
          if (uses) own.add(layerId);
          return uses;
        }),
      );
      const findings = (await findingsOf(ctx, design)).filter((finding) => own.has(finding.layerId));
      return {
        productId: product.id,
        title: product.title,
        blank: blank.name,
        areas: areas.map((area) => areaTitle(blank, area)),
        findings,
      };
    }),
  );
}

const MAX_TAGS = 20;
/** Characters of all tags as they are kept. */
const MAX_TAG_TEXT = 1000;

/** Another name, other tags. Tags are kept in the order given, each once. Throws `tags-too-many`. */
export async function changeArtwork(
  ctx: Context,
  actor: Actor,
  id: string,
  change: { name?: string; tags?: readonly string[] },
): Promise<Artwork> {
  const before = await findArtwork(ctx, actor.workspaceId, id);
  const tags = change.tags ? [...new Set(change.tags.map((tag) => cleanName(tag)).filter(Boolean))] : before.tags;
  if (tags.length > MAX_TAGS)
    throw invalid('tags-too-many', `An artwork can have ${MAX_TAGS} tags; these are ${tags.length}.`);
  if (JSON.stringify(tags).length > MAX_TAG_TEXT)
    throw invalid('tags-too-long', 'These tags are too long together; shorten some.');
  const name = (change.name && cleanName(change.name)) || before.name;
  await ctx.pools.transaction(async (db) => {
    await db.run('UPDATE artwork SET name = ?, tags = ? WHERE id = ? AND workspace_id = ?', [
      name,
      JSON.stringify(tags),
      id,
      actor.workspaceId,
    ]);
    if (name !== before.name || change.tags)
      await note(db, actor, {
        about: 'artwork',
        what: 'changed',
        says: `Changed name or tags of the artwork “${name}”.`,
      });
    await emit(db, actor.workspaceId, 'artwork', { artworkId: id, state: before.state });
  });
  return findArtwork(ctx, actor.workspaceId, id);
}

/** Days in which deleted artwork can be brought back. */
export const KEPT_DAYS = 30;
/** Deleted files of one workspace that are kept that long; the oldest of more go at once. */
const MAX_DELETED = 500;

/** Deletes an artwork that no product prints; for `KEPT_DAYS` days it can be brought back. Throws `artwork-used` with the products that do, archived ones among them. */
export async function deleteArtwork(ctx: Context, actor: Actor, id: string): Promise<void> {
  const { purpose, name } = await findArtwork(ctx, actor.workspaceId, id);
  // Shots and products show photographs in ways of their own.
  if (purpose === 'photograph') return deletePhotograph(ctx, actor, id);
  await ctx.pools.transaction(async (db) => {
    // Held, so that nobody places it while it is looked for.
    await db.row('SELECT id FROM artwork WHERE id = ? FOR UPDATE', [id]);
    const uses = await db.rows<{ id: string; title: string; archived: number }>(
      `SELECT p.id, p.title, p.archived_at IS NOT NULL AS archived FROM product_artwork a JOIN product p ON p.id = a.product_id
       WHERE a.artwork_id = ? ORDER BY archived, p.updated_at DESC LIMIT 100`,
      [id],
    );
    if (uses.length > 0) {
      const [first] = uses;
      throw conflict(
        'artwork-used',
        `${uses.length === 1 ? 'A product prints' : `${uses.length} products print`} this artwork (${first!.title}${first!.archived ? ', archived' : ''}${uses.length > 1 ? ' and others' : ''}); remove it there or replace it first.`,
        { products: uses.map(({ id: productId, title }) => ({ id: productId, title })) },
      );
    }
    await db.run('UPDATE artwork SET deleted_at = UTC_TIMESTAMP(3) WHERE id = ? AND workspace_id = ?', [
      id,
      actor.workspaceId,
    ]);
    await note(db, actor, { about: 'artwork', what: 'deleted', says: `Deleted the artwork “${name}”.` });
    await emit(db, actor.workspaceId, 'artwork', { artworkId: id, state: 'deleted' });
  });
}

/** Brings a deleted artwork back. Throws `not-found` when there is none, or it is gone for good. */
export async function restoreArtwork(ctx: Context, actor: Actor, id: string): Promise<Artwork> {
  await ctx.pools.transaction(async (db) => {
    await db.run('UPDATE artwork SET deleted_at = NULL WHERE id = ? AND workspace_id = ?', [id, actor.workspaceId]);
    await note(db, actor, { about: 'artwork', what: 'restored', says: 'Brought a deleted artwork back.' });
    await emit(db, actor.workspaceId, 'artwork', { artworkId: id, state: 'ready' });
  });
  return findArtwork(ctx, actor.workspaceId, id);
}

const DROPPED_AT_ONCE = 200;

/** Deletes for good what was deleted `KEPT_DAYS` days ago, and of each workspace what is over `MAX_DELETED`. Gives how many. */
export async function dropDeletedArtwork({ db }: Context): Promise<number> {
  const old = await db.run(
    `DELETE FROM artwork WHERE deleted_at < UTC_TIMESTAMP(3) - INTERVAL ${KEPT_DAYS} DAY LIMIT ${DROPPED_AT_ONCE}`,
  );
  const full = await db.rows<{ workspaceId: string; n: number }>(
    `SELECT workspace_id AS workspaceId, COUNT(*) AS n FROM artwork WHERE deleted_at IS NOT NULL GROUP BY workspace_id HAVING n > ${MAX_DELETED} LIMIT 20`,
  );
  let dropped = old.affectedRows;
  for (const { workspaceId, n } of full) {
    const over = Math.min(DROPPED_AT_ONCE, Number(n) - MAX_DELETED);
    const { affectedRows } = await db.run(
      `DELETE FROM artwork WHERE workspace_id = ? AND deleted_at IS NOT NULL ORDER BY deleted_at LIMIT ${over}`,
      [workspaceId],
    );
    dropped += affectedRows;
  }
  return dropped;
}
