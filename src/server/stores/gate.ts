import type { Counted } from '@/ports/channel';
import { log } from '../log';
import type { Shared, Share } from './shares';
import { ShopClock } from './shop-clock';

/** How long a share is believed before it is renewed: what another process was told comes no later. */
const RENEW_MS = 500;
/** As long at first, and while this process has no place: who sends to a store seldom does so alone, and gives up places with the next renewal. */
const JOIN_MS = 100;
const JOINING_MS = 2_000;
/** Longest that a request waits in its place; who would wait longer gives its lane to others. */
const MAX_WAIT_MS = 5_000;
/** What clocks may be off by, and ways to the shop be quicker than ever before, as a part of its window. */
const GUARD = 0.003;
/** At this part of its time a share is renewed while requests go on: who waited for the answer would lose some hundredths of the limit. */
const EARLY = 0.6;
/** What was of use in one to two of these is still wanted: who asked for less, and at once for more again, would renew without end. */
const LATELY_MS = 1_000;
/** An unused share is given up after this time. */
const IDLE_MS = 1_500;

export interface Turn {
  /**
   * To be called when the request is answered, or failed; `counted`: for how long the shop counts it. Absent: a whole window from now, whenever in
   * between the shop counted it.
   */
  answered(counted?: Counted): void;
}

/** One request of the shop's window: when it is free, by this process's own clock; never while its request is under way. */
interface Place {
  freeAt: number;
}

interface Waiter {
  readonly since: number;
  readonly go: (turn: Turn) => void;
  readonly stop: (reason: unknown) => void;
}

/** What a gate needs from outside. */
export interface GateWorld {
  /** Ms of a clock that never goes back. */
  now(): number;
  renew(share: Omit<Share, 'holder'>): Promise<Shared>;
  /** Never fails: a share that could not be given back ends by itself. */
  giveUp(): Promise<unknown>;
  busy(waitMs: number): Error;
}

/**
 * Hands out, in one process, its share of the requests that a shop takes in a window, first come first served. A place is held from before a request
 * until the shop counts it no longer, so that no window of the shop's has more than it allows.
 */
export class Gate {
  private places: Place[] = [];
  private usable = 0;
  private most = 0;
  /** Who asked and has to wait for the share first. */
  private coming = 0;
  private waiters: Waiter[] = [];
  private renewedAt = Number.NEGATIVE_INFINITY;
  private joinedAt = 0;
  private pausedUntil = 0;
  private usedAt = 0;
  private renewing: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private soon: NodeJS.Immediate | null = null;
  /** The most places that it had use for, in this span and in the one before. */
  private lately = { began: Number.NEGATIVE_INFINITY, before: 0, most: 0 };
  private readonly clock = new ShopClock();

  constructor(
    private readonly windowMs: number,
    private readonly world: GateWorld,
  ) {}

  /** Waits for a place. Throws what `busy` makes when it would wait for long. */
  async take(signal?: AbortSignal): Promise<Turn> {
    signal?.throwIfAborted();
    this.usedAt = this.world.now();
    this.coming += 1;
    await this.fresh().finally(() => (this.coming -= 1));
    const pauseMs = this.pausedUntil - this.world.now();
    if (pauseMs > MAX_WAIT_MS) throw this.world.busy(pauseMs);
    return new Promise<Turn>((resolve, reject) => {
      const end = () => signal?.removeEventListener('abort', aborted);
      const waiter: Waiter = {
        since: this.world.now(),
        go: (turn) => (end(), resolve(turn)),
        stop: (reason) => (end(), reject(reason as Error)),
      };
      const aborted = () => {
        this.waiters = this.waiters.filter((one) => one !== waiter);
        waiter.stop(signal!.reason);
      };
      signal?.addEventListener('abort', aborted, { once: true });
      this.waiters.push(waiter);
      this.pump();
    });
  }

  /** The shop asked to wait: what was shared is looked at anew before anybody asks again. */
  pause(ms: number): void {
    this.pausedUntil = Math.max(this.pausedUntil, this.world.now() + ms);
    this.renewedAt = Number.NEGATIVE_INFINITY;
    this.clock.forget();
  }

  private isFresh = () => this.world.now() - this.renewedAt < this.renewMs();
  private isAging = () => this.world.now() - this.renewedAt > EARLY * this.renewMs();
  private renewMs = () => (this.isMoving() || this.world.now() - this.joinedAt < JOINING_MS ? JOIN_MS : RENEW_MS);
  /** It waits for places, or others wait for some of its. */
  private isMoving = () =>
    this.usable === 0 || this.usable < this.places.length || Math.min(this.most, this.wanted()) > this.usable;
  private inUse = () => {
    const now = this.world.now();
    return this.places.filter(({ freeAt }) => freeAt > now).length;
  };
  /** As many as it has and waits for, and one for who comes next: what it has no use for is left to other processes. */
  private wantedNow = () => this.inUse() + this.waiters.length + this.coming + 1;
  private wanted(): number {
    const [now, wanted] = [this.world.now(), this.wantedNow()];
    if (now - this.lately.began > LATELY_MS) {
      const before = now - this.lately.began > 2 * LATELY_MS ? 0 : this.lately.most;
      this.lately = { began: now, before, most: 0 };
    }
    this.lately.most = Math.max(this.lately.most, wanted);
    return Math.max(this.lately.before, this.lately.most);
  }

