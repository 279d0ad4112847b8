import { isTypicaError } from '@/core/errors';
import type { Answer } from '../processes/pool';

/** Pixels lie outside of the heap, whose own size tells nobody to clear them away: a poster's would still be there when the next one is drawn. */
const gc = (globalThis as { gc?: () => void }).gc;
function clearAway(aboveMb: number): void {
  if (process.memoryUsage.rss() > aboveMb * 1024 * 1024) gc?.();
}

/** The inside of a pool's process: answers orders as they come, until whoever asks is gone. Holding more than `clearAboveMb` after one, it clears away. */
export function serve<O, R>(handle: (order: O) => Promise<R>, clearAboveMb = Infinity): void {
  const tell = (answer: Answer<R>) => process.send?.(answer);
  process.on('message', ({ id, order }: { readonly id: number; readonly order: O }) => {
    const working = handle(order).then(
      (result) => tell({ id, result }),
      (error: unknown) => {
        if (!isTypicaError(error)) return tell({ id, failure: String((error as Error).stack ?? error) });
        const { kind, code, message, fields } = error;
        return tell({ id, refusal: { kind, code, message, fields } });
      },
    );
    void working.finally(() => clearAway(clearAboveMb));
  });
  process.on('disconnect', () => process.exit(0));
}
