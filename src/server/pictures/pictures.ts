import { contentHash } from '@/core/canonical/canonical';
import { MEDIA_TYPES, OWN_FORMAT, type PictureFormat } from '@/core/listing/picture-format';
import type { PicturePlan } from '@/core/listing/pictures';
import { readBlob } from '../blobs/blobs';
import { passesOfShot } from '../catalog/blanks';
import type { Context } from '../context';
import type { EncodedPicture } from './encode';
import type { Painted } from './painter';
import { inStudio, type Asker } from './painters';
import { ensureRendering, type Rendering } from './renderings';

/** `full` is as large as the shot; `proof` is half of it, for the proof rail and lists. */
export type PictureSize = 'full' | 'proof';

/** Longest side of a seller's own picture as a proof, px. */
const PROOF_PX = 800;

/** Key of a picture at a size. */
export const renderKey = (plan: Pick<PicturePlan, 'key'>, size: PictureSize): string =>
  size === 'full' ? plan.key : contentHash({ of: plan.key, size });

/** The picture of a plan as it is shown and kept here; made when it is not there. */
export const ensurePicture = (
  ctx: Context,
  whom: { readonly workspaceId: string; readonly signal?: AbortSignal },
  plan: PicturePlan,
  size: PictureSize,
): Promise<Rendering> =>
  ensureRendering(ctx, whom, renderKey(plan, size), 'mock-up', async (signal) => {
    const form = size === 'full' || plan.shot ? OWN_FORMAT : { ...OWN_FORMAT, longSideMaxPx: PROOF_PX };
    const { bytes, ...painted } = await paint(ctx, plan, size, form, { owner: whom.workspaceId, signal });
    return { ...painted, bytes: bufferOf(bytes) };
  });

/** Key of a picture in a form in which someone takes it. */
const formKey = (plan: Pick<PicturePlan, 'key'>, form: PictureFormat): string => contentHash({ of: plan.key, form });

/**
 * The picture in the form in which a store takes it: made from the same passes and sheets as all others, and kept, so that another try, another store
 * of that channel or a download does not make it again.
 */
export async function pictureInForm(
  ctx: Context,
  whom: { readonly workspaceId: string; readonly signal?: AbortSignal },
  plan: PicturePlan,
  form: PictureFormat,
): Promise<{ readonly bytes: Buffer; readonly mediaType: string }> {
  const { sha256 } = await ensureRendering(ctx, whom, formKey(plan, form), 'mock-up', async (signal) => {
    const { alike: _, ...painted } = await paint(ctx, plan, 'full', form, { owner: whom.workspaceId, signal });
    return { ...painted, bytes: bufferOf(painted.bytes) };
  });
  return { bytes: await readBlob(ctx, sha256), mediaType: MEDIA_TYPES[form.format] };
}

/** The picture in a form that is asked for once: made anew, and not kept. */
export async function derivePicture(
  ctx: Context,
  workspaceId: string,
  plan: PicturePlan,
  form: PictureFormat,
  { size = 'full' as PictureSize, signal = undefined as AbortSignal | undefined } = {},
): Promise<EncodedPicture> {
  const painted = await paint(ctx, plan, size, form, { owner: workspaceId, signal });
  return { ...painted, bytes: bufferOf(painted.bytes) };
}

/** The picture in a form: kept where that is what a store takes. */
export const pictureAs = (
  ctx: Context,
  whom: { readonly workspaceId: string; readonly signal?: AbortSignal },
  plan: PicturePlan,
  form: PictureFormat,
  isOfStore: boolean,
): Promise<{ readonly bytes: Buffer; readonly mediaType: string }> =>
  isOfStore
    ? pictureInForm(ctx, whom, plan, form)
    : derivePicture(ctx, whom.workspaceId, plan, form, { signal: whom.signal });

const bufferOf = (bytes: Uint8Array): Buffer => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);

async function paint(
  ctx: Context,
  plan: PicturePlan,
  size: PictureSize,
  form: PictureFormat,
  from: Asker,
): Promise<Painted> {
  if (!plan.shot)
    return inStudio(ctx, { kind: 'photograph', sha256: plan.photograph.sha256, form, small: size !== 'full' }, from);
  const { document, contentHash: hash, id } = plan.shot;
  const order = {
    shot: { document, contentHash: hash, passes: await passesOfShot(ctx, id) },
    factor: size === 'full' ? (1 as const) : (2 as const),
    fabric: plan.fabric,
    material: plan.material,
    sheets: plan.sheets,
    form,
  };
  return inStudio(ctx, { kind: 'paint', order }, from);
}
