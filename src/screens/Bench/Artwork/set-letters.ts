import { WorkerAsker } from '@/bench/worker-asker';
import type { SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';
import type { LettersQuestion } from './letters.worker';

/** Letters are set beside the page: to shape and outline them takes long enough to be felt. */
const asker = new WorkerAsker<LettersQuestion, object, SetText>(
  () => new Worker(new URL('./letters.worker.ts', import.meta.url), { type: 'module' }),
);
const NOTHING = {};
/** Texts as they were set, by their lettering; the least recently made go first. */
const kept = new Map<string, Promise<SetText>>();
const MAX_KEPT = 300;

/** Sets a text with the fonts that it needs; `key` stands for all that decides how it looks. */
export function setLetters(key: string, lettering: Lettering): Promise<SetText> {
  const have = kept.get(key);
  if (have) return have;
  const setting = asker.ask({ lettering }, NOTHING);
  kept.set(key, setting);
  setting.catch(() => kept.delete(key));
  while (kept.size > MAX_KEPT) kept.delete(kept.keys().next().value!);
  return setting;
}
