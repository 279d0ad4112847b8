import { describe, expect, it } from 'vitest';
import { ShopClock } from './shop-clock';

/** The shop's clock shows this when ours shows 0, ms. */
const THERE = 5_000;

/** Requests that are sent every 100 ms by our clock and counted `ways[i]` ms later. Gives the time of the last. */
function notes(clock: ShopClock, ways: readonly number[], from = 0, there = THERE): number {
  ways.forEach((way, i) => clock.note(from + i * 100, from + i * 100 + way + there));
  return from + (ways.length - 1) * 100;
}
const ways = (n: number, least: number) => Array.from({ length: n }, (_, i) => least + ((i * 7) % 20));

/** By how much later than at the quickest way a request goes that has to be there at `shopMs`. */
const margin = (clock: ShopClock, shopMs: number, way: number, there = THERE) =>
  clock.earliest(shopMs)! - (shopMs - there - way);

describe('a shop’s clock', () => {
  it('says when a request has to be sent so that it gets there in time, by the quickest way that was seen', () => {
    const clock = new ShopClock();
    notes(clock, ways(29, 40));
    expect(clock.earliest(20_000)).toBeNull();
    clock.note(3_000, 3_000 + 40 + THERE);
    // Ways of 40 to 59 ms: little is known after 30, and enough after 300.
    expect(margin(clock, 20_000, 40)).toBeGreaterThan(1);
    notes(clock, ways(270, 40), 3_100);
    expect(margin(clock, 20_000, 40)).toBeGreaterThan(0);
    expect(margin(clock, 20_000, 40)).toBeLessThan(0.3);
  });

  it('follows ways that have become quicker at once, and slower ones in a minute', () => {
    const clock = new ShopClock();
    let last = notes(clock, ways(40, 40));
    last = notes(clock, [15], last + 100);
    expect(margin(clock, 0, 15)).toBeLessThan(8);
    notes(clock, ways(700, 60), last + 100);
    expect(margin(clock, 0, 60)).toBeLessThan(0.3);
  });

  it('that was set back is followed at once; what was forgotten is learnt anew', () => {
    const clock = new ShopClock();
    const last = notes(clock, ways(40, 40));
    notes(clock, [40], last + 100, THERE - 600_000);
    // It goes no sooner: whoever sends waits no longer than the answer says (gate.ts).
    expect(margin(clock, 0, 40, THERE - 600_000)).toBeGreaterThanOrEqual(0);
    clock.forget();
    expect(clock.earliest(0)).toBeNull();
  });
});
