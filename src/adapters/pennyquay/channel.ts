import { TypicaError } from '@/core/errors';
import { canonicalJson, sha256Hex } from '@/core/canonical/canonical';
import type { ListingForm } from '@/core/listing/form';
import type { Channel, ChannelClient, RemoteRef } from '@/ports/channel';
import { caller, need as needOf, type Caller, type Manners } from '../shop/caller';
import { offOf, wireOff } from '../shop/codes';
import { ALONE } from '../shop/connecting';
import { consentUrl, fetchFirstTokens, refreshTokens, revokeTokens, type OAuthShop } from '../shop/oauth';
import { wordsIn } from '../shop/said';
import { about } from './about';
import { formOfItem, wireLanes, wireOffers, wireWords } from './form';
import type { WireCode, WireItem, WireMaker, WireProfile } from './wire';

export interface PennyquaySettings {
  readonly url: string;
  readonly clientId: string;
}

const SCOPES = 'shop:read items:read items:write makers:write';
const need = <T>(value: T | null): T => needOf(about.name, value);

/** The craft marketplace Pennyquay. */
export function pennyquay(settings: PennyquaySettings): Channel {
  const shop: OAuthShop = { name: about.name, scopes: SCOPES, ...settings };
  const manners: Manners = {
    name: about.name,
    url: `${settings.url}/api`,
    authorization: ({ access }) => `Bearer ${access}`,
    renew: (stale) => refreshTokens(shop, stale),
    wordsOf: ({ objections, message, lacks }) => wordsIn(objections, message, lacks),
  };
  return {
    about,
    connecting: {
      kind: 'consent',
      authorizeUrl: (ask) => consentUrl(shop, ask),
      async exchange(answer) {
        const secrets = await fetchFirstTokens(shop, answer);
        const told = await caller(manners, secrets, ALONE)<WireShop>({ method: 'GET', path: '/shop' });
        if (!told)
          throw new TypicaError(
            'unavailable',
            'shop-unreachable',
            'Pennyquay gave access and then did not say to which shop. Connect again.',
          );
        const { shop_id: shopId, name: shopName, page: shopUrl, currency } = told;
        return { shopId, shopName, shopUrl, currency, region: null, secrets, endsAt: null };
      },
    },
    revoke: (secrets) => revokeTokens(shop, secrets),
    open: (secrets, hooks) => client(caller(manners, secrets, hooks)),
  };
}

interface WireShop {
  readonly shop_id: string;
  readonly name: string;
  readonly currency: string;
  readonly page: string;
}

const client = (call: Caller): ChannelClient => ({
  partners: partners(call),
  ...listings(call),
  ...reading(call),
  ...codes(call),
});

const makersOf = async (call: Caller) =>
  need(await call<{ makers: WireMaker[] }>({ method: 'GET', path: '/makers' })).makers;

const profilesOf = async (call: Caller) =>
  need(await call<{ profiles: WireProfile[] }>({ method: 'GET', path: '/delivery-profiles' })).profiles;

/** The delivery profile with these lanes, made when there is none: named by its content, so that it is never made twice. */
async function profileFor(call: Caller, form: ListingForm): Promise<string> {
  const lanes = wireLanes(form);
  const name = `${form.partner.name} ${sha256Hex(canonicalJson(lanes)).slice(0, 8)}`;
  const have = (await profilesOf(call)).find((profile) => profile.name === name);
  return (have ?? need(await call<WireProfile>({ method: 'POST', path: '/delivery-profiles', body: { name, lanes } })))
    .id;
}

const partners = (call: Caller): ChannelClient['partners'] => ({
  async list() {
    return (await makersOf(call)).map((maker) => maker.name);
  },
  async declare({ name, country }) {
    await call({ method: 'POST', path: '/makers', body: { name, country } });
  },
});

