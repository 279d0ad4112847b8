import type { WorkerAnswer } from '@/bench/worker-asker';
import type { SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';

/** A text that is to be set. */
export interface LettersQuestion {
  readonly lettering: Lettering;
}

// What shapes letters waits for its WebAssembly as it is loaded: a question that came meanwhile would be lost, so this listens first.
const setter = import('./letter-setter');

self.onmessage = ({ data: { id, lettering } }: MessageEvent<{ id: number } & LettersQuestion>) => {
  setter
    .then(({ setWithFonts }) => setWithFonts(lettering))
    .then(
      (answer) => self.postMessage({ id, answer } satisfies WorkerAnswer<SetText>),
      (error: Error) => self.postMessage({ id, problem: error.message } satisfies WorkerAnswer<SetText>),
    );
};
