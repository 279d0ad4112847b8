import { TypicaError } from '@/core/errors';
import type { Category, Channel, ChannelClient, RemoteRef } from '@/ports/channel';
import { caller, need as needOf, type Caller, type Manners } from '../shop/caller';
import { ALONE } from '../shop/connecting';
import { consentUrl, fetchFirstTokens, refreshTokens, revokeTokens, type OAuthShop } from '../shop/oauth';
import { wordsIn } from '../shop/said';
import { about } from './about';
import { formOfPiece, wirePiece } from './form';
import type { WirePiece, WireShelf, WireStall, WireWarehouse } from './wire';

export interface LoopstallSettings {
  readonly url: string;
  readonly clientId: string;
}

const need = <T>(value: T | null): T => needOf(about.name, value);

/** Loopstall, the shop beside a stream of clips: a region first, then consent; each region has addresses of its own. */
export function loopstall(settings: LoopstallSettings): Channel {
  const shop: OAuthShop = { name: about.name, scopes: 'look stock', ...settings };
  const mannersIn = (region: string): Manners => ({
    name: about.name,
    url: `${settings.url}/api/${encodeURIComponent(region)}`,
    authorization: ({ access }) => `Bearer ${access}`,
    renew: async (stale) => ({ ...(await refreshTokens(shop, stale)), region }),
    wordsOf: ({ objections, text, lacks }) => wordsIn(objections, text, lacks),
  });
  return {
    about,
    connecting: {
      kind: 'consent',
      authorizeUrl: (ask) => consentUrl(shop, ask),
      async exchange({ region, ...answer }) {
        if (region === null) throw new TypicaError('bug', 'region-missing', 'Loopstall is asked region by region');
        const secrets = { ...(await fetchFirstTokens(shop, answer)), region };
        const told = need(
          await caller(mannersIn(region), secrets, ALONE)<WireStall>({ method: 'GET', path: '/stall' }),
        );
        const { stall: shopId, name: shopName, page: shopUrl, currency } = told;
        return { shopId, shopName, shopUrl, currency, region, secrets, endsAt: null };
      },
    },
    revoke: (secrets) => revokeTokens(shop, secrets),
    open: (secrets, hooks) => client(caller(mannersIn(secrets.region ?? ''), secrets, hooks)),
  };
}

const client = (call: Caller): ChannelClient => ({
  ...listings(call),
  ...reading(call),
  ...noCodes,
  async categories() {
    return leavesOf(need(await call<{ shelves: WireShelf[] }>({ method: 'GET', path: '/shelves' })).shelves);
  },
  async warehouses() {
    return need(await call<{ warehouses: WireWarehouse[] }>({ method: 'GET', path: '/warehouses' })).warehouses;
  },
});

const noCodes: Pick<ChannelClient, 'codes' | 'putCode' | 'dropCode'> = {
  codes: async () => [],
  putCode: async () => {
    throw new TypicaError('bug', 'codes-none', 'Loopstall takes no discount codes');
  },
  dropCode: async () => {},
};

/** The shelves that take goods, each with its way from the root. */
function leavesOf(shelves: readonly WireShelf[]): Category[] {
  const byId = new Map(shelves.map((shelf) => [shelf.id, shelf]));
  const pathOf = ({ name, parent }: WireShelf): string[] => {
    const above = parent === null ? undefined : byId.get(parent);
    return above ? [...pathOf(above), name] : [name];
  };
  return shelves.flatMap((shelf) =>
    shelf.asks ? [{ id: shelf.id, path: pathOf(shelf), attributes: shelf.asks }] : [],
  );
}

const refOf = ({ piece, page }: WirePiece): RemoteRef => ({ externalId: piece, url: page });

type Changing = 'settle' | 'create' | 'uploadPicture' | 'update' | 'show' | 'remove';

const listings = (call: Caller): Pick<ChannelClient, Changing> => ({
  async settle({ reference }) {
    // The once-key is forgotten after an hour: what was made is looked for by our own mark, at any time.
    const query = new URLSearchParams({ seller_ref: reference });
    const { pieces } = need(await call<{ pieces: WirePiece[] }>({ method: 'GET', path: `/pieces?${query}` }));
    return pieces[0] ? { kind: 'made', listing: refOf(pieces[0]) } : { kind: 'make' };
  },
  async create({ key, reference }, form) {
    const body = { seller_ref: reference, ...wirePiece(form, {}) };
    return refOf(need(await call<WirePiece>({ method: 'POST', path: '/pieces', headers: { 'once-key': key }, body })));
  },
  async uploadPicture({ key, bytes, mediaType }) {
    const headers = { 'once-key': `shot-${key}` };
    return need(await call<{ shot: string }>({ method: 'POST', path: '/shots', bytes, mediaType, headers })).shot;
  },
  async update(externalId, form, pictureIds) {
    need(await call({ method: 'PUT', path: `/pieces/${externalId}`, body: wirePiece(form, pictureIds) }));
  },
  async show(externalId, visibility) {
    need(await call({ method: 'POST', path: `/pieces/${externalId}/${visibility === 'live' ? 'on' : 'off'}` }));
  },
  async remove(externalId) {
    await call({ method: 'DELETE', path: `/pieces/${externalId}` });
  },
});

const reading = (call: Caller): Pick<ChannelClient, 'read' | 'list'> => ({
  async read(externalId, known, pictureIds) {
    const piece = await call<WirePiece>({ method: 'GET', path: `/pieces/${externalId}` });
    if (!piece) return null;
    const keyOf = new Map(Object.entries(pictureIds).map(([key, id]) => [id, key]));
    return {
      ...refOf(piece),
      visibility: piece.stage === 'on' ? 'live' : 'draft',
      form: formOfPiece(piece, known, pictureIds),
      endsAt: null,
      stamp: String(piece.moved),
      refusedPictures: piece.shots.flatMap(({ id, verdict, reason }) =>
        verdict === 'refused' ? [{ key: keyOf.get(id) ?? id, words: reason ?? '' }] : [],
      ),
    };
  },
  async list(since, cursor) {
    const query = new URLSearchParams({
      ...(since === null ? {} : { moved_since: since }),
      ...(cursor === null ? {} : { after: cursor }),
    });
    const { pieces, after } = need(
      await call<{ pieces: WirePiece[]; after: string | null }>({ method: 'GET', path: `/pieces?${query}` }),
    );
    return {
      listings: pieces.map((piece) => ({
        ...refOf(piece),
        title: piece.name,
        visibility: piece.stage === 'on' ? ('live' as const) : ('draft' as const),
        reference: piece.seller_ref,
        skus: piece.units.map(({ code }) => code),
        stamp: String(piece.moved),
      })),
      cursor: after,
      mark: pieces.length > 0 ? String(pieces.at(-1)!.moved) : since,
    };
  },
});
