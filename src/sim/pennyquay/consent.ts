import crypto from 'node:crypto';
import { readForm, send, type Exchange, type World } from './exchange';
import { consentPage, problemPage } from './pages';

const ACCESS_SECONDS = 3600;

/** OAuth 2 with PKCE (RFC 7636, S256 only): the consent page, its answer, and the token endpoint. */
export async function handleConsent({ request, response, url }: Exchange, world: World): Promise<void> {
  const html = (page: string, status = 200) => {
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' });
    response.end(page);
  };
  const { held } = world.ledger;
  const shop = Object.values(held.shops)[0]!;

  if (url.pathname === '/consent' && request.method === 'GET') {
    const ask = Object.fromEntries(url.searchParams);
    const fault = faultIn(ask, world);
    return fault ? html(problemPage(fault), 400) : html(consentPage(shop, ask));
  }
  if (url.pathname === '/consent' && request.method === 'POST') {
    const ask = Object.fromEntries(new URLSearchParams((await readForm(request)).toString('utf8')));
    const fault = faultIn(ask, world);
    if (fault) return html(problemPage(fault), 400);
    const back = new URL(ask.redirect_uri!);
    back.searchParams.set('state', ask.state ?? '');
    if (ask.answer === 'allow') {
      const code = crypto.randomBytes(24).toString('base64url');
      held.codes[code] = {
        client: ask.client_id!,
        redirect: ask.redirect_uri!,
        challenge: ask.code_challenge!,
        shop: shop.id,
        scopes: ask.scope ?? '',
        at: world.now(),
      };
      world.ledger.save();
      back.searchParams.set('code', code);
    } else back.searchParams.set('error', 'access_denied');
    response.writeHead(303, { location: back.toString() });
    response.end();
    return;
  }
  // RFC 7009: whoever holds a token can end it, and all that came of the same consent; an unknown one is no error.
  if (url.pathname === '/oauth/revoke' && request.method === 'POST') {
    const form = Object.fromEntries(new URLSearchParams((await readForm(request)).toString('utf8')));
    const token = held.tokens[form.token ?? ''];
    for (const [text, other] of Object.entries(held.tokens))
      if (text === form.token || (token?.grant !== undefined && other.grant === token.grant)) delete held.tokens[text];
    world.ledger.save();
    return send(response, 200, {});
  }
  if (url.pathname === '/oauth/token' && request.method === 'POST') {
    const form = Object.fromEntries(new URLSearchParams((await readForm(request)).toString('utf8')));
    const deny = (error: string) => send(response, 400, { error });
    if (world.faults.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, world.faults.slowMs));
    if (form.grant_type === 'authorization_code') {
      const code = held.codes[form.code ?? ''];
      delete held.codes[form.code ?? ''];
      world.ledger.save();
      const challenge = crypto
        .createHash('sha256')
        .update(form.code_verifier ?? '')
        .digest('base64url');
      if (
        !code ||
        world.now() - code.at > 60_000 ||
        code.client !== form.client_id ||
        code.redirect !== form.redirect_uri ||
        code.challenge !== challenge
      )
        return deny('invalid_grant');
      return issue(world, code.shop, crypto.randomUUID(), (body) => send(response, 200, body));
    }
    if (form.grant_type === 'refresh_token') {
      const token = held.tokens[form.refresh_token ?? ''];
      if (!token || token.kind !== 'refresh' || token.until < world.now()) return deny('invalid_grant');
      // A refresh token is good for one use.
      delete held.tokens[form.refresh_token ?? ''];
      return issue(world, token.shop, token.grant ?? crypto.randomUUID(), (body) => send(response, 200, body));
    }
    return deny('unsupported_grant_type');
  }
  send(response, 405, { problem: 'method' });
}

function issue(world: World, shop: string, grant: string, answer: (body: object) => void): void {
  const [access, refresh] = [
    crypto.randomBytes(24).toString('base64url'),
    crypto.randomBytes(24).toString('base64url'),
  ];
  world.ledger.held.tokens[access] = { shop, kind: 'access', until: world.now() + ACCESS_SECONDS * 1000, grant };
  world.ledger.held.tokens[refresh] = { shop, kind: 'refresh', until: world.now() + 90 * 86_400_000, grant };
  world.ledger.save();
  answer({ access_token: access, refresh_token: refresh, token_type: 'Bearer', expires_in: ACCESS_SECONDS });
}

function faultIn(ask: Record<string, string>, world: World): string | null {
  if (!world.clients[ask.client_id ?? '']) return 'The program that sent you here is not known to Pennyquay.';
  if (world.clients[ask.client_id ?? ''] !== ask.redirect_uri)
    return 'The program that sent you here asks for the answer at an address that it has not registered.';
  if (
    ask.response_type !== 'code' ||
    ask.code_challenge_method !== 'S256' ||
    !/^[A-Za-z0-9_-]{43}$/.test(ask.code_challenge ?? '')
  )
    return 'The program that sent you here does not ask in a safe way (PKCE).';
  return null;
}
