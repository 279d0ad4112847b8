/** When a request that was counted leaves the window, by the shop's own clock. */
export const countedUntil = new WeakMap<object, number>();

/** Counts requests in a sliding window, by whoever makes them. */
export class Limit {
  private readonly times = new Map<string, number[]>();

  constructor(
    readonly most: number,
    readonly windowMs: number,
    private readonly now: () => number,
  ) {}

  /** 0 when there is room, and then it is taken; else ms until there is. */
  take(who: string): number {
    const now = this.now();
    const recent = (this.times.get(who) ?? []).filter((time) => now - time < this.windowMs);
    const room = recent.length < this.most;
    if (room) recent.push(now);
    this.times.set(who, recent);
    return room ? 0 : Math.max(1, recent[0]! + this.windowMs - now);
  }
}
