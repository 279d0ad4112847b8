import type { Answer } from './exchange';
import type { Table } from './records';
import type { World } from './world';

interface Kept {
  readonly at: number;
  readonly answer: Answer;
}

/** Answers under the key that a program gave with its request: a repeat gets the first answer, until it is forgotten. */
export function once(world: World, who: string, key: string, forgottenAfterMs: number, work: () => Answer): Answer {
  if (key === '') return work();
  const kept: Table<Kept> = world.records.table('once');
  const id = `${who}/${key}`;
  const before = kept.get(id);
  if (before && world.now() - before.at < forgottenAfterMs) return before.answer;
  const answer = work();
  // What was refused may be asked again, put right.
  if (answer.status < 300) kept.put(id, { at: world.now(), answer });
  return answer;
}
