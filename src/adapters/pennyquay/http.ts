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

/** Trades a code or a refresh token for tokens. Throws `shop-token` when the shop says no. */
export async function fetchTokens(settings: PennyquaySettings, form: Record<string, string>): Promise<WireTokens> {
  let answer: Response;
  try {
    answer = await fetch(`${settings.url}/oauth/token`, {
      method: 'POST',
      body: new URLSearchParams({ client_id: settings.clientId, ...form }),
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
  } catch (error) {
    throw unreachable(error);
  }
  if (answer.status >= 500) throw unreachable(new Error(`status ${answer.status}`));
  if (!answer.ok)
    throw new TypicaError(
      'conflict',
      'shop-token',
      'Pennyquay no longer accepts this connection. Connect the store again on the Stores page.',
    );
  return (await answer.json()) as WireTokens;
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

/** Calls the API with the store's token, renews it once when it has run out, and maps every answer that is no success to a typed error. */
export function caller(settings: PennyquaySettings, first: ChannelSecrets, hooks: ChannelHooks) {
  let secrets = first;
  const once = async ({ method, path, body, bytes, requestKey }: Call): Promise<Response> => {
    await hooks.beforeRequest();
    try {
      return await fetch(`${settings.url}/api${path}`, {
        method,
        headers: {
          authorization: `Bearer ${secrets.access}`,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
          ...(bytes === undefined ? {} : { 'content-type': 'image/jpeg' }),
          ...(requestKey === undefined ? {} : { 'request-key': requestKey }),
        },
        body: bytes === undefined ? (body === undefined ? undefined : JSON.stringify(body)) : new Uint8Array(bytes),
        signal: AbortSignal.timeout(TIMEOUT_MS),
      });
    } catch (error) {
      throw unreachable(error);
    }
  };
  return async function call<T>(what: Call): Promise<T | null> {
    let answer = await once(what);
    if (answer.status === 401) {
      secrets = secretsOf(
        await fetchTokens(settings, { grant_type: 'refresh_token', refresh_token: secrets.refresh! }),
      );
      await hooks.onSecrets(secrets);
      answer = await once(what);
    }
    if (answer.status === 204) return null;
    if (answer.ok) return (await answer.json()) as T;
    if (answer.status === 404) return null;
    const told = (await answer.json().catch(() => ({}))) as {
      message?: string;
      objections?: { field: string; message: string }[];
    };
    const words =
      told.objections?.map((objection) => objection.message).join(' ') ?? told.message ?? `status ${answer.status}`;
    if (answer.status === 429 || answer.status === 503) {
      throw new TypicaError('unavailable', 'shop-busy', `Pennyquay asks to wait: “${words}”`, {
        retryAfterMs: retryAfterMs(answer.headers.get('retry-after'), Date.now()),
      });
    }
    if (answer.status >= 500) throw unreachable(new Error(`status ${answer.status}: ${words}`));
    if (answer.status === 401)
      throw new TypicaError(
        'conflict',
        'shop-token',
        'Pennyquay no longer accepts this connection. Connect the store again on the Stores page.',
      );
    throw new TypicaError(
      'invalid',
      'shop-refused',
      `Pennyquay refused this: “${words}” Change that here and send again.`,
      {
        words,
        shopFields: told.objections?.map((objection) => objection.field) ?? [],
      },
    );
  };
}
