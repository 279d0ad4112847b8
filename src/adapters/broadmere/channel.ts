import { TypicaError } from '@/core/errors';
import type { BatchRow, Channel, ChannelClient, ChannelSecrets, RemoteRef, RowAnswer } from '@/ports/channel';
import {
  caller,
  lapsed,
  need as needOf,
  readSaid,
  TOKEN_MS,
  unreachable,
  type Caller,
  type Manners,
} from '../shop/caller';
import { ALONE } from '../shop/connecting';
import { wordsIn } from '../shop/said';
import { about } from './about';
import { formOfGood, wireDoc } from './form';
import type { WireFeed, WireGood, WireResult, WireWaiver } from './wire';

export interface BroadmereSettings {
  readonly url: string;
  /** How many times faster than real the shop's clock runs; absent: as the handbook says. */
  readonly pace?: number;
}

const need = <T>(value: T | null): T => needOf(about.name, value);

/** Number, secret and region, and the pass that they last gave. */
interface Keys {
  readonly number: string;
  readonly secret: string;
  readonly region: string;
}

/** The mass marketplace Broadmere: client credentials for one region, files of rows that are answered later. */
export function broadmere({ pace = 1, ...settings }: BroadmereSettings): Channel {
  const manners: Manners = {
    name: about.name,
    url: `${settings.url}/api`,
    authorization: ({ pass }) => `Bearer ${pass}`,
    renew: async (stale) => ({ ...stale, pass: await fetchPass(settings.url, keysOf(stale), lapsed(about.name)) }),
    wordsOf: ({ text, lacks }) => wordsIn([], text, lacks),
  };
  const { batches } = about;
  return {
    about: { ...about, batches: batches && { ...batches, everyMs: batches.everyMs / pace } },
    connecting: {
      kind: 'keys',
      page: `${settings.url}/desk/access`,
      fields: [
        { name: 'number', label: 'Seller number', secret: false },
        { name: 'secret', label: 'Secret', secret: true },
      ],
      async connect(typed, region) {
        const keys = { number: typed.number ?? '', secret: typed.secret ?? '', region: region ?? '' };
        const secrets: ChannelSecrets = { ...keys, pass: await fetchPass(settings.url, keys, wrongKeys()) };
        const told = need(await caller(manners, secrets, ALONE)<WireAccount>({ method: 'GET', path: '/account' }));
        const { number: shopId, name: shopName, page: shopUrl, currency } = told;
        return { shopId, shopName, shopUrl, currency, region: told.region, secrets, endsAt: null };
      },
    },
    // Broadmere has no way for a program to give its pass back; it runs out within half an hour, and the secret stays the seller's.
    revoke: async () => {},
    open: (secrets, hooks) => client(caller(manners, secrets, hooks), about.foundAfterMs / pace),
  };
}

interface WireAccount {
  readonly number: string;
  readonly name: string;
  readonly region: string;
  readonly currency: string;
  readonly page: string;
}

const keysOf = ({ number = '', secret = '', region = '' }: ChannelSecrets): Keys => ({ number, secret, region });

const wrongKeys = () =>
  new TypicaError(
    'invalid',
    'key-wrong',
    'Broadmere does not know this number with this secret. Copy both from its page “Access for programs”.',
  );

/** Trades number and secret for a pass (RFC 6749, 4.4). Throws `denied` where they do not belong together, `key-scope` for a region that they are not for. */
async function fetchPass(url: string, { number, secret, region }: Keys, denied: TypicaError): Promise<string> {
  let answer: Response;
  try {
    answer = await fetch(`${url}/api/access`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ account: number, secret, region }),
      signal: AbortSignal.timeout(TOKEN_MS),
    });
  } catch (error) {
    throw unreachable(about.name, error);
  }
  const said = await readSaid(answer);
  if (answer.ok && typeof said?.pass === 'string') return said.pass;
  if (answer.status === 401) throw denied;
  if (answer.status === 403)
    throw new TypicaError('invalid', 'key-scope', `Broadmere says: “${String(said?.text)}” Choose that region.`);
  throw unreachable(about.name, new Error(`status ${answer.status}`));
}

const refOf = ({ good, page }: { good: string; page: string }): RemoteRef => ({ externalId: good, url: page });

const client = (call: Caller, foundAfterMs: number): ChannelClient => ({
  ...reading(call, foundAfterMs),
  ...noneOfThese,
  exemptions: exemptions(call),
  batch: batch(call),
  async uploadPicture({ bytes, mediaType }) {
    return need(await call<{ image: string }>({ method: 'POST', path: '/images', bytes, mediaType })).image;
  },
});

