import { judge, type Design, type CheckedProduct } from './designs';
import { goodDesigns } from './good';
import { MISTAKES } from './mistakes';
import { MORE_MISTAKES } from './more-mistakes';

/** Every design of the corpus: for each kind of mistake some just over and some just under the line, and good ones. */
export const corpus = (): Design[] => [...[...MISTAKES, ...MORE_MISTAKES].flatMap((make) => make()), ...goodDesigns()];

/** Judges designs one after the other: setting letters keeps what it opened. */
export async function judgeAll(designs: readonly Design[]): Promise<CheckedProduct[]> {
  const judged: CheckedProduct[] = [];
  for (const design of designs) judged.push(await judge(design));
  return judged;
}
