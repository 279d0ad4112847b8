import { runChannelTests } from '@/ports/conformance/channel';
import { ALONE } from '../shop/connecting';
import { about } from '../pennyquay/about';
import { memoryShop } from './channel';

for (const onceOnly of ['idempotency-key', 'look-up', 'delayed-look-up'] as const) {
  runChannelTests(`in memory, against doing twice: ${onceOnly}`, async () => {
    const shop = memoryShop({ ...about, onceOnly, liveDays: null });
    shop.visibleAfterMs = onceOnly === 'delayed-look-up' ? 60_000 : 0;
    let forwardMs = 0;
    shop.now = () => Date.now() + forwardMs;
    const secrets = { key: 'k' };
    const open = () => shop.channel.open(secrets, ALONE);
    return {
      channel: shop.channel,
      client: open(),
      second: open(),
      renewals: () => 0,
      scope: null,
      revoke: () => shop.channel.revoke(secrets),
      count: async () => shop.listings.size,
      // Of all that can go wrong it knows one thing.
      fault: (name, times) => {
        if (name === 'loseAnswers') shop.loseAnswers = times;
      },
      faultsLeft: () => shop.loseAnswers,
      clockOff: () => {},
      takeScopes: () => {},
      passTime: () => (forwardMs += 120_000),
      retitle: (externalId, title) => {
        const held = shop.listings.get(externalId)!;
        held.form = { ...held.form, title };
      },
      pictures: [new Uint8Array([1])],
    };
  });
}
