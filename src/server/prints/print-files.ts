import type { PrintFilePlan } from '@/core/print/plan';
import type { Context } from '../context';
import { composeSheet } from '../images/compose';
import { encodePrintPng } from '../images/encode';
import { ensureRendering, type Rendering } from '../pictures/renderings';

/** The print file of a plan: exactly its pixels, PNG with transparency and density; made once and kept by content. */
export function ensurePrintFile(ctx: Context, workspaceId: string, plan: PrintFilePlan): Promise<Rendering> {
  return ensureRendering(ctx, workspaceId, plan.key, 'print-file', async () => {
    const { dpi } = plan.sheet.geometry;
    const raster = await composeSheet(ctx, plan.sheet, dpi);
    const bytes = await encodePrintPng(raster, dpi);
    return { bytes, mediaType: 'image/png', widthPx: raster.widthPx, heightPx: raster.heightPx };
  });
}
