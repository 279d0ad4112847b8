import type { ProofAnswer, ProofQuestion } from './proof.worker';

type Waiting = { readonly done: (pictures: readonly ImageBitmap[]) => void; readonly failed: (error: Error) => void };

/** What stays the same between most questions. */
export type ProofWorld = Required<Pick<ProofQuestion, 'blank' | 'artworks' | 'texts'>>;

/** Asks the worker for pictures, and tells it only what it does not know yet. */
export class ProofAsker {
  private readonly worker = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
  private readonly waiting = new Map<number, Waiting>();
  private told: Partial<ProofWorld> = {};
  private last = 0;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<ProofAnswer>) => {
      const asked = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if ('pictures' in data) asked?.done(data.pictures);
      else asked?.failed(new Error(data.problem));
    };
  }

  ask(
    question: Pick<ProofQuestion, 'shot' | 'areas' | 'colors' | 'sidePx'>,
    world: ProofWorld,
  ): Promise<readonly ImageBitmap[]> {
    const id = (this.last += 1);
    const news = Object.fromEntries(
      (['blank', 'artworks', 'texts'] as const).flatMap((key) =>
        this.told[key] === world[key] ? [] : [[key, world[key]]],
      ),
    );
    this.told = world;
    return new Promise((done, failed) => {
      this.waiting.set(id, { done, failed });
      this.worker.postMessage({ id, ...question, ...news } satisfies ProofQuestion);
    });
  }

  close(): void {
    this.worker.terminate();
  }
}
