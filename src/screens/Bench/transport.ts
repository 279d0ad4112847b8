import type { SendResult, Transport } from '@/bench/session';
import type { ProductDocument } from '@/core/document/document';
import type { PatchConflict } from '@/core/document/patch';
import { call, Problem } from '@/ui/api';

/** The bench's way to the HTTP API. */
export function apiTransport(productId: string): Transport {
  const path = `/products/${productId}`;
  return {
    async send(revision, operations, label): Promise<SendResult> {
      try {
        const saved = await call<{ revision: number; document: ProductDocument }>('PATCH', path, operations, {
          'if-match': `"${revision}"`,
          'x-label': encodeURIComponent(label),
        });
        return { kind: 'saved', ...saved };
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'revision-conflict')
          return {
            kind: 'conflict',
            conflicts: error.fields.conflicts as PatchConflict[],
            by: (error.fields.by as string | null) ?? null,
          };
        if (error.status === 0 || error.status >= 500) return { kind: 'offline' };
        return { kind: 'refused', message: error.message };
      }
    },
    load: () => call('GET', path),
  };
}
