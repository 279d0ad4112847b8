import { setTimeout as delay } from 'node:timers/promises';
import { TypicaError } from '@/core/errors';
import { canonicalJson, sha256Hex } from '@/core/canonical/canonical';
import type { ListingForm } from '@/core/listing/form';
import type { Channel, ChannelClient, ChannelHooks, RemoteRef } from '@/ports/channel';
import { about } from './about';
import { codeOf, wireCode } from './codes';
import { formOf, wireLanes, wireOffers, wireWords } from './form';
import { caller, fetchTokens, revokeTokens, secretsOf, type PennyquaySettings } from './http';
import type { WireCode, WireItem, WireMaker, WireProfile } from './wire';

/** For the few requests of connecting, which nobody shares. */
const onceOnly: ChannelHooks = {
  takeTurn: async () => ({ answered: async () => {} }),
  slowDown: (retryAfterMs) => delay(retryAfterMs),
  renew: (stale, ask) => ask(stale),
};

const SCOPES = 'shop:read items:read items:write makers:write';

/** The craft marketplace Pennyquay. */
export function pennyquay(settings: PennyquaySettings): Channel {
  return {
    about,
    authorizeUrl({ state, challenge, redirectUri }) {
      const query = new URLSearchParams({
        response_type: 'code',
        client_id: settings.clientId,
        redirect_uri: redirectUri,
        scope: SCOPES,
        state,
        code_challenge: challenge,
        code_challenge_method: 'S256',
      });
      return `${settings.url}/consent?${query}`;
    },
    async exchange({ code, verifier, redirectUri }) {
      const secrets = secretsOf(
        await fetchTokens(settings, {
          grant_type: 'authorization_code',
          code,
          code_verifier: verifier,
          redirect_uri: redirectUri,
        }),
      );
      const call = caller(settings, secrets, onceOnly);
      const shop = await call<{ shop_id: string; name: string; currency: string; page: string }>({
        method: 'GET',
        path: '/shop',
      });
      if (!shop)
        throw new TypicaError(
          'unavailable',
          'shop-unreachable',
          'Pennyquay gave access and then did not say to which shop. Connect again.',
        );
      return { shopId: shop.shop_id, shopName: shop.name, shopUrl: shop.page, currency: shop.currency, secrets };
    },
    revoke: (secrets) => revokeTokens(settings, secrets),
    open: (secrets, hooks) => client(caller(settings, secrets, hooks)),
  };
}

type Call = ReturnType<typeof caller>;

const client = (call: Call): ChannelClient => ({ ...partners(call), ...listings(call), ...codes(call) });

function need<T>(value: T | null): T {
  if (value === null)
    throw new TypicaError(
      'invalid',
      'shop-refused',
      'Pennyquay no longer knows this listing. Look at it there, or send it again as a new one.',
      { words: 'There is no such item in this shop.' },
    );
  return value;
}

const makersOf = async (call: Call) =>
  need(await call<{ makers: WireMaker[] }>({ method: 'GET', path: '/makers' })).makers;

const profilesOf = async (call: Call) =>
  need(await call<{ profiles: WireProfile[] }>({ method: 'GET', path: '/delivery-profiles' })).profiles;

/** The delivery profile with these lanes, made when there is none: named by its content, so that it is never made twice. */
async function profileFor(call: Call, form: ListingForm): Promise<string> {
  const lanes = wireLanes(form);
  const name = `${form.partner.name} ${sha256Hex(canonicalJson(lanes)).slice(0, 8)}`;
  const have = (await profilesOf(call)).find((profile) => profile.name === name);
  return (have ?? need(await call<WireProfile>({ method: 'POST', path: '/delivery-profiles', body: { name, lanes } })))
    .id;
}

const partners = (call: Call): Pick<ChannelClient, 'declaredPartners' | 'declarePartner'> => ({
  async declaredPartners() {
    return (await makersOf(call)).map((maker) => maker.name);
  },
  async declarePartner({ name, country }) {
    await call({ method: 'POST', path: '/makers', body: { name, country } });
  },
});

const codes = (call: Call): Pick<ChannelClient, 'codes' | 'putCode' | 'dropCode'> => ({
  async codes() {
    return need(await call<{ codes: WireCode[] }>({ method: 'GET', path: '/codes' })).codes.map(codeOf);
  },
  async putCode(code) {
    need(await call({ method: 'PUT', path: `/codes/${encodeURIComponent(code.code)}`, body: wireCode(code) }));
  },
  async dropCode(code) {
    await call({ method: 'DELETE', path: `/codes/${encodeURIComponent(code)}` });
  },
});

const listings = (
  call: Call,
): Omit<ChannelClient, keyof ReturnType<typeof partners> | keyof ReturnType<typeof codes>> => ({
  async settle(attempt) {
    // The shop repeats its first answer to a request key, so that making it again is safe; looking first saves the pictures' way.
    const found = need(
      await call<{ items: WireItem[] }>({
        method: 'GET',
        path: `/items?reference=${encodeURIComponent(attempt.reference)}`,
      }),
    ).items[0];
    return found ? { kind: 'made', listing: { externalId: found.item_id, url: found.page } } : { kind: 'make' };
  },
  async create(attempt, form): Promise<RemoteRef> {
    const made = need(
      await call<{ item_id: string; page: string }>({
        method: 'POST',
        path: '/items',
        body: { reference: attempt.reference, ...wireWords(form) },
        requestKey: attempt.key,
      }),
    );
    return { externalId: made.item_id, url: made.page };
  },
  async uploadPicture(externalId, picture) {
    const requestKey = `${externalId}:${picture.key.slice(0, 40)}`;
    return need(
      await call<{ picture_id: string }>({
        method: 'POST',
        path: `/items/${externalId}/pictures`,
        bytes: picture.bytes,
        requestKey,
      }),
    ).picture_id;
  },
  async update(externalId, form, pictureIds) {
    const [maker, profile] = [
      (await makersOf(call)).find((m) => m.name === form.partner.name),
      await profileFor(call, form),
    ];
    need(
      await call({
        method: 'PUT',
        path: `/items/${externalId}`,
        body: {
          ...wireWords(form),
          ...wireOffers(form, pictureIds),
          maker: maker?.id ?? null,
          delivery_profile: profile,
        },
      }),
    );
  },
  async show(externalId, visibility) {
    need(await call({ method: 'POST', path: `/items/${externalId}/${visibility === 'live' ? 'open' : 'close'}` }));
  },
  async read(externalId, known, pictureIds) {
    const item = await call<WireItem>({ method: 'GET', path: `/items/${externalId}` });
    if (!item) return null;
    const [allProfiles, allMakers] = [await profilesOf(call), await makersOf(call)];
    const form = formOf(
      item,
      known,
      pictureIds,
      allProfiles.find((p) => p.id === item.delivery_profile),
      allMakers.find((m) => m.id === item.maker),
    );
    return { externalId: item.item_id, url: item.page, visibility: item.stage === 'open' ? 'live' : 'draft', form };
  },
});
