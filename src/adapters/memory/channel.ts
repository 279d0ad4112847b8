import { TypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import type { Channel, ChannelAbout, ChannelClient, ShopCode } from '@/ports/channel';

interface Held {
  readonly externalId: string;
  readonly reference: string;
  readonly madeAt: number;
  visibility: 'draft' | 'live';
  form: ListingForm;
  pictures: Map<string, string>;
}

/** A shop in memory, for tests: as careful or as careless about repeats as `about.onceOnly` says. */
export interface MemoryShop {
  readonly channel: Channel;
  readonly listings: Map<string, Held>;
  /** The next creations are done, and their answers lost. */
  loseAnswers: number;
  /** New listings are seen by a look-up only after this time. */
  visibleAfterMs: number;
  now: () => number;
}

interface Kept {
  readonly partners: Set<string>;
  readonly codes: Map<string, ShopCode>;
  /** Which listing an idempotency key made. */
  readonly answers: Map<string, string>;
  made: number;
}

const refFor = (externalId: string) => ({ externalId, url: `memory://${externalId}` });

export function memoryShop(about: ChannelAbout): MemoryShop {
  const kept: Kept = { partners: new Set(), codes: new Map(), answers: new Map(), made: 0 };
  const revoked = new Set<string>();
  const shop: MemoryShop = {
    listings: new Map(),
    loseAnswers: 0,
    visibleAfterMs: 0,
    now: () => Date.now(),
    channel: {
      about,
      authorizeUrl: ({ state }) => `memory://consent?state=${state}`,
      exchange: async () => ({
        shopId: 'memory',
        shopName: 'Memory',
        shopUrl: 'memory://shop',
        currency: about.currency,
        secrets: { key: 'k' },
      }),
      revoke: async (secrets) => void revoked.add(JSON.stringify(secrets)),
      open: (secrets, hooks) =>
        client(shop, kept, async () => {
          if (revoked.has(JSON.stringify(secrets)))
            throw new TypicaError('conflict', 'shop-token', 'The key was given back.');
          await (await hooks.takeTurn()).answered(true);
        }),
    },
  };
  return shop;
}

function heldBy(shop: MemoryShop, externalId: string): Held {
  const held = shop.listings.get(externalId);
  if (!held)
    throw new TypicaError('invalid', 'shop-refused', 'The shop no longer knows this listing.', { words: 'gone' });
  return held;
}

function client(shop: MemoryShop, kept: Kept, beforeRequest: () => Promise<void>): ChannelClient {
  const { about } = shop.channel;
  const need = (externalId: string) => heldBy(shop, externalId);
  return {
    async declaredPartners() {
      await beforeRequest();
      return [...kept.partners];
    },
    async declarePartner({ name }) {
      await beforeRequest();
      kept.partners.add(name);
    },
    async settle(attempt) {
      await beforeRequest();
      const found = [...shop.listings.values()].find(
        (held) => held.reference === attempt.reference && shop.now() - held.madeAt >= shop.visibleAfterMs,
      );
      if (found) return { kind: 'made', listing: refFor(found.externalId) };
      if (about.onceOnly === 'idempotency-key' || about.onceOnly === 'look-up') return { kind: 'make' };
      // What was just made may not be visible yet: before that time has passed, absence proves nothing.
      const left = attempt.sentAt.getTime() + shop.visibleAfterMs - shop.now();
      return left > 0 ? { kind: 'wait', retryAfterMs: left } : { kind: 'make' };
    },
    async create(attempt, form) {
      await beforeRequest();
      const before = about.onceOnly === 'idempotency-key' ? kept.answers.get(attempt.key) : undefined;
      if (before) return refFor(before);
      kept.made += 1;
      const externalId = `m${kept.made}`;
      shop.listings.set(externalId, {
        externalId,
        reference: attempt.reference,
        madeAt: shop.now(),
        visibility: 'draft',
        form,
        pictures: new Map(),
      });
      kept.answers.set(attempt.key, externalId);
      if (shop.loseAnswers > 0) {
        shop.loseAnswers -= 1;
        throw new TypicaError('unavailable', 'shop-unreachable', 'The shop did not answer.');
      }
      return refFor(externalId);
    },
    async uploadPicture(externalId, picture) {
      await beforeRequest();
      const held = need(externalId);
      const id = held.pictures.get(picture.key) ?? `p${held.pictures.size + 1}`;
      held.pictures.set(picture.key, id);
      return id;
    },
    async update(externalId, form) {
      await beforeRequest();
      need(externalId).form = structuredClone(form);
    },
    async show(externalId, visibility) {
      await beforeRequest();
      need(externalId).visibility = visibility;
    },
    async codes() {
      await beforeRequest();
      return [...kept.codes.values()];
    },
    async putCode(code) {
      await beforeRequest();
      kept.codes.set(code.code, code);
    },
    async dropCode(code) {
      await beforeRequest();
      kept.codes.delete(code);
    },
    async read(externalId) {
      await beforeRequest();
      const held = shop.listings.get(externalId);
      return held ? { ...refFor(externalId), visibility: held.visibility, form: structuredClone(held.form) } : null;
    },
  };
}
