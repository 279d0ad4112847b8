import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { listBatches, type BatchRow } from '@/server/pricing/bulk';
import { listRules } from '@/server/pricing/rules';
import { kindsAndTags } from '@/server/products/kinds-and-tags';

export type { BulkView } from '@/server/pricing/bulk';
export type { BulkPreview } from '@/server/pricing/bulk-tasks';

export interface PricesData {
  readonly batches: readonly (Omit<BatchRow, 'madeAt' | 'undoneAt'> & {
    readonly madeAt: string;
    readonly undone: boolean;
  })[];
  readonly rules: readonly { readonly id: string; readonly name: string }[];
  readonly kinds: readonly string[];
  readonly tags: readonly string[];
}

/** Everything that the page of prices of many products shows. */
export async function loadPrices(ctx: Context, actor: Actor): Promise<PricesData> {
  const [batches, rules, named] = await Promise.all([
    listBatches(ctx, actor.workspaceId),
    listRules(ctx, actor.workspaceId),
    kindsAndTags(ctx, actor.workspaceId),
  ]);
  return {
    batches: batches.map(({ madeAt, undoneAt, ...batch }) => ({
      ...batch,
      madeAt: madeAt.toISOString(),
      undone: undoneAt !== null,
    })),
    rules: rules.map(({ id, name }) => ({ id, name })),
    ...named,
  };
}
