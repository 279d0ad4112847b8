import type { Hindrance, LoadResult, SendResult, Transport } from '@/bench/session-types';
import type { ProductDocument } from '@/core/document/document';
import { call, Problem } from '@/ui/api';

interface ToldProduct {
  readonly revision: number;
  readonly document: ProductDocument;
}

const STALE: ReadonlySet<string> = new Set(['revision-conflict', 'revision-too-old', 'revision-unknown']);

/** What keeps anything from being sent just now; null when it is about this one request. */
function hindranceOf({ status, fields }: Problem): Hindrance | null {
  if (status === 401) return { kind: 'signed-out' };
  if (status === 404) return { kind: 'gone' };
  if (status === 0 || status === 429 || status >= 500) {
    const retryAfterMs = Number(fields.retryAfterMs);
    return retryAfterMs > 0 ? { kind: 'offline', retryAfterMs } : { kind: 'offline' };
  }
  return null;
}

/** The bench's way to the HTTP API. */
export function apiTransport(productId: string): Transport {
  const path = `/products/${productId}`;
  return {
    async send({ revision, operations, label, key }): Promise<SendResult> {
      try {
        const headers = {
          'if-match': `"${revision}"`,
          'x-label': encodeURIComponent(label.slice(0, 120).toWellFormed()),
          'idempotency-key': key,
        };
        const saved = await call<ToldProduct>('PATCH', path, operations, { headers, waitsForSignIn: false });
        return { kind: 'saved', ...saved };
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (STALE.has(error.code)) return { kind: 'stale', by: (error.fields.by as string | null) ?? null };
        return hindranceOf(error) ?? { kind: 'refused', message: error.message };
      }
    },
    async load(): Promise<LoadResult> {
      try {
        const { revision, document } = await call<ToldProduct>('GET', path, undefined, { waitsForSignIn: false });
        return { kind: 'loaded', revision, document };
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        return hindranceOf(error) ?? { kind: 'offline' };
      }
    },
  };
}
