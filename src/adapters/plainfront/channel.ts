import { TypicaError } from '@/core/errors';
import type { Channel, ChannelClient, Connection, RemoteRef } from '@/ports/channel';
import { caller, need as needOf, refused, type Caller, type Manners } from '../shop/caller';
import { offOf, wireOff } from '../shop/codes';
import { ALONE } from '../shop/connecting';
import { wordsIn } from '../shop/said';
import { about } from './about';
import { tableOf } from './delivery';
import { formOfProduct, wireProduct } from './form';
import type { WireDiscount, WireKey, WireProduct, WireTable } from './wire';

export interface PlainfrontSettings {
  readonly url: string;
}

/** What a key must allow. */
const SCOPES = ['products', 'pictures', 'delivery', 'hooks', 'discounts'];

const need = <T>(value: T | null): T => needOf(about.name, value);

/** Plainfront, the program for storefronts of one's own: pasted keys, REST, signed messages. */
export function plainfront(settings: PlainfrontSettings): Channel {
  const manners: Manners = {
    name: about.name,
    url: `${settings.url}/rest`,
    authorization: ({ key }) => `Bearer ${key}`,
    renew: null,
    wordsOf: ({ errors, message, lacks }) =>
      wordsIn(errors, message, lacks, (fault) => `${fault.field} ${fault.message}.`),
  };
  return {
    about,
    connecting: {
      kind: 'keys',
      page: `${settings.url}/desk/keys`,
      fields: [{ name: 'key', label: 'Key', secret: true }],
      async connect({ key = '' }) {
        const secrets = { key };
        const told = await caller(
          manners,
          secrets,
          ALONE,
        )<WireKey>({ method: 'GET', path: '/whoami' }).catch((error: unknown) => {
          throw error instanceof TypicaError && error.code === 'shop-token' ? wrongKey(error) : error;
        });
        return connectionOf(need(told), key);
      },
    },
    // A key is the owner's: only they end it.
    revoke: async () => {},
    readNews(message) {
      const { type, product } = (message ?? {}) as { type?: unknown; product?: unknown };
      if (typeof product !== 'string' || (type !== 'product.changed' && type !== 'product.removed')) return null;
      return { externalId: product, kind: type === 'product.removed' ? 'removed' : 'changed' };
    },
    open: (secrets, hooks) => client(caller(manners, secrets, hooks)),
  };
}

const wrongKey = (cause: unknown) =>
  new TypicaError(
    'invalid',
    'key-wrong',
    'Plainfront does not accept this key: it is mistyped, has ended, or has run out. Make a new one on its page “Keys for programs”.',
    {},
    cause,
  );

/** A key that is good: for all that is needed, for exactly one storefront, and not run out. */
function connectionOf({ scopes, expires, storefronts }: WireKey, key: string): Connection {
  const missing = SCOPES.filter((scope) => !scopes.includes(scope));
  if (missing.length > 0)
    throw new TypicaError(
      'invalid',
      'key-scope',
      `This key does not allow ${missing.map((scope) => `“${scope}”`).join(' and ')}. Make one on Plainfront that does, and paste it here.`,
      { missing },
    );
  const [front] = storefronts;
  if (!front || storefronts.length > 1)
    throw new TypicaError(
      'invalid',
      'key-stores',
      front
        ? `This key is for ${storefronts.length} storefronts: ${storefronts.map(({ name }) => name).join(', ')}. A store here is exactly one: make a key for each.`
        : 'This key is for no storefront. Choose one when you make it on Plainfront.',
      { stores: storefronts.map(({ name }) => name) },
    );
  const { id: shopId, name: shopName, currency, url: shopUrl } = front;
  return { shopId, shopName, shopUrl, currency, region: null, secrets: { key, currency }, endsAt: new Date(expires) };
}

const client = (call: Caller): ChannelClient => ({
  ...listings(call),
  ...reading(call),
  ...codes(call),
  hooks: {
    async subscribe(address) {
      return need(await call<{ secret: string }>({ method: 'POST', path: '/hooks', body: { address } }));
    },
  },
});

const refOf = ({ id, url }: WireProduct): RemoteRef => ({ externalId: id, url });

/** Our mark on a product that was just made: it goes with the first update, before any buyer sees it. */
const markOf = (reference: string): string => `made:${reference}`;

const tablesOf = async (call: Caller) =>
  need(await call<{ tables: WireTable[] }>({ method: 'GET', path: '/delivery' })).tables;

