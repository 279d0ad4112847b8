import { browseShelf } from '../catalog/shelf';
import { makeContext, type Context } from '../context';
import { computeFindings } from '../findings/compute';
import { applyAllPrices, applyRule, exportAllPrices, previewAllPrices, previewRule } from '../pricing/bulk-tasks';
import { applyCodes, applyPrices, exportPrices, matchSold, previewCodes, previewPrices } from '../pricing/sheet-tasks';
import { serve } from '../studio/serve';
import type { Reckoning, Reckonings } from './reckoners';

/** The process that reckons what would keep the one that answers from answering. */
type Task<K extends keyof Reckonings> = (ctx: Context, input: Reckonings[K][0]) => Promise<Reckonings[K][1]>;

const TASKS: { readonly [K in keyof Reckonings]: Task<K> } = {
  findings: (_ctx, input) => computeFindings(input),
  browse: (ctx, { workspace, query }) => browseShelf(ctx, workspace, query),
  'export-prices': exportPrices,
  'preview-prices': previewPrices,
  'apply-prices': applyPrices,
  'preview-codes': previewCodes,
  'apply-codes': applyCodes,
  'export-all-prices': exportAllPrices,
  'preview-all-prices': previewAllPrices,
  'apply-all-prices': applyAllPrices,
  'preview-rule': previewRule,
  'apply-rule': applyRule,
  'match-skus': matchSold,
};

const ctx = makeContext();
serve<Reckoning, unknown>(({ task, input }) => (TASKS[task] as Task<keyof Reckonings>)(ctx, input as never));
