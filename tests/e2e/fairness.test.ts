import { describe, expect, inject, it } from 'vitest';
import { hostileAccount } from '../support/hostile';
import { slowSvg, smallPng, uploader } from '../support/slow-artwork';

describe('four slow files of one workspace', () => {
  it('keep nobody else’s waiting, and end when they are stopped', async () => {
    const origin = inject('origin');
    const slow = uploader(origin, (await hostileAccount(origin)).token);
    const other = uploader(origin, (await hostileAccount(origin)).token);
    const ids = await Promise.all([1, 2, 3, 4].map((salt) => slow.upload(slowSvg(400, salt), `slow${salt}.svg`)));
    // One of them is being read by now; the others wait in turn.
    for (const salt of [7, 8]) {
      await new Promise((next) => setTimeout(next, 1500));
      await other.waitFor(await other.upload(await smallPng(salt), `small${salt}.png`));
    }
    expect(await Promise.all(ids.map(slow.stateOf))).toEqual(Array(4).fill('ingesting'));
    await slow.stopAll();
  });
});
