import { TypicaError } from '@/core/errors';
import { contentHash } from '@/core/canonical/canonical';
import type { ListingForm } from '@/core/listing/form';
import type { Channel, ChannelAbout, ChannelClient, ChannelHooks, RemoteRef, ShopCode } from '@/ports/channel';

interface Held {
  readonly externalId: string;
  readonly reference: string;
  readonly madeAt: number;
  visibility: 'draft' | 'live';
  form: ListingForm;
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
  /** Which listing an idempotency key made, and which id a picture got. */
  readonly answers: Map<string, string>;
  readonly pictures: Map<string, string>;
  made: number;
}

const refFor = (externalId: string): RemoteRef => ({ externalId, url: `memory://${externalId}` });

export function memoryShop(about: ChannelAbout): MemoryShop {
  const kept: Kept = {
    partners: new Set(),
    codes: new Map(),
    answers: new Map(),
    pictures: new Map(),
    made: 0,
  };
  const revoked = new Set<string>();
  const shop: MemoryShop = {
    listings: new Map(),
    loseAnswers: 0,
    visibleAfterMs: 0,
    now: () => Date.now(),
    channel: {
      // It keeps no account of when something changed.
      about: { ...about, tellsChanges: false },
      connecting: {
        kind: 'consent',
        authorizeUrl: ({ state }) => `memory://consent?state=${state}`,
        exchange: async () => ({
          shopId: 'memory',
          shopName: 'Memory',
          shopUrl: 'memory://shop',
          currency: about.currency ?? 'GBP',
          region: null,
          secrets: { key: 'k' },
          endsAt: null,
        }),
      },
      revoke: async (secrets) => void revoked.add(JSON.stringify(secrets)),
      open: (secrets, hooks) =>
        client(shop, kept, async () => {
          if (revoked.has(JSON.stringify(secrets)))
            throw new TypicaError('conflict', 'shop-token', 'The key was given back.');
          await answerOne(hooks);
        }),
    },
  };
  return shop;
}

const answerOne = async (hooks: ChannelHooks): Promise<void> => (await hooks.takeTurn()).answered(true);

function heldBy(shop: MemoryShop, externalId: string): Held {
  const held = shop.listings.get(externalId);
  if (!held)
    throw new TypicaError('invalid', 'shop-refused', 'The shop no longer knows this listing.', { words: 'gone' });
  return held;
}

/** Another one for every state. */
const stampOf = ({ visibility, form }: Pick<Held, 'visibility' | 'form'>): string => contentHash({ visibility, form });

type Before = () => Promise<void>;

function client(shop: MemoryShop, kept: Kept, before: Before): ChannelClient {
  return { ...making(shop, kept, before), ...changing(shop, before), ...codes(kept, before) };
}

function making(
  shop: MemoryShop,
  kept: Kept,
  before: Before,
): Pick<ChannelClient, 'partners' | 'settle' | 'create' | 'uploadPicture'> {
  const { about } = shop.channel;
  return {
    partners: {
      async list() {
        await before();
        return [...kept.partners];
      },
      async declare({ name }) {
        await before();
        kept.partners.add(name);
      },
    },
    async settle(attempt) {
      await before();
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
      await before();
      if (form.title === '')
        throw new TypicaError('invalid', 'shop-refused', 'The shop wants a title.', { words: 'no title' });
      const made = about.onceOnly === 'idempotency-key' ? kept.answers.get(attempt.key) : undefined;
      if (made) return refFor(made);
      kept.made += 1;
      const externalId = `m${kept.made}`;
      const { reference } = attempt;
      shop.listings.set(externalId, { externalId, reference, madeAt: shop.now(), visibility: 'draft', form });
      kept.answers.set(attempt.key, externalId);
      if (shop.loseAnswers > 0) {
        shop.loseAnswers -= 1;
        throw new TypicaError('unavailable', 'shop-unreachable', 'The shop did not answer.');
      }
      return refFor(externalId);
    },
    async uploadPicture({ key }) {
      await before();
      const id = kept.pictures.get(key) ?? `p${kept.pictures.size + 1}`;
      kept.pictures.set(key, id);
      return id;
    },
  };
}

function changing(
  shop: MemoryShop,
  before: Before,
): Pick<ChannelClient, 'update' | 'show' | 'remove' | 'read' | 'list'> {
  return {
    async update(externalId, form) {
      await before();
      heldBy(shop, externalId).form = structuredClone(form);
    },
    async show(externalId, visibility) {
      await before();
      heldBy(shop, externalId).visibility = visibility;
    },
    async remove(externalId) {
      await before();
      shop.listings.delete(externalId);
    },
    async read(externalId) {
      await before();
      const held = shop.listings.get(externalId);
      if (!held) return null;
      const { visibility, form } = held;
      return {
        ...refFor(externalId),
        visibility,
        form: structuredClone(form),
        stamp: stampOf(held),
        endsAt: null,
        refusedPictures: [],
      };
    },
    async list() {
      await before();
      const listings = [...shop.listings.values()].map(({ externalId, reference, visibility, form }) => ({
        ...refFor(externalId),
        title: form.title,
        visibility,
        reference,
        skus: Object.values(form.variants).map(({ sku }) => sku),
        stamp: stampOf({ visibility, form }),
      }));
      return { listings, cursor: null, mark: null };
    },
  };
}

const codes = (kept: Kept, before: Before): Pick<ChannelClient, 'codes' | 'putCode' | 'dropCode'> => ({
  async codes() {
    await before();
    return [...kept.codes.values()];
  },
  async putCode(code) {
    await before();
    kept.codes.set(code.code, code);
  },
  async dropCode(code) {
    await before();
    kept.codes.delete(code);
  },
});
