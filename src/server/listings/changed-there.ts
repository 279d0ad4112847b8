import { setImmediate as turn } from 'node:timers/promises';
import type { ListingForm } from '@/core/listing/form';
import { CHANGED_KINDS, changedKinds, type ChangedKind } from '@/core/sync/changed';
import type { Context } from '../context';
import type { Store } from '../stores/stores';

/** What the shop changed of a store's listings and nobody has settled. */
export interface ChangedThere {
  readonly listings: number;
  /** Of so many it was looked at what was changed. */
  readonly looked: number;
  /** Listings by kind of field, of those that were looked at; one can be of several kinds. */
  readonly kinds: { readonly [kind in ChangedKind]?: number };
}

/** Listings of which it is looked at what was changed; with more a person begins with these. */
const MAX_LOOKED = 200;
/** Read at once: forms are large. */
const AT_ONCE = 10;

/** Listings that the shop shows otherwise than agreed. */
const CHANGED = 'workspace_id = ? AND store_id = ? AND external_id IS NOT NULL AND there_hash <> agreed_hash';

export async function changedThere(ctx: Context, { workspaceId, id }: Store): Promise<ChangedThere> {
  const all = await ctx.db.row<{ n: number }>(`SELECT COUNT(*) AS n FROM listing WHERE ${CHANGED}`, [workspaceId, id]);
  const counts = new Map<ChangedKind, number>();
  let [after, looked] = ['', 0];
  while (looked < MAX_LOOKED) {
    const rows = await ctx.db.rows<{ id: string; agreed: string; there: string }>(
      `SELECT id, agreed_form AS agreed, there_form AS there FROM listing WHERE ${CHANGED} AND id > ? ORDER BY id LIMIT ?`,
      [workspaceId, id, after, AT_ONCE],
    );
    for (const { agreed, there } of rows) {
      // A listing of many variants takes some ms.
      await turn();
      for (const kind of changedKinds(JSON.parse(agreed) as ListingForm, JSON.parse(there) as ListingForm))
        counts.set(kind, (counts.get(kind) ?? 0) + 1);
    }
    looked += rows.length;
    if (rows.length < AT_ONCE) break;
    after = rows.at(-1)!.id;
  }
  const kinds = CHANGED_KINDS.flatMap((kind) => (counts.has(kind) ? [[kind, counts.get(kind)!] as const] : []));
  return { listings: Number(all!.n), looked, kinds: Object.fromEntries(kinds) };
}

/** Ids of such listings, in order, after one. */
export const changedAfter = async (
  ctx: Context,
  { workspaceId, id }: Store,
  after: string,
  most: number,
): Promise<string[]> => {
  const rows = await ctx.db.rows<{ id: string }>(
    `SELECT id FROM listing WHERE ${CHANGED} AND id > ? ORDER BY id LIMIT ?`,
    [workspaceId, id, after, most],
  );
  return rows.map((row) => row.id);
};
