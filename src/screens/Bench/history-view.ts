import type { Operation } from '@/core/document/patch';
import { placeName, placeValue } from './place-name';

/** One place that a revision changed, with what stood there before it and what after, in words. */
export interface HistoryChange {
  readonly path: string;
  readonly name: string;
  readonly was: string;
  readonly then: string;
}

/** Changes of one revision that are told singly. */
export const MAX_CHANGES = 8;

const valueOf = (operation: Operation | undefined): unknown =>
  operation && 'value' in operation ? operation.value : undefined;

/** What a revision changed, place by place, from its patch and from the patch that undoes it. */
export function historyChanges(
  patch: readonly Operation[],
  undo: readonly Operation[],
  currency: string,
): readonly HistoryChange[] {
  const paths = [...new Set([...patch, ...undo].filter(({ op }) => op !== 'test').map(({ path }) => path))];
  return paths.map((path) => {
    const at = (operations: readonly Operation[]) =>
      operations.findLast((one) => one.path === path && one.op !== 'test');
    return {
      path,
      name: placeName(path),
      was: placeValue(path, valueOf(at(undo)), currency),
      then: placeValue(path, valueOf(at(patch)), currency),
    };
  });
}
