import { describe, expect, inject, it } from 'vitest';
import { hostileAccount } from '../support/hostile';
import { slowSvg, smallPng, uploader } from '../support/slow-artwork';

describe('four slow files of one workspace', () => {
  it('keep nobody else’s waiting, and end when they are stopped', async () => {
    const origin = inject('origin');
    const slow = uploader(origin, (await hostileAccount(origin)).token);
    const other = uploader(origin, (await hostileAccount(origin)).token);
    const ids = await Promise.all([1, 2, 3, 4].map((salt) => slow.upload(slowSvg(400, salt), `slow${salt}.svg`)));
    // Two of them have begun by now; the others wait in turn.
    await other.waitFor(await other.upload(await smallPng(7), 'small.png'));
    expect(await Promise.all(ids.map(slow.stateOf))).toEqual(Array(4).fill('ingesting'));
    await slow.stopAll();
  });
});
