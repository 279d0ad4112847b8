import { invalid, isTypicaError } from '@/core/errors';
import { diff } from '@/core/document/patch';
import type { ProductDocument } from '@/core/document/document';
import type { Finding } from '@/core/findings/finding';
import { withArtwork } from '@/core/findings/remedy';
import type { Context } from '../context';
import { findingsOf } from '../findings/findings';
import { enqueue } from '../jobs/jobs';
import type { Actor } from '../people/people';
import { loadDesigns, sourceOf, type ProductDesign } from '../products/bundle';
import { patchProduct } from '../products/patch';
import { findProduct } from '../products/products';
import { refuseOver } from '../quotas/quotas';
import { findArtwork, type ArtworkRow } from './artwork';
import { countWith, idsWith, productsWith } from './library';

/** What a replacement changes in one product. */
export interface ReplacedIn {
  readonly productId: string;
  readonly title: string;
  /** How many layers print the artwork. */
  readonly layers: number;
  /** Stops and warnings that come, and that go. */
  readonly comes: readonly Finding[];
  readonly goes: readonly Finding[];
}

/** The document with another artwork wherever the old one is, in the same place and as wide. */
export function withReplaced(doc: ProductDocument, oldId: string, newId: string, oldAspect: number): ProductDocument {
  const areas = Object.fromEntries(
    Object.entries(doc.areas).map(([areaKey, area]) => [
      areaKey,
      {
        ...area,
        layers: Object.fromEntries(
          Object.entries(area.layers).map(([layerId, layer]) => {
            const own =
              layer.kind === 'artwork' && layer.artworkId === oldId ? withArtwork(layer, newId, oldAspect) : layer;
            if (!own.versions) return [layerId, own];
            const versions = Object.fromEntries(
              Object.entries(own.versions).map(([color, version]) => [
                color,
                version.artworkId === oldId ? { ...version, artworkId: newId } : version,
              ]),
            );
            return [layerId, { ...own, versions }];
          }),
        ),
      },
    ]),
  );
  return { ...doc, areas };
}

async function bothReady(ctx: Context, workspaceId: string, oldId: string, newId: string) {
  if (oldId === newId)
    throw invalid('replace-itself', 'This is the same artwork; choose another one to put in its place.');
  const [old, by] = await Promise.all([findArtwork(ctx, workspaceId, oldId), findArtwork(ctx, workspaceId, newId)]);
  for (const artwork of [old, by])
    if (artwork.state !== 'ready')
      throw invalid('artwork-not-ready', `${artwork.name} is not ready; wait until it is processed.`);
  return { old, by };
}

const aspectOf = ({ facts }: ArtworkRow): number => facts!.heightPx / facts!.widthPx;
const replacedBy = ({ name, facts }: ArtworkRow) => ({ name, widthPx: facts!.widthPx, heightPx: facts!.heightPx });

/** What would change in each product if one artwork were put in the place of another everywhere; nothing is changed. */
export async function previewReplacement(
  ctx: Context,
  actor: Actor,
  oldId: string,
  newId: string,
): Promise<{ total: number; products: ReplacedIn[] }> {
  const { old, by } = await bothReady(ctx, actor.workspaceId, oldId, newId);
  const [products, total] = await Promise.all([
    productsWith(ctx, actor.workspaceId, oldId),
    countWith(ctx, actor.workspaceId, oldId),
  ]);
  if (products.length === 0) return { total, products: [] };
  const designs = await loadDesigns(ctx, actor.workspaceId, products);
  const told = (findings: readonly Finding[]) => findings.filter((finding) => finding.severity !== 'note');
  const replaced = await Promise.all(
    designs.map(async (design) => {
      const document = withReplaced(design.product.document, oldId, newId, aspectOf(old));
      const after: ProductDesign = {
        ...design,
        product: { ...design.product, document },
        artworks: new Map([...design.artworks, [newId, { ...by, replaced: replacedBy(old) }]]),
        sources: new Map([...design.sources, [newId, sourceOf(by)!]]),
      };
      const now = told(await findingsOf(ctx, design));
      const then = told(await findingsOf(ctx, after));
      const has = (all: readonly Finding[], one: Finding) => all.some((other) => other.id === one.id);
      return {
        productId: design.product.id,
        title: design.product.title,
        layers: Object.values(design.product.document.areas).flatMap(({ layers }) =>
          Object.values(layers).filter((layer) => layer.kind === 'artwork' && layer.artworkId === oldId),
        ).length,
        comes: then.filter((one) => !has(now, one)),
        goes: now.filter((one) => !has(then, one)),
      };
    }),
  );
  return { total, products: replaced };
}

/** Times that a product is tried again when someone changes the same layer in the same moment. */
const TRIES = 4;

async function replaceIn(
  ctx: Context,
  actor: Actor,
  id: string,
  old: ArtworkRow,
  by: ArtworkRow,
  key: string,
): Promise<number> {
  for (let attempt = 1; ; attempt += 1) {
    const { revision, document } = await findProduct(ctx, actor.workspaceId, id);
    const patch = diff(document, withReplaced(document, old.id, by.id, aspectOf(old)));
    try {
      const label = `Replace ${old.name} by ${by.name}`;
      return (await patchProduct(ctx, actor, id, revision, patch, { label, key })).revision;
    } catch (error) {
      if (!isTypicaError(error, 'revision-conflict') || attempt === TRIES) throw error;
    }
  }
}

/**
 * Asks for one artwork to be put in the place of another in all products, by a job. Each product gets a revision of its own, which can be undone
 * there; listings then read `ahead` until they are sent.
 */
export async function askToReplace(
  ctx: Context,
  actor: Actor,
  oldId: string,
  newId: string,
): Promise<{ jobId: string; total: number }> {
  const { old, by } = await bothReady(ctx, actor.workspaceId, oldId, newId);
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  const total = await countWith(ctx, actor.workspaceId, oldId);
  const jobId = await enqueue(ctx.db, {
    workspaceId: actor.workspaceId,
    kind: 'replace-artwork',
    title: `Replace ${old.name} by ${by.name}`,
    payload: { oldId, newId, personId: actor.personId },
    subject: `artwork-in-use:${oldId}`,
    priority: 9,
  });
  return { jobId, total };
}

/** Products that are replaced in between two reports of progress. */
const AT_ONCE = 50;

/** Puts one artwork in the place of another in all products, one after the other; a try that was cut off goes on where it stopped. */
export async function replaceEverywhere(
  ctx: Context,
  actor: Actor,
  oldId: string,
  newId: string,
  /** The key of its patches, by which all of them can be undone. */
  key: string,
  progress: (done: number, total: number) => Promise<void> = async () => {},
): Promise<{ products: number }> {
  const { old, by } = await bothReady(ctx, actor.workspaceId, oldId, newId);
  const total = await countWith(ctx, actor.workspaceId, oldId);
  if (total > 0)
    // Said first: however far this comes, what stands there now stands in for something.
    await ctx.db.run('UPDATE artwork SET replaced = ? WHERE id = ? AND workspace_id = ?', [
      JSON.stringify(replacedBy(old)),
      newId,
      actor.workspaceId,
    ]);
  let done = 0;
  for (let after = ''; ;) {
    await progress(done, Math.max(done, total));
    const ids = await idsWith(ctx, actor.workspaceId, oldId, after, AT_ONCE);
    for (const id of ids) {
      await replaceIn(ctx, actor, id, old, by, key);
      done += 1;
    }
    after = ids.at(-1) ?? '';
    if (ids.length < AT_ONCE) break;
  }
  return { products: done };
}
