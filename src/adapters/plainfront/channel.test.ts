import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runChannelTests } from '@/ports/conformance/channel';
import { endKey, keysOf, makeKey } from '@/sim/plainfront/keys';
import { create } from '@/sim/plainfront/server';
import { SCOPES } from '@/sim/plainfront/shop';
import { samplePictures, shopFolder, underTest } from '../../../tests/support/shop-under-test';
import { plainfront } from './channel';

let shop: Awaited<ReturnType<typeof create>>;
let pictures: Uint8Array[];
beforeAll(async () => {
  shop = await create({ port: 0, data: shopFolder(), pace: 100 });
  pictures = await samplePictures();
});
afterAll(() => shop.close());

const channel = () => plainfront({ url: shop.url });
const key = (over: Partial<Parameters<typeof makeKey>[1]> = {}) =>
  makeKey(shop.world, { name: 'Typica', scopes: SCOPES, accounts: ['pf-gb'], days: 90, ...over });
const connect = (text: string) => {
  const { connecting } = channel();
  if (connecting.kind !== 'keys') throw new Error('Plainfront asks for keys');
  return connecting.connect({ key: text }, null);
};

runChannelTests('Plainfront against its simulator', async () => {
  for (const { id } of shop.world.articles.all()) shop.world.articles.drop(id);
  return underTest(shop, channel(), await connect(key()), pictures, {
    scope: 'products',
    renews: false,
    revoke: async () => {
      for (const { id } of keysOf(shop.world).all()) endKey(shop.world, id);
      await Promise.resolve();
    },
  });
});

describe('a key of Plainfront', () => {
  it('says for which storefront it is, in which currency, and until when', async () => {
    const connection = await connect(key({ accounts: ['pf-eu'], days: 30 }));
    expect(connection).toMatchObject({ shopId: 'pf-eu', currency: 'EUR', region: null });
    const days = (connection.endsAt!.getTime() - shop.world.now()) / 86_400_000;
    expect(days).toBeGreaterThan(29);
    expect(days).toBeLessThanOrEqual(30);
  });

  it('must allow all that is needed: what is missing is named', async () => {
    await expect(connect(key({ scopes: ['products', 'pictures', 'hooks'] }))).rejects.toMatchObject({
      code: 'key-scope',
      message: expect.stringContaining('“delivery” and “discounts”'),
      fields: { missing: ['delivery', 'discounts'] },
    });
  });

  it('must be for exactly one storefront: which ones it is for is said', async () => {
    await expect(connect(key({ accounts: ['pf-gb', 'pf-eu'] }))).rejects.toMatchObject({
      code: 'key-stores',
      message: expect.stringContaining('2 storefronts: Brackwater Boathouse, Brackwater Boathouse Europe'),
    });
    await expect(connect(key({ accounts: [] }))).rejects.toMatchObject({
      code: 'key-stores',
      message: expect.stringContaining('no storefront'),
    });
  });

  it('must hold', async () => {
    await expect(connect('nonsense')).rejects.toMatchObject({ code: 'key-wrong' });
    await expect(connect(key({ days: 0 }))).rejects.toMatchObject({ code: 'key-wrong' });
  });
});
