/** What every answer of such a worker holds. */
export type WorkerAnswer<A> = { readonly id: number } & ({ readonly answer: A } | { readonly problem: string });

interface Waiting<A> {
  readonly done: (answer: A) => void;
  readonly failed: (error: Error) => void;
  readonly timer: ReturnType<typeof setTimeout>;
}

/** Longest that an answer is waited for, ms: then the worker is taken for dead and started anew by the next question. */
const LONGEST_MS = 60_000;

/**
 * Asks a worker, which is started with the first question. `Shared` is what most questions have in common: a member is sent only when it is
 * not the one that was sent before. A worker that breaks or never answers fails what was asked of it, and the next question starts another.
 */
export class WorkerAsker<Question extends object, Shared extends object, Answer> {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting<Answer>>();
  private told: Partial<Shared> = {};
  private last = 0;

  constructor(
    private readonly start: () => Worker,
    private readonly longestMs = LONGEST_MS,
  ) {}

  ask(question: Question, shared: Shared): Promise<Answer> {
    const worker = this.running();
    const id = (this.last += 1);
    const news = Object.fromEntries(
      Object.entries(shared).filter(([key, value]) => this.told[key as keyof Shared] !== value),
    );
    this.told = shared;
    return new Promise((done, failed) => {
      const timer = setTimeout(() => this.fail('It does not answer.'), this.longestMs);
      this.waiting.set(id, { done, failed, timer });
      worker.postMessage({ id, ...question, ...news });
    });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.told = {};
    for (const { timer } of this.waiting.values()) clearTimeout(timer);
    this.waiting.clear();
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = this.start();
    worker.onmessage = ({ data }: MessageEvent<WorkerAnswer<Answer>>) => {
      const asked = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if (!asked) return;
      clearTimeout(asked.timer);
      if ('answer' in data) asked.done(data.answer);
      else asked.failed(new Error(data.problem));
    };
    worker.onerror = ({ message }) => this.fail(message);
    worker.onmessageerror = () => this.fail('Its answer could not be read.');
    this.worker = worker;
    return worker;
  }

  private fail(why: string): void {
    const asked = [...this.waiting.values()];
    this.close();
    for (const { failed } of asked) failed(new Error(why));
  }
}
