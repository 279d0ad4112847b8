import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { TypicaError, type ErrorKind } from '@/core/errors';
import type { PaintOrder, Painted } from './painter';

export interface PainterOrder {
  readonly id: number;
  readonly order: PaintOrder;
}

export type PainterAnswer = { readonly id: number } & (
  | { readonly painted: Omit<Painted, 'bytes'> & { readonly bytes: Uint8Array } }
  | { readonly refusal: { readonly kind: ErrorKind; readonly code: string; readonly message: string } }
  | { readonly failure: string }
);

interface Waiting {
  readonly done: (painted: Painted) => void;
  readonly failed: (error: unknown) => void;
}

/** Orders that the thread works on at a time: while one is packed the next is painted. */
const IN_FLIGHT = 3;
/** A thread that nobody has asked for this long goes, and its memory with it. */
const IDLE_MS = 60_000;

/** One thread that paints mock-ups for this process. All go through one, so that a shot is in memory once. */
class PainterThread {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private readonly queue: { readonly order: PaintOrder; readonly waiting: Waiting }[] = [];
  private timer: NodeJS.Timeout | null = null;
  private last = 0;

  constructor(
    private readonly program: () => string,
    private readonly home: string,
  ) {}

  paint(order: PaintOrder): Promise<Painted> {
    return new Promise((done, failed) => {
      this.queue.push({ order, waiting: { done, failed } });
      this.begin();
    });
  }

  private begin(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    while (this.queue.length > 0 && this.waiting.size < IN_FLIGHT) {
      const { order, waiting } = this.queue.shift()!;
      const id = (this.last += 1);
      this.waiting.set(id, waiting);
      const worker = (this.worker ??= this.open());
      worker.ref();
      worker.postMessage({ id, order } satisfies PainterOrder);
    }
    if (this.waiting.size > 0) return;
    // A process with nothing else to do may end while its thread rests.
    this.worker?.unref();
    this.timer = setTimeout(() => {
      void this.worker?.terminate();
      this.worker = null;
    }, IDLE_MS);
    this.timer.unref();
  }

  private open(): Worker {
    const worker = new Worker(this.program(), { workerData: { home: this.home } });
    worker.on('message', (answer: PainterAnswer) => {
      const asked = this.waiting.get(answer.id);
      this.waiting.delete(answer.id);
      if ('painted' in answer) asked?.done({ ...answer.painted, bytes: Buffer.from(answer.painted.bytes.buffer) });
      else if ('refusal' in answer)
        asked?.failed(new TypicaError(answer.refusal.kind, answer.refusal.code, answer.refusal.message));
      else asked?.failed(new Error(answer.failure));
      this.begin();
    });
    const ended = (error: Error) => {
      if (this.worker !== worker) return;
      this.worker = null;
      const lost = [...this.waiting.values()];
      this.waiting.clear();
      for (const one of lost) one.failed(error);
      this.begin();
    };
    worker.on('error', ended);
    worker.on('exit', (code) => ended(new Error(`the painting thread ended with ${code}`)));
    return worker;
  }
}

const program = () => path.join(/* turbopackIgnore: true */ process.cwd(), 'dist', 'painter.mjs');
const threads = new Map<string, PainterThread>();

/** Paints in this process's thread for the home whose blobs it reads. */
export function paintInThread(home: string, order: PaintOrder): Promise<Painted> {
  const thread = threads.get(home) ?? new PainterThread(program, home);
  threads.set(home, thread);
  return thread.paint(order);
}