type Changing = 'settle' | 'create' | 'uploadPicture' | 'update' | 'show' | 'remove';

const listings = (call: Caller): Pick<ChannelClient, Changing> => ({
  async settle({ reference, skus }) {
    // It can be asked by SKU alone, and another product can have the same: only one that carries our mark was made by this attempt.
    for (const sku of skus.slice(0, 1)) {
      const query = new URLSearchParams({ sku });
      const { products } = need(await call<{ products: WireProduct[] }>({ method: 'GET', path: `/products?${query}` }));
      const made = products.find(({ labels }) => labels.includes(markOf(reference)));
      if (made) return { kind: 'made', listing: refOf(made) };
    }
    return { kind: 'make' };
  },
  async create({ reference }, form) {
    const body = {
      ...wireProduct(form, {}, null),
      labels: [markOf(reference)],
      // Asked for with everything else: an address that is taken is told then, when it can be changed.
      handle: '',
      state: 'hidden',
    };
    return refOf(need(await call<WireProduct>({ method: 'POST', path: '/products', body })));
  },
  async uploadPicture({ bytes, mediaType }) {
    return need(await call<{ id: string }>({ method: 'POST', path: '/pictures', bytes, mediaType })).id;
  },
  async update(externalId, form, pictureIds) {
    const table = tableOf(form);
    const known = (await tablesOf(call)).some(({ name }) => name === table.name);
    if (!known) need(await call({ method: 'PUT', path: `/delivery/${table.name}`, body: { zones: table.zones } }));
    const body = wireProduct(form, pictureIds, table.name);
    need(await call({ method: 'PATCH', path: `/products/${externalId}`, body }));
  },
  async show(externalId, visibility) {
    const body = { state: visibility === 'live' ? 'published' : 'hidden' };
    need(await call({ method: 'PATCH', path: `/products/${externalId}`, body }));
  },
  async remove(externalId) {
    await call({ method: 'DELETE', path: `/products/${externalId}` });
  },
});

const reading = (call: Caller): Pick<ChannelClient, 'read' | 'list'> => ({
  async read(externalId, known, pictureIds) {
    const product = await call<WireProduct>({ method: 'GET', path: `/products/${externalId}` });
    if (!product) return null;
    const tables = await tablesOf(call);
    return {
      ...refOf(product),
      visibility: product.state === 'published' ? 'live' : 'draft',
      form: formOfProduct(
        product,
        known,
        pictureIds,
        tables.find(({ name }) => name === product.delivery),
      ),
      endsAt: null,
      stamp: product.updated_at,
      refusedPictures: [],
    };
  },
  async list(since, cursor) {
    const query = new URLSearchParams({
      ...(since === null ? {} : { changed_since: since }),
      ...(cursor === null ? {} : { cursor }),
    });
    const page = need(
      await call<{ products: WireProduct[]; cursor: string | null }>({ method: 'GET', path: `/products?${query}` }),
    );
    return {
      listings: page.products.map((product) => ({
        ...refOf(product),
        title: product.title,
        visibility: product.state === 'published' ? ('live' as const) : ('draft' as const),
        reference: null,
        skus: product.variants.map(({ sku }) => sku),
        stamp: product.updated_at,
      })),
      cursor: page.cursor,
      mark: page.products.at(-1)?.updated_at ?? since,
    };
  },
});

const codes = (call: Caller): Pick<ChannelClient, 'codes' | 'putCode' | 'dropCode'> => ({
  async codes() {
    const held = need(await call<{ discounts: WireDiscount[] }>({ method: 'GET', path: '/discounts' })).discounts;
    return held.map((one) => ({ code: one.code, off: offOf(one, TWO_PLACES), externalIds: one.products }));
  },
  async putCode(code) {
    const body = { ...wireOff(code, TWO_PLACES), products: code.externalIds };
    const put = await call({ method: 'PUT', path: `/discounts/${encodeURIComponent(code.code)}`, body });
    if (put === null) throw refused(about.name, 'A code is 3 to 24 capital letters, digits and hyphens.', ['code']);
  },
  async dropCode(code) {
    await call({ method: 'DELETE', path: `/discounts/${encodeURIComponent(code)}` });
  },
});

/** Storefronts count in pounds or euros: both have two places, which is all that an amount's text needs to know. */
const TWO_PLACES = 'EUR';
