import type { ShopWords } from './caller';

/** What a refusal says that has a sentence of its own, or a list of faults each with its field. */
export function wordsIn(
  faults: unknown,
  sentence: unknown,
  lacks: unknown,
  tell: (fault: { readonly field: string; readonly message: string }) => string = ({ message }) => message,
): ShopWords {
  const all = (Array.isArray(faults) ? faults : []) as { field: string; message: string }[];
  const words = all.length > 0 ? all.map(tell).join(' ') : typeof sentence === 'string' ? sentence : null;
  return { words, fields: all.map(({ field }) => field), ...(typeof lacks === 'string' ? { lacks } : {}) };
}
