import { availableParallelism } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { TypicaError, type ErrorKind } from '@/core/errors';
import type { SheetPlan } from '@/core/print/plan';

export interface PrintOrder {
  readonly sheet: SheetPlan;
  readonly files: ReadonlyMap<string, Uint8Array>;
}

export type PrintAnswer =
  | { readonly png: Uint8Array }
  | { readonly refusal: { readonly kind: ErrorKind; readonly code: string; readonly message: string } }
  | { readonly failure: string };

interface Waiting {
  readonly order: PrintOrder;
  readonly done: (png: Buffer) => void;
  readonly failed: (error: unknown) => void;
}

/** As many as there are cores: each draws one file, and packing goes on beside in Node's own pool. */
const MOST = Math.max(1, Math.min(4, availableParallelism()));
/** A thread that nobody has asked for this long goes, and its memory with it. */
const IDLE_MS = 20_000;

/** What a thread answers to an order. Its listeners are taken away one by one: a Worker keeps some of its own. */
function ask(worker: Worker, order: PrintOrder): Promise<PrintAnswer> {
  return new Promise((resolve, reject) => {
    const ended = (code: number) => failed(new Error(`the printing thread ended with ${code}`));
    const settle = () => {
      worker.off('message', answered);
      worker.off('error', failed);
      worker.off('exit', ended);
    };
    const answered = (answer: PrintAnswer) => {
      settle();
      resolve(answer);
    };
    const failed = (error: Error) => {
      settle();
      reject(error);
    };
    worker.on('message', answered);
    worker.on('error', failed);
    worker.on('exit', ended);
    worker.postMessage(order);
  });
}

/** Threads that draw print files, so that the process that asks stays free to answer others. */
export class PrintThreads {
  private readonly idle: { worker: Worker; timer: NodeJS.Timeout }[] = [];
  private readonly queue: Waiting[] = [];
  private running = 0;

  constructor(private readonly program: () => string) {}

  print(sheet: SheetPlan, files: ReadonlyMap<string, Uint8Array>): Promise<Buffer> {
    return new Promise((done, failed) => {
      this.queue.push({ order: { sheet, files }, done, failed });
      this.begin();
    });
  }

  private begin(): void {
    while (this.queue.length > 0 && this.running < MOST) {
      const next = this.queue.shift()!;
      this.running += 1;
      void this.draw(next);
    }
  }

  private async draw({ order, done, failed }: Waiting): Promise<void> {
    const resting = this.idle.pop();
    if (resting) clearTimeout(resting.timer);
    const worker = resting?.worker ?? new Worker(this.program());
    worker.ref();
    try {
      const answer = await ask(worker, order);
      this.rest(worker);
      if ('png' in answer) done(Buffer.from(answer.png.buffer, answer.png.byteOffset, answer.png.byteLength));
      else if ('refusal' in answer)
        failed(new TypicaError(answer.refusal.kind, answer.refusal.code, answer.refusal.message));
      else failed(new Error(answer.failure));
    } catch (error) {
      void worker.terminate();
      failed(error);
    } finally {
      this.running -= 1;
      this.begin();
    }
  }

  private rest(worker: Worker): void {
    // A process with nothing else to do may end while its threads rest.
    worker.unref();
    const entry = {
      worker,
      timer: setTimeout(() => {
        this.idle.splice(this.idle.indexOf(entry), 1);
        void worker.terminate();
      }, IDLE_MS),
    };
    entry.timer.unref();
    this.idle.push(entry);
  }
}

const threads = new PrintThreads(() => path.join(/* turbopackIgnore: true */ process.cwd(), 'dist', 'printer.mjs'));

export const printInThread = (sheet: SheetPlan, files: ReadonlyMap<string, Uint8Array>): Promise<Buffer> =>
  threads.print(sheet, files);
