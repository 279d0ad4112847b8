import crypto from 'node:crypto';
import { goTo, json, page, readForm, type Answer, type Exchange } from './exchange';
import type { Account } from './goods';
import { esc, frame } from './pages/frame';
import type { Table } from './records';
import { giveToken, tokensOf } from './tokens';
import type { ShopKind, World } from './world';

const ACCESS_MS = 3_600_000;
const REFRESH_MS = 90 * 86_400_000;
const CODE_MS = 60_000;

interface Code {
  readonly client: string;
  readonly redirect: string;
  readonly challenge: string;
  readonly account: string;
  readonly scopes: readonly string[];
  readonly region: string | null;
  readonly at: number;
}

/** A region, and who has a shop in it. */
export interface Region {
  readonly code: string;
  readonly name: string;
  readonly accounts: readonly string[];
}

/** How a shop asks its sellers for consent. */
export interface ConsentWays {
  /** What each scope allows, in words. */
  readonly scopes: ReadonlyMap<string, string>;
  /** Regions of which a program must name one; absent: it has none. */
  readonly regions?: readonly Region[];
}

type Ask = Readonly<Record<string, string>>;
type Kind = Pick<ShopKind, 'name' | 'look'>;

/** OAuth 2 with PKCE (RFC 7636, S256 only): the consent page, its answer, and the endpoints for tokens. Null for another address. */
export async function serveConsent(
  { request, url }: Exchange,
  world: World,
  kind: Kind,
  ways: ConsentWays,
): Promise<Answer | null> {
  const posted = request.method === 'POST';
  if (url.pathname === '/consent') {
    const ask: Ask = posted ? await readForm(request) : Object.fromEntries(url.searchParams);
    const fault = faultIn(ask, world, kind.name, ways);
    if (fault) return page(frame(kind, 'Not possible', `<h1>Not possible</h1><p id="problem">${esc(fault)}</p>`), 400);
    return posted ? consented(ask, world, ways) : page(consentPage(kind, world, ask, ways));
  }
  if (!posted) return null;
  // RFC 7009: whoever holds a token can end it, and all that came of the same consent; an unknown one is no error.
  if (url.pathname === '/oauth/revoke') {
    const { token = '' } = await readForm(request);
    const known = tokensOf(world).get(token);
    if (known) dropGrant(world, known.grant);
    return json(200, {});
  }
  if (url.pathname !== '/oauth/token') return null;
  if (world.faults.now.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, world.faults.now.slowMs));
  return trade(await readForm(request), world);
}

/** Tokens are found by their texts alone; those of a grant are looked up here, where their number is small. */
function dropGrant(world: World, grant: string): void {
  const byGrant: Table<string[]> = world.records.table('grants');
  for (const text of byGrant.get(grant) ?? []) tokensOf(world).drop(text);
  byGrant.drop(grant);
}

function consented(ask: Ask, world: World, ways: ConsentWays): Answer {
  const back = new URL(ask.redirect_uri!);
  back.searchParams.set('state', ask.state ?? '');
  if (ask.answer !== 'allow') {
    back.searchParams.set('error', 'access_denied');
    return goTo(back.toString());
  }
  const code = crypto.randomBytes(24).toString('base64url');
  const open = accountsFor(ask, world, ways);
  const account = open.find(({ id }) => id === ask.account) ?? open[0]!;
  world.records.table<Code>('codes').put(code, {
    client: ask.client_id!,
    redirect: ask.redirect_uri!,
    challenge: ask.code_challenge!,
    account: account.id,
    scopes: (ask.scope ?? '').split(' ').filter((scope) => ways.scopes.has(scope)),
    region: ask.region ?? null,
    at: world.now(),
  });
  back.searchParams.set('code', code);
  return goTo(back.toString());
}

/** Shops of which a program may ask: those of its region. */
function accountsFor(ask: Ask, world: World, { regions }: ConsentWays): Account[] {
  const region = regions?.find(({ code }) => code === ask.region);
  return world.accounts.all().filter(({ id }) => !region || region.accounts.includes(id));
}

