import { ZipFile } from 'yazl';
import { Readable, type PassThrough } from 'node:stream';
import { isTypicaError, TypicaError } from '@/core/errors';
import { EXTENSIONS, type PictureFormat } from '@/core/listing/picture-format';
import type { PicturePlan } from '@/core/listing/pictures';
import type { Context } from '../context';
import type { ProductDesign } from '../products/bundle';
import { pictureAs } from './pictures';
import { allPlans, plansOf } from './product-pictures';
import type { PictureForms } from './store-format';

/** The same day for every entry, so that the same pictures give the same bytes. */
const NO_TIME = new Date(Date.UTC(2000, 0, 1));

/** File name of a picture: its place in the order, and what it shows. */
export const pictureFileName = (plan: PicturePlan, index: number, form: PictureFormat): string =>
  `${String(index + 1).padStart(2, '0')} ${plan.alt
    .replace(/[\\/:*?"<>|]+/g, ' ')
    .replace(/\s+/g, ' ')
    .slice(0, 90)
    .trim()}.${EXTENSIONS[form.format]}`;

/** Once a reader has taken what was written, or gone away. */
function drained(out: PassThrough): Promise<void> {
  if (!out.writableNeedDrain || out.destroyed) return Promise.resolve();
  return new Promise((resolve) => {
    const done = () => {
      out.off('drain', done).off('close', done);
      resolve();
    };
    out.on('drain', done).on('close', done);
  });
}

/** The pictures of a product, of one store, or those with these ids, as a ZIP, in the form for its place; each is made when its turn comes; what cannot be made is a text that says why. Throws `no-pictures`. */
export function pictureArchive(
  ctx: Context,
  whom: { readonly workspaceId: string; readonly signal?: AbortSignal },
  design: ProductDesign,
  forms: PictureForms,
  { ids, storeId = null }: { readonly ids?: readonly string[]; readonly storeId?: string | null } = {},
): ReadableStream<Uint8Array> {
  const plans = ids ? allPlans(design).filter((plan) => ids.includes(plan.id)) : plansOf(design, storeId);
  if (plans.length === 0)
    throw new TypicaError(
      'invalid',
      'no-pictures',
      'There is no picture yet: place something on an area, choose at least one variant, or upload pictures of your own.',
    );
  const zip = new ZipFile();
  const options = { mtime: NO_TIME, mode: 0o100644, compress: false, forceDosTimestamp: true };
  const add = async (index: number): Promise<void> => {
    const plan = plans[index];
    if (!plan || whom.signal?.aborted) return zip.end();
    const form = forms.at(index);
    const name = pictureFileName(plan, index, form);
    try {
      const { bytes } = await pictureAs(ctx, whom, plan, form, forms.isOfStore);
      zip.addBuffer(bytes, name, options);
    } catch (error) {
      // One that cannot be made is named in its place, and the rest goes on.
      const why = isTypicaError(error) && error.visible ? error.message : 'It could not be made. Try again.';
      zip.addBuffer(Buffer.from(`${why}\n`), `${name}.txt`, options);
    }
    // The next is made when the one before has gone out: a slow reader must not have all of them held here.
    await drained(zip.outputStream as PassThrough);
    return add(index + 1);
  };
  void add(0);
  return Readable.toWeb(zip.outputStream as Readable) as ReadableStream<Uint8Array>;
}
