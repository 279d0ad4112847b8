import type { ChannelSecrets } from '@/ports/channel';
import { busy, lapsed, readSaid, TOKEN_MS, unreachable } from './caller';

/** A shop's consent and its tokens (OAuth 2 with PKCE). */
export interface OAuthShop {
  readonly name: string;
  readonly url: string;
  readonly clientId: string;
  readonly scopes: string;
}

/** What OAuth says when a grant is no longer good (RFC 6749, 5.2); any other refusal may be a passing one. */
const GRANT_GONE: ReadonlySet<unknown> = new Set(['invalid_grant', 'invalid_client', 'unauthorized_client']);

export function consentUrl(
  { url, clientId, scopes }: OAuthShop,
  ask: { state: string; challenge: string; redirectUri: string; region?: string | null },
): string {
  const query = new URLSearchParams({
    response_type: 'code',
    client_id: clientId,
    redirect_uri: ask.redirectUri,
    scope: scopes,
    state: ask.state,
    code_challenge: ask.challenge,
    code_challenge_method: 'S256',
    ...(ask.region ? { region: ask.region } : {}),
  });
  return `${url}/consent?${query}`;
}

/** Trades a code or a refresh token for tokens. Throws `shop-token` when the shop says no, `shop-busy` when it says later. */
export async function fetchTokens(
  { name, url, clientId }: OAuthShop,
  form: Record<string, string>,
): Promise<ChannelSecrets> {
  let answer: Response;
  try {
    answer = await fetch(`${url}/oauth/token`, {
      method: 'POST',
      body: new URLSearchParams({ client_id: clientId, ...form }),
      signal: AbortSignal.timeout(TOKEN_MS),
    });
  } catch (error) {
    throw unreachable(name, error);
  }
  const said = await readSaid(answer);
  if (answer.ok && said !== null) return { access: String(said.access_token), refresh: String(said.refresh_token) };
  if (answer.status === 429 || answer.status === 503)
    throw busy(name, answer, String(said?.message ?? `status ${answer.status}`));
  if (GRANT_GONE.has(said?.error)) throw lapsed(name);
  throw unreachable(name, new Error(`status ${answer.status}`));
}

export const fetchFirstTokens = (
  shop: OAuthShop,
  { code, verifier, redirectUri }: { code: string; verifier: string; redirectUri: string },
): Promise<ChannelSecrets> =>
  fetchTokens(shop, {
    grant_type: 'authorization_code',
    code,
    code_verifier: verifier,
    redirect_uri: redirectUri,
  });

export const refreshTokens = (shop: OAuthShop, { refresh = '' }: ChannelSecrets): Promise<ChannelSecrets> =>
  fetchTokens(shop, { grant_type: 'refresh_token', refresh_token: refresh });

/** Ends a store's tokens at the shop (RFC 7009). */
export async function revokeTokens(
  { name, url, clientId }: OAuthShop,
  { refresh, access }: ChannelSecrets,
): Promise<void> {
  try {
    const answer = await fetch(`${url}/oauth/revoke`, {
      method: 'POST',
      body: new URLSearchParams({ client_id: clientId, token: refresh ?? access ?? '' }),
      signal: AbortSignal.timeout(TOKEN_MS),
    });
    if (!answer.ok) throw new Error(`status ${answer.status}`);
  } catch (error) {
    throw unreachable(name, error);
  }
}
