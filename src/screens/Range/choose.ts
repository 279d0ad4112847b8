/** Keys that are ticked, and the one that was ticked last: Shift extends from there. */
export interface Ticked {
  readonly on: ReadonlySet<string>;
  readonly last: string | null;
}

export const NONE_TICKED: Ticked = { on: new Set(), last: null };

/** Everything from the key ticked last to this one. */
export type Between = (from: string, to: string) => readonly string[];

/** Turns one key, or with `extend` all from the last one to it: they become what it becomes. */
export function tick({ on, last }: Ticked, key: string, extend: boolean, between: Between): Ticked {
  const turnOn = !on.has(key);
  const keys = extend && last !== null ? [...between(last, key), key] : [key];
  const next = new Set(on);
  for (const one of keys) {
    if (turnOn) next.add(one);
    else next.delete(one);
  }
  return { on: next, last: key };
}

/** In a list: everything from one to the other, whichever comes first. */
export function betweenInList(list: readonly string[]): Between {
  return (from, to) => {
    const [a, b] = [list.indexOf(from), list.indexOf(to)];
    return a < 0 || b < 0 ? [] : list.slice(Math.min(a, b), Math.max(a, b) + 1);
  };
}

/** A cell of products against stores. */
export const cellKey = (productId: string, storeId: string): string => `${productId}:${storeId}`;

export function cellOfKey(key: string): { productId: string; storeId: string } {
  const [productId = '', storeId = ''] = key.split(':');
  return { productId, storeId };
}

/** In a grid: the rectangle that two cells span. */
export function betweenInGrid(productIds: readonly string[], storeIds: readonly string[]): Between {
  const [down, across] = [betweenInList(productIds), betweenInList(storeIds)];
  return (from, to) => {
    const [a, b] = [cellOfKey(from), cellOfKey(to)];
    return down(a.productId, b.productId).flatMap((productId) =>
      across(a.storeId, b.storeId).map((storeId) => cellKey(productId, storeId)),
    );
  };
}
