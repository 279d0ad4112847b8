import { contentHash } from '@/core/canonical/canonical';
import type { PrintFilePlan } from '@/core/print/plan';
import type { Context } from '../context';
import { ensureRendering, type Made, type Rendering } from '../pictures/renderings';
import { printIn, type PrintOrder } from './printers';

/** PNG for every good; PDF with its page boxes too, for goods with bleed. */
export const PRINT_FORMATS = ['png', 'pdf'] as const;
export type PrintFormat = (typeof PRINT_FORMATS)[number];

/** The form in which a sheet goes out when a form is asked for: goods without bleed have no use for page boxes. */
export const formOf = (plan: PrintFilePlan, asked: PrintFormat): PrintFormat =>
  plan.sheet.geometry.bleedMm > 0 ? asked : 'png';

/** For whom something is made, and when they no longer wait. */
export interface For {
  readonly workspaceId: string;
  readonly signal?: AbortSignal;
}

const print = async (
  ctx: Context,
  order: PrintOrder,
  { workspaceId, signal }: For,
  mediaType: string,
): Promise<Made> => {
  const printed = await printIn(ctx.config.home, ctx.files, order, { owner: workspaceId, signal });
  return { ...printed, mediaType };
};

/**
 * The print file of a plan: exactly its pixels, with density; made once and kept by content. Garments keep their alpha channel whatever is
 * printed; a good with bleed that is covered all over has none.
 */
export const ensurePrintFile = (ctx: Context, whom: For, plan: PrintFilePlan): Promise<Rendering> =>
  ensureRendering(ctx, whom, plan.key, 'print-file', (signal) =>
    print(ctx, { kind: 'sheet', sheet: plan.sheet }, { ...whom, signal }, 'image/png'),
  );

/** The same as PDF with TrimBox and BleedBox, out of the PNG and with its own packed data. */
export const ensurePrintPdf = (ctx: Context, whom: For, plan: PrintFilePlan): Promise<Rendering> =>
  ensureRendering(ctx, whom, contentHash({ of: plan.key, form: 'pdf' }), 'print-file', async (signal) => {
    const png = (await ensurePrintFile(ctx, { ...whom, signal }, plan)).sha256;
    const pixels = plan.widthPx * plan.heightPx;
    const order = { kind: 'pdf', png, geometry: plan.sheet.geometry, title: plan.slug, pixels } as const;
    return print(ctx, order, { ...whom, signal }, 'application/pdf');
  });

export const ensurePrintForm = (ctx: Context, whom: For, plan: PrintFilePlan, form: PrintFormat): Promise<Rendering> =>
  formOf(plan, form) === 'pdf' ? ensurePrintPdf(ctx, whom, plan) : ensurePrintFile(ctx, whom, plan);

const PROOF_PX = 320;

/** A small picture of a print file that is made, for lists: a poster itself has 79 megapixels. */
export const ensurePrintProof = (ctx: Context, whom: For, plan: PrintFilePlan, made: Rendering): Promise<Rendering> =>
  ensureRendering(ctx, whom, contentHash({ of: plan.key, form: 'proof' }), 'print-file', (signal) =>
    print(ctx, { kind: 'proof', png: made.sha256, sidePx: PROOF_PX }, { ...whom, signal }, 'image/webp'),
  );
