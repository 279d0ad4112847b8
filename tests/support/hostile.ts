import 'reflect-metadata';
import http from 'node:http';
import { getMetadataStorage } from 'class-validator';
import * as artwork from '../../src/server/http/dto/artwork';
import * as namedSets from '../../src/server/http/dto/named-sets';
import * as people from '../../src/server/http/dto/people';
import * as pictures from '../../src/server/http/dto/pictures';
import * as pricing from '../../src/server/http/dto/pricing';
import * as products from '../../src/server/http/dto/products';
import * as range from '../../src/server/http/dto/range';
import * as sales from '../../src/server/http/dto/sales';
import * as sends from '../../src/server/http/dto/sends';
import * as stores from '../../src/server/http/dto/stores';
import { routeTable, type RouteHandler } from './route-table';

/** Names that every object inherits. */
const INHERITED = Object.getOwnPropertyNames(Object.prototype);

/** Parts of an address, as they go over the wire. */
export const PARTS: readonly string[] = [
  ...INHERITED.map(encodeURIComponent),
  '%ff',
  '%',
  '%25',
  '%00',
  '%C3%A9',
  '%F0%9F%90%99',
  '..%2f..%2fetc%2fpasswd',
  'a'.repeat(3000),
  '9007199254740993',
  "'%20OR%201=1--",
];

/** Values in a query. */
export const QUERIES: readonly string[] = [
  ...PARTS,
  '-1',
  '0.5',
  '1e999',
  '1e308',
  '18446744073709551615',
  '-0',
  'NaN',
  'gbp',
  '2026-02-30',
  ',',
  '/'.repeat(500),
  '%5B%5D',
];

const deep = (n: number): string => `${'['.repeat(n)}${']'.repeat(n)}`;

/** JSON texts in the place of a member. */
export const VALUES: readonly string[] = [
  'null',
  'true',
  '0.1',
  '-0',
  '-1',
  '1e308',
  '1e999',
  '9007199254740993',
  '""',
  '"é"',
  '"\\ud800"',
  '"\\u0000"',
  '"toString"',
  '"__proto__"',
  '"constructor"',
  '"gbp"',
  '"2026-02-30"',
  JSON.stringify('\u202e'.repeat(300)),
  JSON.stringify('('.repeat(5000)),
  JSON.stringify('ﷺ'.repeat(200)),
  '[]',
  '{}',
  '[null]',
  '{"toString":1,"valueOf":1}',
  '{"__proto__":{"x":1},"constructor":{"prototype":{}}}',
  deep(60),
  `[${'0,'.repeat(3000)}0]`,
];

/** Whole bodies in the place of JSON. Generators, since some are megabytes. */
export const BODIES: readonly (() => string)[] = [
  () => '',
  () => 'null',
  () => '[]',
  () => '"x"',
  () => '{',
  () => deep(100_000),
  () => `{${Array.from({ length: 100_000 }, (_, i) => `"k${i}":1`).join(',')}}`,
  () => `{${INHERITED.map((name) => `"${name}":1`).join(',')}}`,
  () => `{"a":"${'x'.repeat(5_000_000)}"}`,
  () => `[${'{},'.repeat(300_000)}{}]`,
];

const op = (value: object): string => JSON.stringify([value]);
/** Patches: shapes, pointers, bombs. */
export const PATCHES: readonly (() => string)[] = [
  ...INHERITED.flatMap((name) => [
    () => op({ op: 'add', path: `/${name}/x`, value: 1 }),
    () => op({ op: 'copy', from: `/${name}`, path: '/words/base/title' }),
    () => op({ op: 'add', path: `/areas/${name}`, value: { layers: {} } }),
    () => op({ op: 'add', path: `/words/base/${name}`, value: 'x' }),
    () => op({ op: 'add', path: `/price/stores/${name}`, value: {} }),
    () => op({ op: 'add', path: `/variants/${name}`, value: {} }),
    () => op({ op: 'add', path: `/pictures/base/${name}`, value: { shotId: name, color: null, order: 'a0' } }),
  ]),
  () => op({ op: 'add', path: `${'/'.repeat(60)}~`, value: 1 }),
  () => op({ op: 'add', path: `/${'a'.repeat(3_000_000)}`, value: 1 }),
  () => op({ op: 'add', path: '/words/base/title', value: 'x'.repeat(3_900_000) }),
  () => op({ op: { toString: 1 }, path: { valueOf: 1 } }),
  () => `[{"op":"add","path":"/words/base/title","value":${deep(5000)}}]`,
  () => JSON.stringify(Array.from({ length: 24 }, (_, i) => ({ op: 'copy', from: '', path: `/words/k${i}` }))),
  () =>
    JSON.stringify(Array.from({ length: 5000 }, (_, i) => ({ op: 'add', path: `/words/base/tags/t${i}`, value: {} }))),
  () => JSON.stringify(Array.from({ length: 10_000 }, () => ({ op: 'test', path: '', value: 1 }))),
  () => `[{"op":"add","path":"/x","value":{${Array.from({ length: 100_000 }, (_, i) => `"k${i}":1`).join(',')}}}]`,
  () => op({ op: 'replace', path: '/price/base/aim', value: { kind: { toString: 1 } } }),
  () => op({ op: 'add', path: '/price/base/variants/a=b', value: { kind: 'retail', amountMinor: 9007199254740993 } }),
  () => op({ op: 'add', path: `/variants/${'a'.repeat(171)}=${'b'.repeat(171)}`, value: {} }),
  () => op({ op: 'replace', path: '/price/base/insert', value: '\u0001'.repeat(60) }),
];

