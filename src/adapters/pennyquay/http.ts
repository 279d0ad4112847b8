import { TypicaError } from '@/core/errors';
import type { ChannelHooks, ChannelSecrets } from '@/ports/channel';
import type { WireTokens } from './wire';

const TIMEOUT_MS = 20_000;

export interface PennyquaySettings {
  readonly url: string;
  readonly clientId: string;
}

const unreachable = (cause: unknown) =>
  new TypicaError(
    'unavailable',
    'shop-unreachable',
    'Pennyquay did not answer. It is tried again; what it may have done already is looked up first.',
    {},
    cause,
  );

/** `Retry-After` in ms: seconds or a date (RFC 9110, 10.2.3); half a minute when it says neither. */
export function retryAfterMs(value: string | null, now: number): number {
  if (value && /^\d+$/.test(value.trim())) return Number(value) * 1000;
  const date = value ? Date.parse(value) : Number.NaN;
  return Number.isFinite(date) ? Math.max(0, date - now) : 30_000;
}

const lapsed = () =>
  new TypicaError(
    'conflict',
    'shop-token',
    'Pennyquay no longer accepts this connection. Connect the store again on the Stores page.',
  );

/** Longest wait for new tokens: whoever else wants them waits for the one who asks. */
const TOKEN_MS = 8_000;

/** What OAuth says when a grant is no longer good (RFC 6749, 5.2); any other refusal may be a passing one. */
const GRANT_GONE: ReadonlySet<unknown> = new Set(['invalid_grant', 'invalid_client', 'unauthorized_client']);

/** Trades a code or a refresh token for tokens. Throws `shop-token` when the shop says no, `shop-busy` when it says later. */
export async function fetchTokens(settings: PennyquaySettings, form: Record<string, string>): Promise<WireTokens> {
  let answer: Response;
  try {
    answer = await fetch(`${settings.url}/oauth/token`, {
      method: 'POST',
      body: new URLSearchParams({ client_id: settings.clientId, ...form }),
      signal: AbortSignal.timeout(TOKEN_MS),
    });
  } catch (error) {
    throw unreachable(error);
  }
  const said = await readShopAnswer(answer);
  if (answer.ok && said !== null) return said as unknown as WireTokens;
  if (answer.status === 429 || answer.status === 503) throw busy(answer, said);
  if (GRANT_GONE.has(said?.error ?? said?.problem)) throw lapsed();
  throw unreachable(new Error(`status ${answer.status}`));
}

/** Ends a store's tokens at the shop (RFC 7009). */
export async function revokeTokens(settings: PennyquaySettings, { refresh, access }: ChannelSecrets): Promise<void> {
  try {
    const answer = await fetch(`${settings.url}/oauth/revoke`, {
      method: 'POST',
      body: new URLSearchParams({ client_id: settings.clientId, token: refresh ?? access ?? '' }),
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    if (!answer.ok) throw new Error(`status ${answer.status}`);
  } catch (error) {
    throw unreachable(error);
  }
}

export const secretsOf = (tokens: WireTokens): ChannelSecrets => ({
  access: tokens.access_token,
  refresh: tokens.refresh_token,
});

export interface Call {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly path: string;
  readonly body?: unknown;
  readonly bytes?: Uint8Array;
  /** The same for every try of one thing: the shop answers a repeat with its first answer. */
  readonly requestKey?: string;
}

interface ShopAnswer {
  readonly error?: unknown;
  readonly problem?: unknown;
  readonly message?: string;
  readonly objections?: { readonly field: string; readonly message: string }[];
}

/** An answer's JSON object; null for one that was cut off, or is something else. */
async function readShopAnswer(answer: Response): Promise<ShopAnswer | null> {
  try {
    const said: unknown = await answer.json();
    return typeof said === 'object' && said !== null ? said : null;
  } catch {
    return null;
  }
}

const wordsOf = (answer: Response, said: ShopAnswer | null): string =>
  said?.objections?.map((objection) => objection.message).join(' ') ?? said?.message ?? `status ${answer.status}`;

/** 429: nothing is wrong, only too soon. 503: something is. */
const busy = (answer: Response, said: ShopAnswer | null) =>
  new TypicaError('unavailable', 'shop-busy', `Pennyquay asks to wait: “${wordsOf(answer, said)}”`, {
    retryAfterMs: retryAfterMs(answer.headers.get('retry-after'), Date.now()),
    ...(answer.status === 429 ? { costsNoTry: true } : {}),
  });

/** How often one request is repeated when the shop says that it came too soon. */
const MAX_REPEATS = 12;

/** Calls the API with the store's token, renews it once when it has run out, and maps every answer that is no success to a typed error. */
export function caller(settings: PennyquaySettings, first: ChannelSecrets, hooks: ChannelHooks) {
  let secrets = first;
  const once = async ({ method, path, body, bytes, requestKey }: Call): Promise<Response> => {
    const turn = await hooks.takeTurn();
    let taken = false;
    try {
      const timeout = AbortSignal.timeout(TIMEOUT_MS);
      const answer = await fetch(`${settings.url}/api${path}`, {
        method,
        headers: {
          authorization: `Bearer ${secrets.access}`,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
          ...(bytes === undefined ? {} : { 'content-type': 'image/jpeg' }),
          ...(requestKey === undefined ? {} : { 'request-key': requestKey }),
        },
        body: bytes === undefined ? (body === undefined ? undefined : JSON.stringify(body)) : new Uint8Array(bytes),
        signal: hooks.signal ? AbortSignal.any([timeout, hooks.signal]) : timeout,
      });
      taken = answer.ok;
      return answer;
    } catch (error) {
      hooks.signal?.throwIfAborted();
      throw unreachable(error);
    } finally {
      await turn.answered(taken);
    }
  };
  /** Repeats the one request while the shop says that it came too soon: all else that was done stays done. */
  const patiently = async (what: Call): Promise<Response> => {
    for (let repeats = 0; ; repeats += 1) {
      const answer = await once(what);
      if (answer.status !== 429 || repeats === MAX_REPEATS) return answer;
      await answer.body?.cancel();
      await hooks.slowDown(retryAfterMs(answer.headers.get('retry-after'), Date.now()));
    }
  };
  return async function call<T>(what: Call): Promise<T | null> {
    let answer = await patiently(what);
    if (answer.status === 401) {
      secrets = await hooks.renew(secrets, async (stale) =>
        secretsOf(await fetchTokens(settings, { grant_type: 'refresh_token', refresh_token: stale.refresh! })),
      );
      answer = await patiently(what);
    }
    if (answer.status === 204 || answer.status === 404) return null;
    const said = await readShopAnswer(answer);
    if (answer.ok) {
      // Cut off on the way, or not the shop that answered: it may have been done.
      if (said === null) throw unreachable(new Error('the answer is no JSON object'));
      return said as T;
    }
    if (answer.status === 429 || answer.status === 503) throw busy(answer, said);
    if (answer.status >= 500) throw unreachable(new Error(`status ${answer.status}: ${wordsOf(answer, said)}`));
    if (answer.status === 401) throw lapsed();
    throw new TypicaError(
      'invalid',
      'shop-refused',
      `Pennyquay refused this: “${wordsOf(answer, said)}” Change that here and send again.`,
      { words: wordsOf(answer, said), shopFields: said?.objections?.map((objection) => objection.field) ?? [] },
    );
  };
}
