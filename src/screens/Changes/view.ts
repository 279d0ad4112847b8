import { count } from '@/core/words/count';
import type { Change, ChangeCounts, ItemWhat } from './load';

/** What became of a product, in words. */
export const WHAT_WORDS: { readonly [what in ItemWhat]: string } = {
  new: 'not looked at yet',
  change: 'would be changed',
  same: 'is so already',
  left: 'is left as it is',
  done: 'done',
  undone: 'undone',
  kept: 'could not be undone',
};

/** Where a change stands, in words. */
export const STATE_WORDS: { readonly [state in Change['state']]: string } = {
  looking: 'being worked out',
  planned: 'planned',
  doing: 'being done',
  done: 'done',
  undoing: 'being undone',
  undone: 'undone',
};

const ORDER: readonly ItemWhat[] = ['new', 'change', 'done', 'undone', 'kept', 'same', 'left'];

/** `12 products: 9 would be changed, 2 are so already, 1 is left.` */
export function countsLine(counts: ChangeCounts): string {
  const total = ORDER.reduce((sum, what) => sum + (counts[what] ?? 0), 0);
  const parts = ORDER.flatMap((what) => {
    const n = counts[what] ?? 0;
    return n > 0 ? [`${n.toLocaleString('en')} ${saidOf(what, n)}`] : [];
  });
  return `${count(total, 'product')}: ${parts.join(', ')}.`;
}

function saidOf(what: ItemWhat, n: number): string {
  if (what === 'same') return n === 1 ? 'is so already' : 'are so already';
  if (what === 'left') return n === 1 ? 'is left as it is' : 'are left as they are';
  return WHAT_WORDS[what];
}

/** Whether something goes on by itself just now. */
export const isGoing = ({ state }: Pick<Change, 'state'>): boolean =>
  state === 'looking' || state === 'doing' || state === 'undoing';