export const CSVS: readonly (() => string)[] = [
  () => '',
  () => '\u0000',
  () => ','.repeat(1_000_000),
  () => 'variant,price\n' + ',\n'.repeat(1_000_000),
  () => 'variant,gtin\n' + 'toString,1\n__proto__,2\n'.repeat(1000),
  () => 'from,to,rate,date\nGBP,USD,1.2,2026-02-30\n',
  () => '"' + 'x'.repeat(3_000_000),
  () => 'sku,title\n' + `${'a'.repeat(50)},${'b '.repeat(200)}\n`.repeat(2000),
  () => 'variant,variant,price,price\r\na,b\rc,d\n',
];

/** A body that would be taken, for each class of bodies: each member of it is then replaced in turn. A class without one fails the test. */
const SAMPLES: { readonly [dto: string]: object } = {
  SignInDto: { email: 'nobody@brackwater.example', password: 'x' },
  AccountDto: { email: 'x', name: 'x', password: 'long enough', workspaceName: 'x', currency: 'GBP', country: 'GB' },
  TokenDto: { name: 'x', scopes: ['read'], days: 1 },
  DerivationDto: { kind: 'enlarge', widthPx: 100 },
  ArtworkChangeDto: { name: 'x', tags: ['a'] },
  ReplacementDto: { with: 'nosuch' },
  OwnShotDto: {
    photographId: 'nosuch',
    name: 'x',
    areaKey: 'main.front',
    variant: {},
    marks: { kind: 'corners', points: [] },
    part: null,
  },
  PriceRuleDto: {
    name: 'x',
    rule: { aim: { kind: 'margin', ppm: 1 }, ending: 'none', shipping: 'charged', differences: {} },
    forNew: false,
  },
  RateDto: { from: 'GBP', to: 'USD', rate: '1.2', date: '2026-01-01', sure: true },
  PersonDto: { name: 'x', email: 'x@example.org', password: 'a password', currentPassword: 'x' },
  WorkspaceDto: { name: 'x', currency: 'GBP', country: 'GB' },
  NamedSetDto: { kind: 'colors', name: 'x', content: { colors: [{ code: 'a', name: 'A', hex: '#000000' }] } },
  SetNameDto: { name: 'x' },
  CopyDto: { title: 'x', blankId: 'nosuch' },
  SplitDto: { variantKeys: [], title: 'x' },
  NewProductDto: { blankId: 'nosuch', title: 'x', variants: [{ key: 'a=b', sku: 'x', retailMinor: 1 }] },
  SendDto: { storeId: 'nosuch', number: 2, visibility: 'draft', seenHash: '0'.repeat(64) },
  ConnectDto: { channel: 'nosuch', region: 'eu' },
  NewStoreDto: { channel: 'nosuch', region: 'eu', keys: { key: 'k' } },
  PartnerDto: { partnerId: 'nosuch' },
  StoreSettingsDto: {
    name: 'A store',
    expectedSales: 1,
    aimsAt: 'first',
    renewal: 'end',
    priceRule: { differencePpm: 50_000, ending: '.99', way: 'up' },
    sendsAs: 'draft',
    language: 'de',
    sizesIn: 'cm',
    squares: 'crop',
    answers: { brand: 'Brackwater' },
    standing: { words: 'ours' },
  },
  RuleToManyDto: { ruleId: 'nosuch', kinds: ['x'], tags: ['x'] },
  FeesDto: {
    fees: [
      {
        id: 'f',
        label: 'x',
        of: 'item',
        ratePpm: 1,
        per: 'order',
        fixedMinor: 1,
        minMinor: 1,
        maxMinor: 2,
        taxPpm: 1,
        firstDay: '2026-01-01',
        lastDay: '2026-12-31',
        category: 'x',
      },
    ],
    scope: 'store',
  },
  PlanSendDto: {
    listings: [{ productId: 'nosuch', storeId: 'nosuch' }],
    productIds: ['nosuch'],
    found: { query: 'q=x' },
    storeIds: ['nosuch'],
    visibility: 'as-is',
  },
  FixDto: { rules: ['title'], ids: ['title'], where: 'store', number: 1 },
  LeaveDto: { visibility: 'draft' },
  SettleManyDto: { kind: 'words', hold: 'ours' },
  ChangeManyDto: { kind: 'tag-add', productIds: ['x'], tag: 'x' },
  SayOfMissingDto: { deleted: true },
  SettleFieldDto: { field: '/title', hold: 'ours', value: 'x' },
  SettleDto: {
    fields: [{ field: '/title', hold: 'ours' }],
    all: 'ours',
    thereHash: '0'.repeat(64),
    where: 'store',
    number: 1,
  },
  BeginSendDto: { at: '2099-01-01T00:00:00Z' },
  SaleDto: {
    name: 'x',
    terms: { kind: 'sum', amountMinor: 1, currency: 'GBP' },
    scope: { storeIds: ['x'], productIds: ['x'], kinds: ['x'], tags: ['x'] },
    startsAt: '2099-01-01T00:00:00Z',
    endsAt: '2099-01-02T00:00:00Z',
  },
};