const codes = (call: Caller): Pick<ChannelClient, 'codes' | 'putCode' | 'dropCode'> => ({
  async codes() {
    const held = need(await call<{ codes: WireCode[] }>({ method: 'GET', path: '/codes' })).codes;
    return held.map((one) => ({ code: one.code, off: offOf(one, about.currency!), externalIds: one.items }));
  },
  async putCode(code) {
    const body = { code: code.code, ...wireOff(code, about.currency!), items: code.externalIds };
    need(await call({ method: 'PUT', path: `/codes/${encodeURIComponent(code.code)}`, body }));
  },
  async dropCode(code) {
    await call({ method: 'DELETE', path: `/codes/${encodeURIComponent(code)}` });
  },
});

const refOf = ({ item_id, page }: { item_id: string; page: string }): RemoteRef => ({ externalId: item_id, url: page });

type Changing = 'settle' | 'create' | 'uploadPicture' | 'update' | 'show' | 'remove' | 'renew';

const listings = (call: Caller): Pick<ChannelClient, Changing> => ({
  async settle({ reference }) {
    // The request key would answer a repeat with the first answer; looking is as sure, and finds what was made before keys were forgotten.
    const { items } = need(
      await call<{ items: WireItem[] }>({ method: 'GET', path: `/items?reference=${encodeURIComponent(reference)}` }),
    );
    return items[0] ? { kind: 'made', listing: refOf(items[0]) } : { kind: 'make' };
  },
  async create({ key, reference }, form) {
    const made = await call<{ item_id: string; page: string }>({
      method: 'POST',
      path: '/items',
      headers: { 'request-key': key },
      body: { reference, ...wireWords(form) },
    });
    return refOf(need(made));
  },
  async uploadPicture({ key, bytes, mediaType }) {
    const headers = { 'request-key': `picture-${key}` };
    return need(await call<{ picture_id: string }>({ method: 'POST', path: '/pictures', bytes, mediaType, headers }))
      .picture_id;
  },
  async update(externalId, form, pictureIds) {
    const maker = (await makersOf(call)).find((one) => one.name === form.partner.name);
    const body = {
      ...wireWords(form),
      ...wireOffers(form, pictureIds),
      maker: maker?.id ?? null,
      delivery_profile: await profileFor(call, form),
    };
    need(await call({ method: 'PUT', path: `/items/${externalId}`, body }));
  },
  async show(externalId, visibility) {
    need(await call({ method: 'POST', path: `/items/${externalId}/${visibility === 'live' ? 'open' : 'close'}` }));
  },
  async remove(externalId) {
    await call({ method: 'DELETE', path: `/items/${externalId}` });
  },
  async renew(externalId) {
    return new Date(need(await call<WireItem>({ method: 'POST', path: `/items/${externalId}/renew` })).ends!);
  },
});

const reading = (call: Caller): Pick<ChannelClient, 'read' | 'list'> => ({
  async read(externalId, known, pictureIds) {
    const item = await call<WireItem>({ method: 'GET', path: `/items/${externalId}` });
    if (!item) return null;
    const [profiles, makers] = [await profilesOf(call), await makersOf(call)];
    const form = formOfItem(
      item,
      known,
      pictureIds,
      profiles.find(({ id }) => id === item.delivery_profile),
      makers.find(({ id }) => id === item.maker),
    );
    return {
      ...refOf(item),
      visibility: item.stage === 'open' ? 'live' : 'draft',
      form,
      endsAt: item.ends === null ? null : new Date(item.ends),
      stamp: item.touched,
      refusedPictures: [],
    };
  },
  async list(since, cursor) {
    const query = new URLSearchParams({
      ...(since === null ? {} : { touched_since: since }),
      ...(cursor === null ? {} : { from: cursor }),
    });
    const { items, next } = need(
      await call<{ items: WireItem[]; next: number | null }>({ method: 'GET', path: `/items?${query}` }),
    );
    return {
      listings: items.map((item) => ({
        ...refOf(item),
        title: item.headline,
        visibility: item.stage === 'open' ? ('live' as const) : ('draft' as const),
        reference: item.reference,
        skus: item.offers.map(({ sku }) => sku),
        stamp: item.touched,
      })),
      cursor: next === null ? null : String(next),
      mark: items.at(-1)?.touched ?? since,
    };
  },
});
