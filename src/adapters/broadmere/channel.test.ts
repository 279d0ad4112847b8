import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runChannelTests } from '@/ports/conformance/channel';
import { create } from '@/sim/broadmere/server';
import { tokensOf } from '@/sim/engine/tokens';
import { samplePictures, shopFolder, underTest } from '../../../tests/support/shop-under-test';
import { broadmere } from './channel';

let shop: Awaited<ReturnType<typeof create>>;
let pictures: Uint8Array[];
beforeAll(async () => {
  shop = await create({ port: 0, data: shopFolder(), pace: 100 });
  pictures = await samplePictures();
});
afterAll(() => shop.close());

const seller = () => shop.world.accounts.get('bm-55120')!;
const channel = () => broadmere({ url: shop.url });
const connect = (typed: Record<string, string> = {}, region = 'us') => {
  const { connecting } = channel();
  if (connecting.kind !== 'keys') throw new Error('Broadmere asks for keys');
  return connecting.connect({ number: 'bm-55120', secret: seller().own.secret, ...typed }, region);
};

runChannelTests('Broadmere against its simulator', async () => {
  const connection = await connect();
  return underTest(shop, channel(), connection, pictures, {
    scope: 'goods',
    answers: {
      title: 'Crossed Blades tee by Brackwater Boathouse',
      terms: { brand: 'Brackwater', processingDays: '4' },
    },
    // The seller takes another secret, and all passes end.
    revoke: async () => {
      for (const text of Object.values(connection.secrets)) tokensOf(shop.world).drop(text);
      const secret = `another-${performance.now()}`;
      shop.world.accounts.put(seller().id, { ...seller(), own: { ...seller().own, secret } });
      await Promise.resolve();
    },
  });
});

describe('connecting to Broadmere', () => {
  it('says for which seller it is', async () => {
    expect(await connect()).toMatchObject({
      shopId: 'bm-55120',
      shopName: 'Brackwater Boathouse',
      currency: 'USD',
      region: 'us',
      endsAt: null,
    });
  });

  it('takes no number and secret that do not belong together, and no region that they are not for', async () => {
    await expect(connect({ secret: `${seller().own.secret.slice(0, -1)}x` })).rejects.toMatchObject({
      code: 'key-wrong',
    });
    await expect(connect({ number: '__proto__' })).rejects.toMatchObject({ code: 'key-wrong' });
    await expect(connect({ secret: '' })).rejects.toMatchObject({ code: 'key-wrong' });
    await expect(connect({}, 'ca')).rejects.toMatchObject({
      code: 'key-scope',
      message: expect.stringContaining('You sell in us, not in ca.'),
    });
  });
});

describe('leave to sell without codes', () => {
  it('is asked for once by brand, and granted or refused after a while', async () => {
    const { exemptions } = underTest(shop, channel(), await connect(), pictures, { scope: null }).client;
    const [good, bad] = [await exemptions!.ask('Brackwater'), await exemptions!.ask('X')];
    expect([good.state, bad.state]).toEqual(['asked', 'asked']);
    expect((await exemptions!.ask('Brackwater')).id).toBe(good.id);
    shop.world.forward(120_000);
    const states = new Map((await exemptions!.list()).map(({ id, state }) => [id, state]));
    expect([states.get(good.id), states.get(bad.id)]).toEqual(['granted', 'refused']);
  });
});
