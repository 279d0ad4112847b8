import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { randomOf } from '../../../tests/support/random';
import { Gate, type Turn } from './gate';
import type { Share } from './shares';

const WINDOW_MS = 1000;
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

class Busy extends Error {}

/** Processes that share a limit, as the database has them do it. */
class Shop {
  readonly held = new Map<string, number>();
  readonly counted: number[] = [];
  pausedUntil = 0;

  /** `renewalMs`: how long a share's renewal takes; it is settled halfway. */
  constructor(
    public most: number,
    private readonly renewalMs = 0,
  ) {}

  private halfway = () => (this.renewalMs > 0 ? sleep(this.renewalMs / 2) : Promise.resolve());

  gate(holder: string): Gate {
    return new Gate(WINDOW_MS, {
      now: () => Date.now(),
      renew: async ({ taken, wanted }: Omit<Share, 'holder'>) => {
        await this.halfway();
        const others = [...this.held].filter(([id]) => id !== holder).map(([, n]) => n);
        const free = this.most - others.reduce((sum, n) => sum + n, 0);
        const fair = Math.ceil(this.most / (others.length + 1));
        const most = Math.min(Math.max(0, free), fair);
        const usable = Math.min(most, wanted);
        const places = Math.max(taken, usable);
        this.held.set(holder, places);
        const pauseMs = Math.max(0, this.pausedUntil - Date.now());
        await this.halfway();
        return { places, usable, most, pauseMs };
      },
      giveUp: async () => this.held.delete(holder),
      busy: () => new Busy(),
    });
  }