const CLASSES: { readonly [name: string]: unknown } = {
  ...artwork,
  ...namedSets,
  ...people,
  ...pictures,
  ...pricing,
  ...products,
  ...range,
  ...sales,
  ...sends,
  ...stores,
};

/** Members of a class of bodies, by the checks on them. */
const membersOf = (dto: string): string[] => [
  ...new Set(
    getMetadataStorage()
      .getTargetValidationMetadatas(CLASSES[dto] as never, '', false, false)
      .map((check) => check.propertyName),
  ),
];

/** Settings of money are checked by the core. */
const SETTINGS = {
  rateMarginPpm: 0,
  taxes: [{ country: 'GB', ratePpm: 0, label: 'x', inside: true, taxClass: 'zero', firstDay: '2026-01-01' }],
  discounts: {},
  mix: [],
  ladders: { GBP: [999] },
  goods: [{ kind: 'x', country: '*', taxClass: 'zero' }],
  duties: [{ country: 'EU', label: 'x', ratePpm: 0, overMinor: 0, currency: 'EUR', firstDay: '2026-01-01' }],
  own: {
    currency: 'GBP',
    itemsPerMonth: 1,
    adsPpm: 0,
    adsPerDayMinor: 0,
    returnsPpm: 0,
    returnLossMinor: null,
    monthly: [{ label: 'x', amountMinor: 0 }],
    inputTaxPpm: 0,
  },
};

const withMember = (sample: object, member: string, value: string): string => {
  const rest = JSON.stringify({ ...sample, [member]: undefined }).slice(1, -1);
  return `{${rest === '' ? '' : `${rest},`}${JSON.stringify(member)}:${value}}`;
};

/** One request that nobody should send. */
export interface HostileRequest {
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: (() => string) | null;
}

/** Ids that are there, by the first part of the path they stand in. */
export type Known = Readonly<Record<string, string>>;

const JSON_TYPE = { 'content-type': 'application/json' };

function* bodiesOf({ dto, body }: RouteHandler): Generator<{ headers: Record<string, string>; body: () => string }> {
  if (dto) {
    const sample = SAMPLES[dto];
    if (!sample) throw new Error(`tests/support/hostile.ts has no sample of ${dto}`);
    for (const member of membersOf(dto))
      for (const value of VALUES) yield { headers: JSON_TYPE, body: () => withMember(sample, member, value) };
    for (const one of BODIES) yield { headers: JSON_TYPE, body: one };
  }
  if (body === 'json') {
    for (const member of Object.keys(SETTINGS))
      for (const value of VALUES) yield { headers: JSON_TYPE, body: () => withMember(SETTINGS, member, value) };
    for (const one of BODIES) yield { headers: JSON_TYPE, body: one };
  }
  if (body === 'patch') {
    for (const one of [...PATCHES, ...BODIES])
      for (const label of ['x', '100%', '%ff'])
        yield { headers: { ...JSON_TYPE, 'if-match': '"1"', 'x-label': label }, body: one };
  }
  if (body === 'csv') for (const one of CSVS) yield { headers: { 'content-type': 'text/csv' }, body: one };
  if (body === 'file') for (const one of CSVS.slice(0, 3)) yield { headers: {}, body: one };
}

