import type { Placement } from '@/core/geometry/placement';

/** Where a layer is while it is being moved, sized or turned, before that becomes an edit. Beside the session, so that only what shows it is drawn again. */
export interface Live {
  readonly layerId: string;
  readonly placement: Placement;
  /** Where the other selected layers are that move with it. */
  readonly others: { readonly [layerId: string]: Placement };
}

export class LivePlacement {
  private live: Live | null = null;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly get = (): Live | null => this.live;

  set(live: Live | null): void {
    this.live = live;
    for (const listener of this.listeners) listener();
  }
}
