'use client';

import { useSyncExternalStore } from 'react';
import type { RangeStore } from './load';

/** Widths of columns, px: of products, and of a store where nobody said otherwise. */
export const PRODUCT_PX = 300;
export const STORE_PX = 168;
export const [LEAST_PX, MOST_PX] = [110, 700];
const PRODUCT = 'product';
const KEPT = 'typica.range.columns';

/** How the columns were left: widths by id, and stores in their order. */
interface Layout {
  readonly widths: { readonly [id: string]: number };
  readonly order: readonly string[];
}
const AS_MADE: Layout = { widths: {}, order: [] };

const isWidth = (value: unknown): value is number =>
  typeof value === 'number' && Number.isFinite(value) && value >= LEAST_PX && value <= MOST_PX;

/** What was kept in this browser; as made where nothing can be read. */
function kept(): Layout {
  try {
    const { widths, order } = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Layout>;
    return {
      widths: Object.fromEntries(Object.entries(widths ?? {}).filter(([, px]) => isWidth(px))),
      order: Array.isArray(order) ? order.filter((id): id is string => typeof id === 'string') : [],
    };
  } catch {
    return AS_MADE;
  }
}

let layoutNow: Layout | null = null;
const followers = new Set<() => void>();
const follow = (follower: () => void) => {
  followers.add(follower);
  return () => void followers.delete(follower);
};

function save(next: Layout): void {
  layoutNow = next;
  for (const follower of followers) follower();
  try {
    localStorage.setItem(KEPT, JSON.stringify(next));
  } catch {
    // Then it holds for this page alone.
  }
}

export interface Columns {
  /** Stores in the order of their columns. */
  readonly stores: readonly RangeStore[];
  readonly productPx: number;
  readonly widthOf: (storeId: string) => number;
  /** Sets a width; null for the column of products. */
  readonly resize: (storeId: string | null, px: number) => void;
  /** Puts a store's column one place on (1) or back (-1). */
  readonly shift: (storeId: string, by: 1 | -1) => void;
  /** Puts a store's column where another one is. */
  readonly moveTo: (storeId: string, toId: string) => void;
}

/** Columns of the grid: their widths and order stay as they were left in this browser. */
export function useColumns(stores: readonly RangeStore[]): Columns {
  // The server knows nothing of it: it is read once the page is there.
  const layout = useSyncExternalStore(
    follow,
    () => (layoutNow ??= kept()),
    () => AS_MADE,
  );
  const placeOf = ({ id }: RangeStore) => {
    const at = layout.order.indexOf(id);
    return at < 0 ? layout.order.length : at;
  };
  const ordered = stores.toSorted((a, b) => placeOf(a) - placeOf(b));
  const moveTo = (id: string, toId: string) => {
    const ids = ordered.map((store) => store.id);
    const [at, to] = [ids.indexOf(id), ids.indexOf(toId)];
    if (at < 0 || to < 0 || at === to) return;
    ids.splice(to, 0, ...ids.splice(at, 1));
    save({ ...layout, order: ids });
  };
  const widthAt = (id: string, usual: number) => new Map(Object.entries(layout.widths)).get(id) ?? usual;
  return {
    stores: ordered,
    productPx: widthAt(PRODUCT, PRODUCT_PX),
    widthOf: (id) => widthAt(id, STORE_PX),
    resize: (id, px) =>
      save({
        ...layout,
        widths: { ...layout.widths, [id ?? PRODUCT]: Math.round(Math.max(LEAST_PX, Math.min(MOST_PX, px))) },
      }),
    shift: (id, by) => {
      const to = ordered[ordered.findIndex((store) => store.id === id) + by];
      if (to) moveTo(id, to.id);
    },
    moveTo,
  };
}