/** Everything that is tried on one route, in a fixed order: each place of its address, each name in its query, each member of its body. */
export function* requestsFor(route: RouteHandler, known: Known): Generator<HostileRequest> {
  const names = [...route.path.matchAll(/\[(\w+)\]/g)].map(([, name]) => name!);
  const fill = (over: Readonly<Record<string, string>> = {}) =>
    route.path.replace(
      /\[(\w+)\]/g,
      (_, name: string) => over[name] ?? (name === 'id' ? (known[route.path.split('/')[1]!] ?? 'nosuch') : 'nosuch'),
    );
  const plain = { method: route.method, headers: {}, body: null };
  for (const name of names) for (const value of PARTS) yield { ...plain, path: fill({ [name]: value }) };
  if (route.method === 'GET' || route.body === 'file' || route.body === 'csv')
    for (const name of route.queryNames)
      for (const value of QUERIES) yield { ...plain, path: `${fill()}?${name}=${value}` };
  for (const { headers, body } of bodiesOf(route)) yield { ...plain, path: fill(), headers, body };
}

/** Pages, with `*` where an id stands; a query that any of them might read. */
const PAGES = [
  '/blanks/*',
  '/blanks/compare?id=*',
  '/blanks?q=*',
  '/blanks/price-lists/*',
  '/products/*',
  '/stores/*',
  '/stores?problem=*',
  '/artwork?q=*',
  '/artwork?tag=*',
  '/sign-in?back=*',
  '/*',
];

/** Addresses of pages that nobody should ask for. */
export const hostilePages = (): string[] => PAGES.flatMap((page) => PARTS.map((part) => page.replace('*', part)));

/** Routes that are left out, and why. */
const LEFT_OUT: ReadonlySet<string> = new Set([
  // An answer without an end; tests/world/people.test.ts holds it.
  'GET /events',
]);

export const hostileRoutes = (): RouteHandler[] =>
  routeTable().filter(({ method, path }) => !LEFT_OUT.has(`${method} ${path}`));

export interface Answered {
  readonly status: number;
  readonly bytes: number;
  readonly type: string;
}

/** Sends a request as it is, past all that a client library would mend, and counts what comes back. */
export function send(
  origin: string,
  token: string,
  { method, path, headers, body }: HostileRequest,
  prefix = '/api/v1',
): Promise<Answered> {
  const { hostname, port } = new URL(origin);
  return new Promise((resolve, reject) => {
    const request = http.request(
      {
        hostname,
        port,
        method,
        path: `${prefix}${path}`,
        headers: { ...headers, authorization: `Bearer ${token}` },
        timeout: 120_000,
      },
      (answer) => {
        let bytes = 0;
        answer.on('data', (part: Buffer) => (bytes += part.length));
        answer.on('end', () =>
          resolve({ status: answer.statusCode!, bytes, type: answer.headers['content-type'] ?? '' }),
        );
        answer.on('error', reject);
      },
    );
    request.on('timeout', () => request.destroy(new Error('no answer within two minutes')));
    request.on('error', reject);
    if (body) request.write(body());
    request.end();
  });
}

/** Why an answer is not as it should be, or null. */
export function complaint({ status, bytes, type }: Answered): string | null {
  if (status >= 500 && status !== 503) return `answered ${status}`;
  if (status >= 400 && !type.startsWith('application/problem+json'))
    return `answered ${status} as ${type || 'nothing'}`;
  if (status >= 400 && bytes > 64 * 1024) return `answered ${status} with ${bytes} bytes`;
  return null;
}

/** A new account with a token, and ids of its own and of the catalog to be hostile at. */
export async function hostileAccount(origin: string): Promise<{ token: string; cookie: string; known: Known }> {
  const call = async <T>(method: string, path: string, body?: object, token?: string, cookie?: string) => {
    const answer = await fetch(`${origin}/api/v1${path}`, {
      method,
      headers: {
        ...(body ? JSON_TYPE : {}),
        ...(token ? { authorization: `Bearer ${token}` } : {}),
        ...(cookie ? { cookie } : {}),
      },
      body: body ? JSON.stringify(body) : undefined,
    });
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
    return { json: (await answer.json()) as T, cookie: answer.headers.get('set-cookie')?.split(';')[0] };
  };
  const email = `hostile-${Math.random().toString(36).slice(2)}@brackwater.example`;
  const password = 'long enough';
  await call('POST', '/people', { email, name: 'x', password, workspaceName: 'x', currency: 'GBP', country: 'GB' });
  const { cookie } = await call('POST', '/sessions', { email, password });
  const { json: made } = await call<{ token: string }>('POST', '/tokens', { name: 'hostile' }, undefined, cookie);
  const { token } = made;
  const { json: found } = await call<{ blanks: { id: string }[] }>('GET', '/blanks?q=towpath', undefined, token);
  const blankId = found.blanks[0]!.id;
  const { json: product } = await call<{ id: string }>('POST', '/products', { blankId, title: 'x' }, token);
  const { json: partners } = await call<{ partners: { id: string }[] }>('GET', '/partners', undefined, token);
  return {
    token,
    cookie: cookie!,
    known: { products: product.id, blanks: blankId, partners: partners.partners[0]!.id },
  };
}