  /** Most requests that it counted within a window. */
  worst(): number {
    return Math.max(
      ...this.counted.map((at) => this.counted.filter((one) => one >= at && one < at + WINDOW_MS).length),
    );
  }
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What the shop's clock shows when ours shows 0, ms. */
const CLOCK_MS = 86_400_000;
/** What a shop says of how long it counts a request. */
type Says = 'nothing' | 'how long' | 'until when';

/** One request: counted somewhere on the way, and answered with or without a word about that. */
async function request(shop: Shop, turn: Turn, [before, after]: readonly [number, number], says: Says) {
  await sleep(before);
  const at = Date.now();
  shop.counted.push(at);
  await sleep(after);
  const until = at + WINDOW_MS;
  const forMs = until - Date.now();
  if (says === 'nothing') turn.answered();
  else turn.answered(says === 'how long' ? { forMs } : { forMs, untilMs: until + CLOCK_MS });
}

/** Ways to the shop and back take 40 to 100 ms each. */
async function load(shop: Shop, gates: readonly Gate[], each: number, says: Says): Promise<number> {
  const random = randomOf(7);
  const began = Date.now();
  const lane = async (gate: Gate) => {
    for (let i = 0; i < each; i += 1) {
      const ways = [40 + random() * 60, 40 + random() * 60] as const;
      await request(shop, await gate.take(), ways, says);
    }
  };
  const all = Promise.all(gates.flatMap((gate) => [lane(gate), lane(gate), lane(gate)]));
  await vi.advanceTimersByTimeAsync(600_000);
  await all;
  return Math.max(...shop.counted) - began;
}

describe('a share of a shop’s limit', () => {
  // Renewals of 60 ms, in which requests go on. What it loses: ways there and back, what ways differ by, or, of a shop that says nothing, all the time of a request.
  it.each([
    [1, 'until when', 1.05],
    [1, 'how long', 1.15],
    [2, 'until when', 1.05],
    [2, 'how long', 1.15],
    [2, 'nothing', 1.25],
  ] as const)('of %i processes is never over it, and is used (the shop says: %s)', async (processes, says, most) => {
    const shop = new Shop(4, 60);
    const tookMs = await load(
      shop,
      Array.from({ length: processes }, (_, i) => shop.gate(`g${i}`)),
      80,
      says,
    );
    const requests = processes * 3 * 80;
    expect([shop.counted.length, shop.worst()]).toEqual([requests, 4]);
    const least = (requests / 4 - 1) * WINDOW_MS;
    expect(tookMs / least).toBeLessThan(most);
    // Nobody asks any more: what they had is given back.
    expect(shop.held.size).toBe(0);
  });

  it.each([1, 2, 3, 4, 5, 6])(
    'of processes that come and go, ask in bursts and stop asking is never over it (%i)',
    async (seed) => {
      const random = randomOf(seed);
      const shop = new Shop(4, 20 + random() * 120);
      const lane = async (gate: Gate) => {
        for (let i = 0; i < 25; i += 1) {
          if (random() < 0.2) await sleep(random() * 2500);
          const stop = new AbortController();
          if (random() < 0.1) setTimeout(() => stop.abort(new Error('stopped')), random() * 300);
          const turn = await gate.take(stop.signal).catch(() => null);
          const ways = [5 + random() * 90, 5 + random() * 90] as const;
          if (turn) await request(shop, turn, ways, 'how long');
        }
      };
      const process = async (gate: Gate) => {
        await sleep(random() * 4000);
        await Promise.all(Array.from({ length: 1 + Math.floor(random() * 4) }, () => lane(gate)));
      };
      const all = Promise.all(['a', 'b', 'c'].map((holder) => process(shop.gate(holder))));
      await vi.advanceTimersByTimeAsync(600_000);
      await all;
      expect(shop.counted.length).toBeGreaterThan(50);
      expect(shop.worst()).toBeLessThanOrEqual(4);
      expect(shop.held.size).toBe(0);
    },
  );

  it('moves to whoever else asks, and back', async () => {
    const shop = new Shop(4);
    const [first, second] = [shop.gate('a'), shop.gate('b')];
    const held = await Promise.all([1, 2, 3, 4].map(() => first.take()));
    expect(shop.held.get('a')).toBe(4);
    const late = second.take();
    held.forEach((turn) => turn.answered({ forMs: 10 }));
    await vi.advanceTimersByTimeAsync(600);
    (await late).answered();
    expect([shop.held.get('a')! <= 2, shop.held.get('b')]).toEqual([true, 2]);
  });

  it('leaves to others what it has no use for, and gets more when it has', async () => {
    const shop = new Shop(4);
    const [first, second] = [shop.gate('a'), shop.gate('b')];
    const held = [await first.take()];
    expect(shop.held.get('a')).toBe(2);
    // There is room for the other one at once.
    const other = [await second.take(), await second.take()];
    expect(shop.held.get('b')).toBe(2);
    other.forEach((turn) => turn.answered({ forMs: 10 }));
    await vi.advanceTimersByTimeAsync(3000);
    const more = Promise.all([first.take(), first.take(), first.take()]);
    await vi.advanceTimersByTimeAsync(400);
    held.push(...(await more));
    expect(shop.held.get('a')).toBe(4);
    held.forEach((turn) => turn.answered());
  });

  it('stands still while the shop asks to wait, and gives lanes back when that is long', async () => {
    const shop = new Shop(4);
    const gate = shop.gate('a');
    shop.pausedUntil = Date.now() + 800;
    let went = 0;
    const waiting = gate.take().then((turn) => ((went = Date.now()), turn.answered()));
    const paused = shop.pausedUntil;
    await vi.advanceTimersByTimeAsync(2000);
    await waiting;
    expect(went).toBeGreaterThanOrEqual(paused);
    shop.pausedUntil = Date.now() + 60_000;
    gate.pause(60_000);
    await expect(gate.take()).rejects.toBeInstanceOf(Busy);
  });

  it('is waited for no longer than a lane may be held, and not by who was stopped', async () => {
    const shop = new Shop(1);
    const gate = shop.gate('a');
    await gate.take();
    const stop = new AbortController();
    const stopped = gate.take(stop.signal).catch((error: unknown) => error);
    const long = gate.take().catch((error: unknown) => error);
    await vi.advanceTimersByTimeAsync(100);
    stop.abort(new Error('stopped'));
    expect(await stopped).toMatchObject({ message: 'stopped' });
    await vi.advanceTimersByTimeAsync(7000);
    expect(await long).toBeInstanceOf(Busy);
  });
});
