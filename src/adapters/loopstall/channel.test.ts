import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runChannelTests } from '@/ports/conformance/channel';
import { attemptOf } from '@/ports/conformance/channel-driver';
import { sampleFormFor } from '@/ports/conformance/channel-sample';
import { create } from '@/sim/loopstall/server';
import {
  connectByConsent,
  REDIRECT,
  samplePictures,
  shopFolder,
  underTest,
} from '../../../tests/support/shop-under-test';
import { about } from './about';
import { loopstall } from './channel';

let shop: Awaited<ReturnType<typeof create>>;
let pictures: Uint8Array[];
beforeAll(async () => {
  const clients = { typica: REDIRECT };
  // Ten seconds of ours: a slow machine, too, has a listing live before its pictures are judged.
  shop = await create({ port: 0, data: shopFolder(), clients, pace: 100, troubles: 0, judgeMs: 1_000_000 });
  pictures = await samplePictures();
});
afterAll(() => shop.close());

const channel = () => loopstall({ url: shop.url, clientId: 'typica' });
const answers = {
  category: 'wear-tops-tee',
  attributes: { cloth: 'Cotton', age: 'Adults', fit: 'Straight', wash: '30 degrees' },
  terms: { warehouse: 'wh-nl' },
};
const setUp = async () => ({
  ...underTest(shop, channel(), await connectByConsent(channel(), 'eu'), pictures, { answers, scope: 'look' }),
  passTime: () => shop.world.forward(1_200_000),
  refuseNextPicture: () => void (shop.faults.refusePictures = 1),
});

runChannelTests('Loopstall against its simulator', setUp);

describe('Loopstall', () => {
  it('is connected in one region, and is asked there alone', async () => {
    const connection = await connectByConsent(channel(), 'eu');
    expect(connection).toMatchObject({ shopId: 'ls-3107', region: 'eu', currency: 'EUR' });
    const elsewhere = await fetch(`${shop.url}/api/gb/stall`, {
      headers: { authorization: `Bearer ${connection.secrets.access}` },
    });
    expect([elsewhere.status, await elsewhere.json()]).toMatchObject([403, { reason: 'region' }]);
    await expect(connectByConsent(channel(), 'gb')).rejects.toThrow('400');
    await expect(connectByConsent(channel(), null)).rejects.toThrow('400');
  });

  it('forgets a key after an hour: what was made before is found by its mark', async () => {
    const { client } = await setUp();
    const form = sampleFormFor(about, answers);
    const attempt = attemptOf(form);
    const first = await client.create(attempt, form);
    expect(await client.create(attempt, form)).toEqual(first);
    shop.world.forward(3_700_000);
    const { client: again } = await setUp();
    expect(await again.settle(attempt)).toEqual({ kind: 'made', listing: first });
    expect((await again.create(attempt, form)).externalId).not.toBe(first.externalId);
  });
});
