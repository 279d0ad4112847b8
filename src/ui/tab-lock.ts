'use client';

/** Locks by name among all tabs of this browser; they end with the page. Absent where the page is not served safely. */
const locks = (): LockManager | null => navigator.locks ?? null;

/** Takes a lock that nobody holds. Gives what releases it, or null when another tab holds it. */
export function holdLock(name: string): Promise<(() => void) | null> {
  const manager = locks();
  if (!manager) return Promise.resolve(() => {});
  return new Promise((resolve, reject) => {
    manager
      .request(name, { ifAvailable: true }, (lock) => {
        if (!lock) return resolve(null);
        return new Promise<void>((release) => resolve(release));
      })
      .catch(reject);
  });
}

/** Does `work` once no other tab holds the lock: at once, or when that tab is closed. Nothing when `signal` ends the wait. */
export async function whenFree(name: string, signal: AbortSignal, work: () => Promise<void>): Promise<void> {
  try {
    await locks()?.request(name, { signal }, work);
  } catch (error) {
    if (!signal.aborted) throw error;
  }
}

/** Names of the locks that tabs hold now. */
export async function heldLocks(): Promise<ReadonlySet<string>> {
  const held = (await locks()?.query())?.held ?? [];
  return new Set(held.flatMap(({ name }) => name ?? []));
}
