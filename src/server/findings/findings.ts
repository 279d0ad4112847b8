import { othersToo } from '@/core/words/and-more';
import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { invalid, isTypicaError, notFound, TypicaError } from '@/core/errors';
import { isAcceptable, type Finding } from '@/core/findings/finding';
import { checkedArtwork } from '../artwork/artwork';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import type { ProductDesign } from '../products/bundle';
import { reckon } from '../reckoning/reckoners';
import type { CheckedProduct } from './compute';
import { processWide } from '../process-wide';

/** Who took a warning upon themselves, and when. */
export interface Acceptance {
  readonly findingId: string;
  readonly says: string;
  readonly by: string;
  readonly at: Date;
}

export interface FindingWithAcceptance extends Finding {
  /** Null while nobody has accepted it as it stands now. */
  readonly accepted: { readonly by: string; readonly at: Date } | null;
}

/** Findings by a hash of all that they are made from: the bench, sending and the Artwork page ask for the same. */
const kept = processWide('findings', () => new LRUCache<string, Promise<Finding[]>>({ max: 1000, ttl: 10 * 60_000 }));

/** What the checks say of a product as it is saved. */
export async function findingsOf(ctx: Context, design: ProductDesign): Promise<Finding[]> {
  const { product, blank } = design;
  const checked: CheckedProduct = {
    document: product.document,
    blank,
    artworks: [...design.artworks.values()].map((artwork) => [artwork.id, checkedArtwork(artwork)] as const),
  };
  const key = createHash('sha256').update(JSON.stringify(checked)).digest('base64url');
  const have = kept.get(key);
  if (have) return have;
  const findings = reckon(ctx, 'findings', checked, product.workspaceId);
  kept.set(key, findings);
  // What failed for want of time is not tried again at once; what failed otherwise is.
  findings.catch((error: unknown) => {
    if (!isTypicaError(error, 'reckoning-too-slow')) kept.delete(key);
  });
  return findings;
}

/** Throws `design-stopped` when something of a design must be mended before it may be sold. */
export async function refuseStops(ctx: Context, design: ProductDesign): Promise<void> {
  const { workspaceId, id } = design.product;
  const stops = withAcceptances(await findingsOf(ctx, design), await acceptancesOf(ctx, workspaceId, id)).filter(
    ({ severity, accepted }) => severity === 'stop' && !accepted,
  );
  if (stops.length === 0) return;
  throw new TypicaError(
    'invalid',
    'design-stopped',
    `This design cannot be sent yet: ${stops[0]!.says}${othersToo(stops.length)}`,
    { findings: stops.map(({ id, says, areaKey, layerId }) => ({ id, says, areaKey, layerId })) },
  );
}

export const acceptancesOf = (ctx: Context, workspaceId: string, productId: string): Promise<Acceptance[]> =>
  ctx.db.rows<Acceptance>(
    `SELECT f.finding_id AS findingId, f.says, p.name AS \`by\`, f.accepted_at AS at FROM finding_acceptance f JOIN person p ON p.id = f.person_id
     WHERE f.workspace_id = ? AND f.product_id = ? AND f.finding_id NOT LIKE 'floor:%'`,
    [workspaceId, productId],
  );

/** Findings with who accepted them: an acceptance holds for its own words only. */
export function withAcceptances(
  findings: readonly Finding[],
  acceptances: readonly Acceptance[],
): FindingWithAcceptance[] {
  return findings.map((finding) => {
    const accepted = acceptances.find((one) => one.findingId === finding.id && one.says === finding.says);
    return { ...finding, accepted: accepted ? { by: accepted.by, at: accepted.at } : null };
  });
}

/** Accepts a warning as it stands. Throws `not-found` where the design has no such finding (any more), `finding-not-warn` for others. */
export async function acceptFinding(
  ctx: Context,
  actor: Actor,
  design: ProductDesign,
  findingId: string,
): Promise<void> {
  const finding = (await findingsOf(ctx, design)).find((one) => one.id === findingId);
  if (!finding) throw notFound('finding (the design may have changed; check its findings again)', findingId);
  if (!isAcceptable(finding))
    throw invalid(
      'finding-not-warn',
      finding.severity === 'stop'
        ? 'This stops the product from being sent and cannot be accepted; it has to be fixed.'
        : 'A note asks for nothing; only a warning can be accepted.',
    );
  await ctx.pools.transaction(async (db) => {
    await db.run(
      `INSERT INTO finding_acceptance (workspace_id, product_id, finding_id, says, person_id) VALUES (?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE says = VALUE(says), person_id = VALUE(person_id), accepted_at = UTC_TIMESTAMP(3)`,
      [actor.workspaceId, design.product.id, findingId, finding.says, actor.personId],
    );
    await emit(db, actor.workspaceId, 'finding', { productId: design.product.id });
  });
}

/** Takes an acceptance back; nothing happens where there is none. */
export async function withdrawAcceptance(
  ctx: Context,
  actor: Actor,
  productId: string,
  findingId: string,
): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    await db.run('DELETE FROM finding_acceptance WHERE workspace_id = ? AND product_id = ? AND finding_id = ?', [
      actor.workspaceId,
      productId,
      findingId,
    ]);
    await emit(db, actor.workspaceId, 'finding', { productId });
  });
}
