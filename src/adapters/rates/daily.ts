import { TypicaError } from '@/core/errors';
import type { RateFeed } from '@/ports/rate-feed';

const TIMEOUT_MS = 10_000;
/** A day of all currencies there are is a few kilobytes. */
const MAX_BYTES = 256 * 1024;

const unreachable = (cause: unknown) =>
  new TypicaError('unavailable', 'rates-unreachable', 'The publisher of rates did not answer.', {}, cause);
const unreadable = (says: string) => new TypicaError('unavailable', 'rates-unreadable', says);

/** Reads a body up to a size, and hangs up on one that is longer. */
async function bytesOf(answer: Response): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
    size += part.length;
    if (size > MAX_BYTES) throw unreadable('What the publisher of rates sent is far longer than a day of rates.');
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/** A publisher that gives the newest rates as CSV under `/daily.csv`. */
export const dailyRates = (url: string): RateFeed => ({
  async newest(signal) {
    const deadline = AbortSignal.timeout(TIMEOUT_MS);
    try {
      const answer = await fetch(`${url}/daily.csv`, {
        headers: { accept: 'text/csv' },
        redirect: 'error',
        signal: signal ? AbortSignal.any([signal, deadline]) : deadline,
      });
      if (!answer.ok) throw unreachable(new Error(`status ${answer.status}`));
      if (!/^text\/csv\b/.test(answer.headers.get('content-type') ?? ''))
        throw unreadable('What the publisher of rates sent is no list of rates.');
      return await bytesOf(answer);
    } catch (error) {
      throw error instanceof TypicaError ? error : unreachable(error);
    }
  },
});