/** Goods go in files alone, and there are no discount codes. */
const filesOnly = (): never => {
  throw new TypicaError('bug', 'files-only', 'Broadmere takes goods in files of rows.');
};
const noneOfThese: Pick<ChannelClient, 'create' | 'update' | 'show' | 'remove' | 'codes' | 'putCode' | 'dropCode'> = {
  create: async () => filesOnly(),
  update: async () => filesOnly(),
  show: async () => filesOnly(),
  remove: async () => filesOnly(),
  codes: async () => [],
  putCode: async () => filesOnly(),
  dropCode: async () => {},
};

const reading = (call: Caller, foundAfterMs: number): Pick<ChannelClient, 'settle' | 'read' | 'list'> => ({
  async settle({ reference, sentAt }) {
    const query = new URLSearchParams({ mark: reference });
    const { goods } = need(await call<{ goods: WireGood[] }>({ method: 'GET', path: `/goods?${query}` }));
    if (goods[0]) return { kind: 'made', listing: refOf(goods[0]) };
    // What was just made is not found yet: before that time has passed, absence proves nothing.
    const leftMs = sentAt.getTime() + foundAfterMs - Date.now();
    return leftMs > 0 ? { kind: 'wait', retryAfterMs: leftMs } : { kind: 'make' };
  },
  async read(externalId, known, pictureIds) {
    const good = await call<WireGood>({ method: 'GET', path: `/goods/${externalId}` });
    if (!good) return null;
    return {
      ...refOf(good),
      visibility: good.doc.on ? 'live' : 'draft',
      form: formOfGood(good, known, pictureIds),
      endsAt: null,
      stamp: good.touched,
      refusedPictures: [],
    };
  },
  async list(_since, cursor) {
    const query = new URLSearchParams(cursor === null ? {} : { after: cursor });
    const { goods, next } = need(
      await call<{ goods: WireGood[]; next: string | null }>({ method: 'GET', path: `/goods?${query}` }),
    );
    return {
      listings: goods.map((good) => ({
        ...refOf(good),
        title: good.doc.name,
        visibility: good.doc.on ? ('live' as const) : ('draft' as const),
        reference: good.mark,
        skus: good.doc.offers.map(({ stock_code: sku }) => sku),
        stamp: good.touched,
      })),
      cursor: next,
      mark: null,
    };
  },
});

const exemptions = (call: Caller): ChannelClient['exemptions'] => {
  const told = ({ waiver, brand, state, asked }: WireWaiver) => ({
    id: waiver,
    brand,
    state,
    askedAt: new Date(asked),
  });
  return {
    async list() {
      return need(await call<{ waivers: WireWaiver[] }>({ method: 'GET', path: '/waivers' })).waivers.map(told);
    },
    async ask(brand) {
      return told(need(await call<WireWaiver>({ method: 'POST', path: '/waivers', body: { brand } })));
    },
  };
};

const batch = (call: Caller): ChannelClient['batch'] => ({
  async submit(rows) {
    const bytes = Buffer.from(rows.map((row) => `${JSON.stringify(wireRow(row))}\n`).join(''));
    const mediaType = 'application/jsonl';
    return { ticket: need(await call<WireFeed>({ method: 'POST', path: '/feeds', bytes, mediaType })).ticket };
  },
  async answers(ticket) {
    const feed = await call<WireFeed>({ method: 'GET', path: `/feeds/${ticket}` });
    // A ticket that is not known was never one: nothing of it was done, and nothing will be.
    if (!feed) return { done: true, rows: [] };
    return { done: feed.phase === 'closed', rows: feed.results.map(answerOf) };
  },
});

const wireRow = (row: BatchRow) =>
  row.kind === 'remove'
    ? { row: row.row, do: 'erase', good: row.externalId }
    : {
        row: row.row,
        ...(row.externalId === null ? { do: 'list', mark: row.reference } : { do: 'revise', good: row.externalId }),
        doc: wireDoc(row.form, row.pictureIds, row.visibility === 'live'),
      };

function answerOf(result: WireResult): RowAnswer {
  const { row } = result;
  if (result.result === 'accepted') return { row, outcome: { kind: 'taken', listing: refOf(result) } };
  if (result.result === 'not-run') return { row, outcome: { kind: 'not-done' } };
  const { faults } = result;
  return {
    row,
    outcome: {
      kind: 'refused',
      words: faults.map(({ message }) => message).join(' '),
      fields: faults.map(({ field }) => field),
    },
  };
}