  private async fresh(): Promise<void> {
    while (!this.isFresh()) await this.renewOnce();
  }

  private renewOnce = (): Promise<void> =>
    (this.renewing ??= this.renew().finally(() => {
      this.renewing = null;
    }));

  /** Renews a share that still holds; where that fails, it is asked again when it no longer does. */
  private renewBehind(): void {
    if (this.renewing) return;
    void this.renewOnce().then(
      () => this.pump(),
      (error: unknown) => log.warn({ err: error }, 'a share of a shop’s limit could not be renewed yet'),
    );
  }

  /** What may be handed out before the answer is there counts as taken: while the share holds, all that is usable. */
  private taken(): number {
    const holds = this.world.now() - this.renewedAt < RENEW_MS;
    return Math.max(this.inUse(), holds ? Math.min(this.usable, this.places.length) : 0);
  }

  private async renew(): Promise<void> {
    // Who asks in the same moment is counted.
    await Promise.resolve();
    const before = this.world.now();
    const taken = this.taken();
    const { places, usable, most, pauseMs } = await this.world.renew({
      places: this.places.length,
      taken,
      wanted: this.wanted(),
    });
    if (this.places.length === 0) this.joinedAt = before;
    this.renewedAt = this.world.now();
    this.usable = usable;
    this.most = most;
    this.pausedUntil = this.renewedAt + pauseMs;
    // Those that are free go first; what became taken meanwhile stays until the next time.
    const now = this.world.now();
    const busyFirst = this.places.toSorted((a, b) => Number(b.freeAt > now) - Number(a.freeAt > now));
    const kept = busyFirst.slice(0, Math.max(places, busyFirst.filter(({ freeAt }) => freeAt > now).length));
    this.places = [...kept, ...Array.from({ length: places - kept.length }, () => ({ freeAt: now }))];
  }

  /** Hands out what is free, and comes again when something will be. */
  private pump(): void {
    if (this.timer) clearTimeout(this.timer);
    if (this.soon) clearImmediate(this.soon);
    this.timer = this.soon = null;
    const now = this.world.now();
    if (!this.isFresh()) return void this.renewThenPump();
    if (this.isAging() && this.waiters.length > 0) this.renewBehind();
    if (this.pausedUntil <= now) this.handOutFree(now);
    this.sendAway(now);
    this.comeAgain(now);
  }

  private handOutFree(now: number): void {
    const free = this.places.filter(({ freeAt }) => freeAt <= now);
    const more = this.usable - (this.places.length - free.length);
    for (const place of free.slice(0, Math.min(this.waiters.length, Math.max(0, more))))
      this.waiters.shift()!.go(this.handOut(place));
  }

  private renewThenPump(): void {
    void this.fresh().then(
      () => this.pump(),
      (error: unknown) => {
        const waiting = this.waiters;
        this.waiters = [];
        for (const waiter of waiting) waiter.stop(error);
      },
    );
  }

  private handOut(place: Place): Turn {
    const sentAt = this.world.now();
    place.freeAt = Number.POSITIVE_INFINITY;
    return {
      answered: (counted) => {
        const now = this.world.now();
        place.freeAt = this.freeAt(sentAt, now, counted) + GUARD * this.windowMs;
        this.usedAt = now;
        this.pump();
      },
    };
  }

  /** From when on another request may go in place of one that is answered now. */
  private freeAt(sentAt: number, now: number, counted?: Counted): number {
    if (!counted) return now + this.windowMs;
    const heard = now + Math.min(Math.max(0, counted.forMs), this.windowMs);
    if (counted.untilMs === undefined) return heard;
    this.clock.note(sentAt, counted.untilMs - this.windowMs);
    return Math.min(heard, this.clock.earliest(counted.untilMs) ?? heard);
  }

  /** Who has waited long gives its lane to others. */
  private sendAway(now: number): void {
    while (this.waiters[0] && now - this.waiters[0].since > MAX_WAIT_MS) this.waiters.shift()!.stop(this.world.busy(0));
  }

  private comeAgain(now: number): void {
    const underWay = this.places.some(({ freeAt }) => freeAt === Number.POSITIVE_INFINITY);
    if (this.waiters.length === 0 && !underWay) {
      const idle = this.places.every(({ freeAt }) => freeAt <= now) && now - this.usedAt >= IDLE_MS;
      if (idle) return this.leave();
    }
    const later = this.places.map(({ freeAt }) => freeAt).filter((freeAt) => freeAt > now);
    const frees = this.waiters.length > 0 ? Math.min(...later) : Number.POSITIVE_INFINITY;
    const next = Math.min(Math.max(frees, this.pausedUntil), now + this.renewMs());
    // Timers count in whole ms: what is left is waited for turn by turn of the loop, in which all else goes on.
    if (next - now < 1) this.soon = setImmediate(() => this.pump());
    else this.timer = setTimeout(() => this.pump(), Math.floor(next - now));
    if (this.waiters.length === 0) this.timer?.unref();
  }

  private leave(): void {
    this.places = [];
    this.renewedAt = Number.NEGATIVE_INFINITY;
    void this.world.giveUp();
  }
}