function trade(form: Ask, world: World): Answer {
  const deny = (error: string) => json(400, { error });
  if (form.grant_type === 'authorization_code') {
    const codes = world.records.table<Code>('codes');
    const code = codes.get(form.code ?? '');
    codes.drop(form.code ?? '');
    const challenge = crypto
      .createHash('sha256')
      .update(form.code_verifier ?? '')
      .digest('base64url');
    const good =
      code &&
      world.now() - code.at <= CODE_MS &&
      code.client === form.client_id &&
      code.redirect === form.redirect_uri &&
      code.challenge === challenge;
    return good ? issue(world, { ...code, grant: crypto.randomUUID() }) : deny('invalid_grant');
  }
  if (form.grant_type !== 'refresh_token') return deny('unsupported_grant_type');
  const token = tokensOf(world).get(form.refresh_token ?? '');
  if (!token || token.kind !== 'refresh' || token.until < world.now()) return deny('invalid_grant');
  // A refresh token is good for one use.
  tokensOf(world).drop(form.refresh_token!);
  return issue(world, token);
}

function issue(
  world: World,
  given: { account: string; grant: string; scopes: readonly string[]; region: string | null },
): Answer {
  const { account, grant, scopes, region } = given;
  const token = { account, grant, scopes, region };
  const access = giveToken(world, { ...token, kind: 'access', until: world.now() + ACCESS_MS });
  const refresh = giveToken(world, { ...token, kind: 'refresh', until: world.now() + REFRESH_MS });
  const byGrant: Table<string[]> = world.records.table('grants');
  const known = (byGrant.get(grant) ?? []).filter((text) => tokensOf(world).get(text));
  byGrant.put(grant, [...known, access, refresh]);
  return json(200, {
    access_token: access,
    refresh_token: refresh,
    token_type: 'Bearer',
    expires_in: ACCESS_MS / 1000,
    scope: scopes.join(' '),
  });
}

function faultIn(ask: Ask, world: World, shop: string, { regions }: ConsentWays): string | null {
  const redirect = world.clients.get(ask.client_id ?? '');
  if (redirect === undefined) return `The program that sent you here is not known to ${shop}.`;
  if (redirect !== ask.redirect_uri)
    return 'The program that sent you here asks for the answer at an address that it has not registered.';
  const safe = ask.code_challenge_method === 'S256' && /^[A-Za-z0-9_-]{43}$/.test(ask.code_challenge ?? '');
  if (ask.response_type !== 'code' || !safe) return 'The program that sent you here does not ask in a safe way (PKCE).';
  if (!regions) return null;
  const region = regions.find(({ code }) => code === ask.region);
  if (!region)
    return `The program that sent you here does not say for which region. There are ${regions.map(({ name }) => name).join(', ')}.`;
  return region.accounts.length === 0 ? `You have no shop in ${region.name}.` : null;
}

function consentPage(kind: Kind, world: World, ask: Ask, ways: ConsentWays): string {
  const { scopes, regions } = ways;
  const hidden = Object.entries(ask)
    .map(([name, value]) => `<input type="hidden" name="${esc(name)}" value="${esc(value)}">`)
    .join('');
  const accounts = accountsFor(ask, world, ways);
  const choose =
    accounts.length < 2
      ? `<h1>Let ${esc(ask.client_id ?? '')} work in ${esc(accounts[0]!.name)}?</h1>`
      : `<h1>Let ${esc(ask.client_id ?? '')} work in one of your shops?</h1><label for="account">Shop</label><select id="account" name="account">${accounts.map(({ id, name }) => `<option value="${esc(id)}">${esc(name)}</option>`).join('')}</select>`;
  const region = regions?.find(({ code }) => code === ask.region);
  const list = (ask.scope ?? '')
    .split(' ')
    .filter(Boolean)
    .map((scope) => `<li>${esc(scopes.get(scope) ?? scope)}</li>`)
    .join('');
  return frame(
    kind,
    'Allow access',
    `<form class="consent" method="post" action="/consent">${hidden}${choose}${region ? `<p>In ${esc(region.name)}.</p>` : ''}<p>It asks to:</p><ul>${list}</ul><button name="answer" value="allow">Allow</button><button class="plain" name="answer" value="deny">Do not allow</button></form>`,
  );
}
