import type { ChannelAbout } from '@/ports/channel';
import { runChannelTests } from '@/ports/conformance/channel';
import { about } from '../pennyquay/about';
import { memoryShop } from './channel';

for (const onceOnly of [
  'idempotency-key',
  'look-up',
  'delayed-look-up',
] as const satisfies readonly ChannelAbout['onceOnly'][]) {
  runChannelTests(`in memory, ${onceOnly}`, async () => {
    const shop = memoryShop({ ...about, onceOnly });
    let clock = Date.now();
    shop.now = () => clock;
    shop.visibleAfterMs = onceOnly === 'delayed-look-up' ? 60_000 : 0;
    return {
      channel: shop.channel,
      client: shop.channel.open(
        {},
        {
          takeTurn: async () => ({ answered: async () => {} }),
          slowDown: async () => {},
          renew: async (stale) => stale,
        },
      ),
      revoke: () => shop.channel.revoke({}),
      count: async () => shop.listings.size,
      loseNextAnswer: () => void (shop.loseAnswers = 1),
      passTime: () => void (clock += 61_000),
      picture: new Uint8Array(8),
    };
  });
}
