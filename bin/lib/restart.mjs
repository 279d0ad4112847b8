/** A process that lived so long had come up; one that ends sooner is started again later and later. */
const UP_MS = 2_000;
const FIRST_MS = 300;
const LAST_MS = 30_000;

/**
 * Starts again whatever ends by itself: nothing is lost by it, and nobody is there at night. Gives what startStack calls. `stopping()`: whether
 * everything is being stopped.
 */
export function restarter({ say, stopping }) {
  const seen = new Map();
  return function onEnd({ name, how, log, again }) {
    if (stopping()) return;
    const now = Date.now();
    const before = seen.get(name) ?? { startedAt: 0, soon: 0 };
    const soon = now - before.startedAt < UP_MS ? before.soon + 1 : 0;
    const wait = Math.min(LAST_MS, FIRST_MS * 2 ** soon);
    seen.set(name, { startedAt: now + wait, soon });
    say(`${name} ended with ${how} and is started again in ${(wait / 1000).toFixed(1)} s; its log: ${log}`);
    setTimeout(async () => {
      if (stopping()) return;
      try {
        await again();
      } catch (error) {
        onEnd({ name, how: error.message, log, again });
      }
    }, wait);
  };
}
