import { areaTitle } from '@/core/catalog/blank';
import { nearDuplicates } from '@/core/listing/near-duplicates';
import {
  DEFAULT_PICTURES,
  fabricOf,
  MAX_PICTURES,
  pictureSize,
  planPictures,
  usefulShots,
  type PicturePlan,
} from '@/core/listing/pictures';
import { ownEntry } from '@/core/own-entry';
import type { Context } from '../context';
import { emit } from '../events/events';
import { pictureWorld, type ProductDesign } from '../products/bundle';
import { renderKey } from './pictures';
import { findRenderings, type Rendering } from './renderings';

/** A picture of a product as people see it. */
export interface ProductPicture {
  readonly id: string;
  readonly shotId: string | null;
  readonly imageId: string | null;
  readonly shot: string;
  readonly color: string | null;
  readonly colorName: string | null;
  readonly alt: string;
  readonly main: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
  /** `made`: as the design is now; `old`: an earlier one is in view until it is; `none`: there is none yet. */
  readonly state: 'made' | 'old' | 'none';
  /** Why it could not be made as the design is now. */
  readonly problem: string | null;
  /** Of the picture in view, as a small JPEG; null while there is none. */
  readonly href: string | null;
  /** The picture before it that it looks like. */
  readonly duplicateOf: string | null;
}

/** What a picture is of, whatever the design is. */
export const slotOf = (plan: PicturePlan): string =>
  plan.shot ? `${plan.shot.id}/${plan.color ?? ''}` : `own/${plan.photograph.id}`;

/** The pictures of a product in their order: of one store, or for all. */
export const plansOf = (design: ProductDesign, storeId: string | null = null): PicturePlan[] => {
  const { base, stores } = design.product.document.pictures;
  const chosen = Object.keys({ ...base, ...ownEntry(stores, storeId) }).length;
  return planPictures(
    design.product.document,
    pictureWorld(design),
    storeId,
    chosen > 0 ? MAX_PICTURES : DEFAULT_PICTURES,
  );
};

function once<T>(all: readonly T[], name: (one: T) => string): T[] {
  const seen = new Set<string>();
  return all.filter((one) => seen.size < seen.add(name(one)).size);
}

/** Every picture of a product: those for all, then those that single stores have beside them. */
export function allPlans(design: ProductDesign): PicturePlan[] {
  const stores = Object.keys(design.product.document.pictures.stores);
  return once(
    [null, ...stores].flatMap((id) => plansOf(design, id)),
    ({ id }) => id,
  );
}

/** Pictures that are made: what two of them show is made once. */
export const oncePerSlot = (plans: readonly PicturePlan[]): PicturePlan[] => once(plans, slotOf);

/** The pictures of a product in their order, for all or in one store, with what of each is in view. */
export async function picturesOf(
  ctx: Context,
  design: ProductDesign,
  storeId: string | null = null,
): Promise<ProductPicture[]> {
  const { product, blank } = design;
  const plans = plansOf(design, storeId);
  const [made, shown, problems] = await Promise.all([
    findRenderings(
      ctx,
      product.workspaceId,
      plans.map((plan) => renderKey(plan, 'proof')),
    ),
    ctx.db.rows<{ slot: string; renderKey: string }>(
      'SELECT slot, render_key AS renderKey FROM product_picture WHERE product_id = ? AND workspace_id = ?',
      [product.id, product.workspaceId],
    ),
    ctx.db.rows<{ renderKey: string; says: string }>(
      'SELECT render_key AS renderKey, says FROM picture_problem WHERE product_id = ? AND workspace_id = ?',
      [product.id, product.workspaceId],
    ),
  ]);
  const now = (plan: PicturePlan) => made.get(renderKey(plan, 'proof'));
  const duplicates = nearDuplicates(
    plans.map((plan) => ({ id: plan.id, likeness: now(plan)?.likeness ?? null, tint: now(plan)?.tint ?? null })),
  );
  return plans.map((plan) => {
    const old = shown.find((row) => row.slot === slotOf(plan))?.renderKey;
    const key = now(plan) ? renderKey(plan, 'proof') : old;
    const { widthPx, heightPx } = pictureSize(plan);
    return {
      id: plan.id,
      shotId: plan.shotId,
      imageId: plan.shot ? null : plan.photograph.id,
      shot: plan.shot ? plan.shot.document.name : plan.photograph.name,
      color: plan.color,
      colorName: fabricOf(blank, plan.color)?.name ?? null,
      alt: plan.alt,
      main: plan.main,
      widthPx,
      heightPx,
      state: now(plan) ? 'made' : old ? 'old' : 'none',
      problem: now(plan) ? null : (problems.find((row) => row.renderKey === renderKey(plan, 'proof'))?.says ?? null),
      href: key ? `/api/v1/pictures/${key}` : null,
      duplicateOf: duplicates.get(plan.id) ?? null,
    };
  });
}

/** Shots that a product can be seen in, with the areas that they show. */
export const shotsToChoose = ({ product, blank, shots }: ProductDesign) => {
  const useful = new Set(usefulShots(product.document, blank, shots).map(({ id }) => id));
  return shots.map(({ id, document, workspaceId }) => ({
    id,
    name: document.name,
    angle: document.angle,
    turnDeg: document.turnDeg ?? null,
    own: workspaceId !== null,
    /** Whether it shows something that is printed, on a shape that is chosen. */
    shows: useful.has(id),
    areas: Object.keys(document.areas).flatMap((key) => {
      const area = blank.areas.find((one) => one.key === key);
      return area ? [areaTitle(blank, area)] : [];
    }),
  }));
};

/** Notes that a picture is in view now, and tells the browsers. */
export async function recordPicture(
  ctx: Context,
  design: ProductDesign,
  plan: PicturePlan,
  made: Rendering,
): Promise<void> {
  const { product } = design;
  await ctx.db.run(
    `INSERT INTO product_picture (workspace_id, product_id, slot, render_key, sha256) VALUES (?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE render_key = VALUE(render_key), sha256 = VALUE(sha256), made_at = UTC_TIMESTAMP(3)`,
    [product.workspaceId, product.id, slotOf(plan), renderKey(plan, 'proof'), made.sha256],
  );
  await emit(ctx.db, product.workspaceId, 'picture', { productId: product.id, pictureId: plan.id });
}

/** Notes why a picture could not be made, and tells the browsers. */
export async function recordPictureProblem(
  ctx: Context,
  { product }: ProductDesign,
  plan: PicturePlan,
  says: string,
): Promise<void> {
  await ctx.db.run(
    `INSERT INTO picture_problem (workspace_id, product_id, slot, render_key, says) VALUES (?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE render_key = VALUE(render_key), says = VALUE(says)`,
    [product.workspaceId, product.id, slotOf(plan), renderKey(plan, 'proof'), says],
  );
  await emit(ctx.db, product.workspaceId, 'picture', { productId: product.id, pictureId: plan.id });
}

/** The blob of a picture that is made, or is still in view. */
export async function findShownPicture(ctx: Context, workspaceId: string, key: string): Promise<string | null> {
  const row = await ctx.db.row<{ sha256: string }>(
    `SELECT sha256 FROM rendering WHERE workspace_id = ? AND render_key = ? AND kind = 'mock-up'
     UNION SELECT sha256 FROM product_picture WHERE workspace_id = ? AND render_key = ? LIMIT 1`,
    [workspaceId, key, workspaceId, key],
  );
  return row?.sha256 ?? null;
}
