import sharp from 'sharp';
import { contentHash } from '@/core/listing/canonical';
import { OWN_FORM, type PictureForm } from '@/core/listing/picture-form';
import type { PicturePlan } from '@/core/listing/pictures';
import { readBlob } from '../blobs/blobs';
import { passesOfShot } from '../catalog/blanks';
import type { Context } from '../context';
import { MAX_PIXELS } from '../images/limits';
import { encodePicture, type EncodedPicture } from './form';
import { likenessOf, type Painted } from './painter';
import { paintInThread } from './painters';
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
  workspaceId: string,
  plan: PicturePlan,
  size: PictureSize,
): Promise<Rendering> =>
  ensureRendering(ctx, workspaceId, renderKey(plan, size), 'mock-up', () =>
    paint(ctx, plan, size, size === 'full' || plan.shot ? OWN_FORM : { ...OWN_FORM, longSideMaxPx: PROOF_PX }),
  );

/** The picture in the form that someone takes it in: made anew from the same passes and sheets, and not kept. */
export const derivePicture = (
  ctx: Context,
  plan: PicturePlan,
  form: PictureForm,
  size: PictureSize = 'full',
): Promise<EncodedPicture> => paint(ctx, plan, size, form);

async function paint(ctx: Context, plan: PicturePlan, size: PictureSize, form: PictureForm): Promise<Painted> {
  if (plan.shot) {
    const { document, contentHash: hash, id } = plan.shot;
    return paintInThread(ctx.config.home, {
      shot: { document, contentHash: hash, passes: await passesOfShot(ctx, id) },
      factor: size === 'full' ? 1 : 2,
      fabric: plan.fabric,
      material: plan.material,
      sheets: plan.sheets,
      form,
    });
  }
  const { data, info } = await sharp(await readBlob(ctx, plan.photograph.sha256), { limitInputPixels: MAX_PIXELS })
    .autoOrient()
    .toColourspace('srgb')
    .flatten({ background: '#ffffff' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rgb = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const picture = { widthPx: info.width, heightPx: info.height, rgb };
  return {
    ...(await encodePicture(picture, form)),
    alike: size === 'full' ? null : await likenessOf(rgb, info.width, info.height),
  };
}
