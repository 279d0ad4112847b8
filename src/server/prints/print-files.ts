import sharp from 'sharp';
import { contentHash } from '@/core/listing/canonical';
import { printPdf, type PdfPicture } from '@/core/print/pdf';
import type { PrintFilePlan } from '@/core/print/plan';
import { readPng } from '@/core/print/png-form';
import { readBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { MAX_PIXELS } from '../images/limits';
import { packRows, rowsOf } from '../images/png';
import { withRoom } from '../images/room';
import { ensureRendering, type Rendering } from '../pictures/renderings';
import { roomOf, sourcesOf } from './printer';
import { printInThread } from './threads';

/** PNG for every good; PDF with its page boxes too, for goods with bleed. */
export const PRINT_FORMS = ['png', 'pdf'] as const;
export type PrintForm = (typeof PRINT_FORMS)[number];

/** The form in which a sheet goes out when a form is asked for: goods without bleed have no use for page boxes. */
export const formOf = (plan: PrintFilePlan, asked: PrintForm): PrintForm =>
  plan.sheet.geometry.bleedMm > 0 ? asked : 'png';

/**
 * The print file of a plan: exactly its pixels, with density; made once and kept by content. Garments keep their alpha channel whatever is
 * printed; a good with bleed that is covered all over has none.
 */
export function ensurePrintFile(ctx: Context, workspaceId: string, plan: PrintFilePlan): Promise<Rendering> {
  return ensureRendering(ctx, workspaceId, plan.key, 'print-file', async () => {
    const { sheet } = plan;
    const bytes = await withRoom(roomOf(sheet), async () => {
      const files = new Map<string, Uint8Array>();
      for (const sha256 of sourcesOf(sheet)) files.set(sha256, await readBlob(ctx, sha256));
      return printInThread(sheet, files);
    });
    return { bytes, mediaType: 'image/png', widthPx: plan.widthPx, heightPx: plan.heightPx };
  });
}

/** The same as PDF with TrimBox and BleedBox, out of the PNG and with its own packed data. */
export function ensurePrintPdf(ctx: Context, workspaceId: string, plan: PrintFilePlan): Promise<Rendering> {
  const key = contentHash({ of: plan.key, form: 'pdf' });
  return ensureRendering(ctx, workspaceId, key, 'print-file', async () => {
    const png = await readBlob(ctx, (await ensurePrintFile(ctx, workspaceId, plan)).sha256);
    const { color, alpha } = await pdfPictures(png);
    const bytes = Buffer.concat(printPdf(plan.sheet.geometry, color, alpha, plan.slug));
    return { bytes, mediaType: 'application/pdf', widthPx: plan.widthPx, heightPx: plan.heightPx };
  });
}

/** An opaque PNG goes into a PDF as it is; one with alpha is packed again as color and as mask, since PDF keeps these apart. */
async function pdfPictures(png: Buffer): Promise<{ color: PdfPicture; alpha: PdfPicture | null }> {
  const own = readPng(png);
  if (own.color === 'rgb') return { color: own, alpha: null };
  const { widthPx, heightPx } = own;
  return withRoom(widthPx * heightPx * 4, async () => {
    const data = await sharp(png, { limitInputPixels: MAX_PIXELS }).raw().toBuffer();
    const rows = rowsOf({
      widthPx,
      heightPx,
      data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    });
    const color = { widthPx, heightPx, color: 'rgb' as const, packed: await packRows(rows, 'rgb') };
    return { color, alpha: { widthPx, heightPx, color: 'gray' as const, packed: await packRows(rows, 'gray') } };
  });
}

export const ensurePrintForm = (
  ctx: Context,
  workspaceId: string,
  plan: PrintFilePlan,
  form: PrintForm,
): Promise<Rendering> =>
  formOf(plan, form) === 'pdf' ? ensurePrintPdf(ctx, workspaceId, plan) : ensurePrintFile(ctx, workspaceId, plan);

const PROOF_PX = 320;

/** A small picture of a print file that is made, for lists: a poster itself has 79 megapixels. */
export function ensurePrintProof(
  ctx: Context,
  workspaceId: string,
  plan: PrintFilePlan,
  made: Rendering,
): Promise<Rendering> {
  const key = contentHash({ of: plan.key, form: 'proof' });
  return ensureRendering(ctx, workspaceId, key, 'print-file', async () => {
    const { data, info } = await sharp(await readBlob(ctx, made.sha256), { limitInputPixels: MAX_PIXELS })
      .resize(PROOF_PX, PROOF_PX, { fit: 'inside' })
      .webp({ quality: 84 })
      .toBuffer({ resolveWithObject: true });
    return { bytes: data, mediaType: 'image/webp', widthPx: info.width, heightPx: info.height };
  });
}
