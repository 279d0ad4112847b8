import { geometryIdFor, type OptionValues } from '@/core/catalog/blank';
import { conflict, invalid, notFound } from '@/core/errors';
import type { Marks } from '@/core/shot/marks';
import type { Part } from '@/core/shot/part';
import { SHOT_VERSION, type PassFile, type ShotDocument } from '@/core/shot/shot';
import { findShot, loadBlank, type StoredShot } from '../catalog/blanks';
import { writeShot } from '../catalog/import-shot';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { inStudio } from '../pictures/painters';
import { findPhotograph } from '../photographs/photographs';
import { ownEntry } from '@/core/own-entry';

/** A shot of a seller's own, as it is marked. Places in px of the photograph. */
export interface MarkedShot {
  readonly photographId: string;
  readonly name: string;
  readonly areaKey: string;
  /** A variant in whose geometry the marks are meant; of an area that is the same for all, `{}`. */
  readonly variant: OptionValues;
  readonly marks: Marks;
  /** What takes the fabric's color; null: the good keeps the color that it has. */
  readonly part: Part | null;
}

/** Makes a shot out of a photograph: in the same format as every other. Throws `marks-…` and `photo-…` with what is wrong. */
async function makeShot(
  ctx: Context,
  actor: Actor,
  blankId: string,
  id: string,
  input: MarkedShot,
): Promise<{ document: ShotDocument; passes: Map<string, Buffer> }> {
  const blank = await loadBlank(ctx, blankId);
  const area = blank.areas.find((one) => one.key === input.areaKey);
  if (!area)
    throw invalid('area-unknown', `${blank.name} has no print area “${input.areaKey}”. Choose one that it has.`);
  const geometry = ownEntry(blank.geometries, geometryIdFor(area, input.variant) ?? '');
  if (!geometry)
    throw invalid('variant-unknown', `The area “${area.name}” of ${blank.name} has no shape for this variant.`);
  const photograph = await findPhotograph(ctx, actor.workspaceId, input.photographId);
  if (photograph.state !== 'ready' || !photograph.sourceSha256 || !photograph.facts)
    throw conflict('photograph-not-ready', 'This photograph is still being processed. Try again in a moment.');
  const { widthPx, heightPx, map, restScale, shadeScale, passes } = await inStudio(
    ctx,
    {
      kind: 'photo-shot',
      order: {
        sha256: photograph.sourceSha256,
        widthPx: photograph.facts.widthPx,
        marks: input.marks,
        part: input.part,
        geometry,
      },
    },
    { owner: actor.workspaceId },
  );
  const linear = (file: string, passScale: number): PassFile => ({ file, encoding: 'linear16', scale: passScale });
  const document: ShotDocument = {
    format: 'typica-shot',
    version: SHOT_VERSION,
    code: `own-${id}`,
    name: input.name,
    angle: 'own',
    // It joins no product's pictures that did not choose it.
    chosenOnly: true,
    widthPx,
    heightPx,
    // A photograph has its own tone: it is shown as it is, up to its white.
    tone: { straightTo: 0.98 },
    passes: {
      rest: linear('rest.png', restScale),
      shade: linear('shade.png', shadeScale),
      ...(passes.has('fabric.png') ? { fabric: { file: 'fabric.png', encoding: 'coverage8' as const, scale: 1 } } : {}),
    },
    areas: { [input.areaKey]: { variant: input.variant, map } },
  };
  return { document, passes: new Map([...passes].map(([file, bytes]) => [file, Buffer.from(bytes)])) };
}

/** Makes a shot, or makes one anew under its id: products that show it show the new one. */
export async function saveOwnShot(
  ctx: Context,
  actor: Actor,
  blankId: string,
  input: MarkedShot,
  existing: string | null = null,
): Promise<StoredShot> {
  if (!existing) await refuseOver(ctx, actor.workspaceId, 'files');
  const id = existing ?? newId('h');
  const { document, passes } = await makeShot(ctx, actor, blankId, id, input);
  await writeShot(ctx, {
    id,
    blankId,
    code: `own-${id}`,
    position: 0,
    document,
    passes,
    own: { workspaceId: actor.workspaceId, photographId: input.photographId, marked: JSON.stringify(input) },
  });
  return findShot(ctx, actor.workspaceId, id);
}

/** A seller's own shot with its marks. Throws `not-found` for one of the catalog. */
export async function findOwnShot(
  ctx: Context,
  workspaceId: string,
  id: string,
): Promise<{ shot: StoredShot; marked: MarkedShot }> {
  const shot = await findShot(ctx, workspaceId, id);
  const row = await ctx.db.row<{ marked: string | null }>('SELECT marked FROM shot WHERE id = ? AND workspace_id = ?', [
    id,
    workspaceId,
  ]);
  if (!row?.marked) throw notFound('shot of your own', id);
  return { shot, marked: JSON.parse(row.marked) as MarkedShot };
}

/** Deletes a seller's own shot. Throws `shot-used` while a product has chosen it. */
export async function deleteOwnShot(ctx: Context, actor: Actor, id: string): Promise<void> {
  await findOwnShot(ctx, actor.workspaceId, id);
  await ctx.pools.transaction(async (db) => {
    const product = await db.row<{ title: string }>(
      `SELECT title FROM product WHERE workspace_id = ? AND archived_at IS NULL AND JSON_SEARCH(document, 'one', ?, NULL, '$.pictures') IS NOT NULL LIMIT 1`,
      [actor.workspaceId, id],
    );
    if (product) throw conflict('shot-used', `${product.title} shows this shot. Remove its pictures there first.`);
    await db.run('DELETE FROM shot_pass WHERE shot_id = ?', [id]);
    await db.run('DELETE FROM shot WHERE id = ? AND workspace_id = ?', [id, actor.workspaceId]);
  });
}
