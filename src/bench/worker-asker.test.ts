import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WorkerAsker } from './worker-asker';

/** A worker that keeps what it was told and answers when the test says so. */
class Standing {
  readonly told: Record<string, unknown>[] = [];
  onmessage: ((e: { data: unknown }) => void) | null = null;
  onerror: ((e: { message: string }) => void) | null = null;
  ended = false;
  postMessage(message: Record<string, unknown>) {
    this.told.push(message);
  }
  terminate() {
    this.ended = true;
  }
  answer(i: number, what: object) {
    this.onmessage!({ data: { id: this.told[i]!.id, ...what } });
  }
}

const workers: Standing[] = [];
const asker = () =>
  new WorkerAsker<{ q: number }, { blank: object; texts: object }, number>(() => {
    const worker = new Standing();
    workers.push(worker);
    return worker as unknown as Worker;
  }, 1000);

beforeEach(() => {
  workers.length = 0;
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe('asking a worker', () => {
  it('tells it only what it does not know yet, and gives each answer to who asked', async () => {
    const ask = asker();
    const [blank, texts] = [{}, {}];
    const first = ask.ask({ q: 1 }, { blank, texts });
    const second = ask.ask({ q: 2 }, { blank, texts: { more: 1 } });
    const [worker] = workers;
    expect(worker!.told).toEqual([
      { id: 1, q: 1, blank, texts },
      { id: 2, q: 2, texts: { more: 1 } },
    ]);
    worker!.answer(1, { answer: 20 });
    worker!.answer(0, { problem: 'no shot' });
    await expect(second).resolves.toBe(20);
    await expect(first).rejects.toThrow('no shot');
  });

  it('fails what was asked of one that breaks, and starts another that is told everything', async () => {
    const ask = asker();
    const shared = { blank: {}, texts: {} };
    const lost = ask.ask({ q: 1 }, shared);
    workers[0]!.onerror!({ message: 'out of memory' });
    await expect(lost).rejects.toThrow('out of memory');
    expect(workers[0]!.ended).toBe(true);
    const next = ask.ask({ q: 2 }, shared);
    expect(workers[1]!.told[0]).toMatchObject({ q: 2, ...shared });
    workers[1]!.answer(0, { answer: 2 });
    await expect(next).resolves.toBe(2);
  });

  it('takes one that never answers for dead', async () => {
    const ask = asker();
    const lost = ask.ask({ q: 1 }, { blank: {}, texts: {} }).catch((error: Error) => error.message);
    await vi.advanceTimersByTimeAsync(1001);
    expect(await lost).toContain('does not answer');
    expect(workers[0]!.ended).toBe(true);
  });
});
