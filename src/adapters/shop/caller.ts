import { Agent, request as ask } from 'undici';
import { TypicaError } from '@/core/errors';
import { ownEntry } from '@/core/own-entry';
import type { ChannelHooks, ChannelSecrets, Counted } from '@/ports/channel';
import { retryAfterMs } from './retry-after';

const TIMEOUT_MS = 20_000;
/** Longest wait for new tokens: whoever else wants them waits for the one who asks. */
export const TOKEN_MS = 8_000;
/** Longest answer that is read, bytes. */
const MAX_ANSWER_BYTES = 32 * 1024 * 1024;
/** How often one request is repeated when the shop says that it came too soon. */
const MAX_REPEATS = 12;

/** What a shop says in an answer, in its own words; `fields` are its names for what they are about. */
export interface ShopWords {
  readonly words: string | null;
  readonly fields: readonly string[];
  /** What a token lacks, where that is what it says. */
  readonly lacks?: string;
}

/** How one kind of shop is spoken to. */
export interface Manners {
  readonly name: string;
  readonly url: string;
  authorization(secrets: ChannelSecrets): string;
  /** Gets keys in place of some that the shop no longer takes; null where only the seller can. */
  readonly renew: ((stale: ChannelSecrets) => Promise<ChannelSecrets>) | null;
  wordsOf(said: Readonly<Record<string, unknown>>): ShopWords;
}

export interface Call {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  readonly path: string;
  readonly body?: unknown;
  readonly bytes?: Uint8Array;
  readonly mediaType?: string;
  readonly headers?: Readonly<Record<string, string>>;
}

/** Makes one request: the answer's JSON object; null for one that says that there is nothing (204, 404). */
export type Caller = <T>(what: Call) => Promise<T | null>;

type Said = Readonly<Record<string, unknown>>;

/** What is read of a shop's answer. */
export interface Answer extends Pick<Response, 'status' | 'ok'> {
  readonly headers: Pick<Headers, 'get'>;
  json(): Promise<unknown>;
}

/** Connections that stay open from one request to the next. */
const connections = new Agent({ maxResponseSize: MAX_ANSWER_BYTES, keepAliveTimeout: 4_000 });

export const unreachable = (name: string, cause: unknown): TypicaError =>
  new TypicaError(
    'unavailable',
    'shop-unreachable',
    `${name} did not answer. It is tried again; what it may have done already is looked up first.`,
    {},
    cause,
  );

export const lapsed = (name: string): TypicaError =>
  new TypicaError(
    'conflict',
    'shop-token',
    `${name} no longer accepts this connection. Connect the store again on the Stores page.`,
  );

/** An answer's JSON object; null for one that was cut off, or is something else. */
export async function readSaid(answer: Answer): Promise<Said | null> {
  try {
    const said: unknown = await answer.json();
    return typeof said === 'object' && said !== null && !Array.isArray(said) ? (said as Said) : null;
  } catch {
    return null;
  }
}

const waitOf = (answer: Answer): number =>
  retryAfterMs(answer.headers.get('retry-after'), Date.now(), answer.headers.get('date'));

/** For how long the shop counts this request; undefined where it does not say. */
function countedOf({ headers }: Answer): Counted | undefined {
  const ms = (name: string) => {
    const said = headers.get(name);
    return said !== null && /^\d{1,12}(\.\d{1,4})?$/.test(said) ? Number(said) * 1000 : undefined;
  };
  const [forMs, untilMs] = [ms('counted-for'), ms('counted-until')];
  return forMs === undefined ? undefined : { forMs, untilMs };
}

/** 429: nothing is wrong, only too soon. 503: something is. */
export const busy = (name: string, answer: Answer, words: string): TypicaError =>
  new TypicaError('unavailable', 'shop-busy', `${name} asks to wait: “${words}”`, {
    retryAfterMs: waitOf(answer),
    ...(answer.status === 429 ? { costsNoTry: true } : {}),
  });

const scopeGone = (name: string, lacks: string): TypicaError =>
  new TypicaError(
    'conflict',
    'shop-scope',
    `${name} no longer lets Typica do this: the connection lacks “${lacks}”. Connect the store again and allow it.`,
    { lacks },
  );

/** Calls a shop with the store's keys, renews them once when they ran out, and maps every answer that is no success to a typed error. */
export function caller(manners: Manners, first: ChannelSecrets, hooks: ChannelHooks): Caller {
  const { name } = manners;
  let secrets = first;
  const patiently = async (what: Call, keys: ChannelSecrets): Promise<Heard> => {
    // Repeats the one request while the shop says that it came too soon: all else that was done stays done.
    for (let repeats = 0; ; repeats += 1) {
      const answer = await request(manners, keys, hooks, what);
      if (answer.status !== 429 || repeats === MAX_REPEATS) return answer;
      await answer.drop();
      await hooks.slowDown(waitOf(answer));
    }
  };
  return async <T>(what: Call): Promise<T | null> => {
    // Another request of this client may renew them while this one is under way: what counts is with which it was made.
    const used = secrets;
    let answer = await patiently(what, used);
    const { renew } = manners;
    if (answer.status === 401 && renew) {
      await answer.drop();
      secrets = await hooks.renew(used, renew);
      answer = await patiently(what, secrets);
    }
    if (answer.status === 204 || answer.status === 404) {
      await answer.drop();
      return null;
    }
    const said = await readSaid(answer);
    // Cut off on the way, or not the shop that answered: it may have been done.
    if (answer.ok && said === null) throw unreachable(name, new Error('the answer is no JSON object'));
    if (answer.ok) return said as T;
    throw failure(manners, answer, said);
  };
}

interface Heard extends Answer {
  /** Reads past its body, so that the connection can be used again. */
  drop(): Promise<void>;
}

/** The platform's own `fetch` takes twice the processor's time, most of it between the moment at which there is room and that at which the request goes. */
async function send(manners: Manners, secrets: ChannelSecrets, what: Call, payload: Payload, signal: AbortSignal) {
  const { method, path, mediaType = 'application/json', headers } = what;
  const {
    statusCode,
    headers: said,
    body,
  } = await ask(`${manners.url}${path}`, {
    dispatcher: connections,
    method,
    headers: {
      authorization: manners.authorization(secrets),
      ...(payload === undefined ? {} : { 'content-type': mediaType }),
      ...headers,
    },
    body: payload,
    signal,
  });
  const heard: Heard = {
    status: statusCode,
    ok: statusCode >= 200 && statusCode < 300,
    headers: { get: (name) => [ownEntry(said, name) ?? null].flat()[0] ?? null },
    json: () => body.json(),
    // Nothing in it is wanted: that it breaks off, or takes too long, is no fault of the request.
    drop: () => body.dump().catch(() => undefined),
  };
  return heard;
}

type Payload = string | Uint8Array | undefined;

async function request(manners: Manners, secrets: ChannelSecrets, hooks: ChannelHooks, what: Call): Promise<Heard> {
  const { body, bytes } = what;
  // Made before there is room: once there is, it goes at once.
  const payload = bytes ?? (body === undefined ? undefined : JSON.stringify(body));
  const turn = await hooks.takeTurn();
  let taken = false;
  let counted: Counted | undefined;
  try {
    const timeout = AbortSignal.timeout(TIMEOUT_MS);
    const signal = hooks.signal ? AbortSignal.any([timeout, hooks.signal]) : timeout;
    const answer = await send(manners, secrets, what, payload, signal);
    taken = answer.ok;
    counted = countedOf(answer);
    return answer;
  } catch (error) {
    hooks.signal?.throwIfAborted();
    throw unreachable(manners.name, error);
  } finally {
    await turn.answered(taken, counted);
  }
}

function failure({ name, wordsOf }: Manners, answer: Answer, said: Said | null): TypicaError {
  const { words, fields, lacks } = said ? wordsOf(said) : { words: null, fields: [], lacks: undefined };
  const says = words ?? `status ${answer.status}`;
  if (answer.status === 429 || answer.status === 503) return busy(name, answer, says);
  if (answer.status >= 500) return unreachable(name, new Error(`status ${answer.status}: ${says}`));
  if (answer.status === 401) return lapsed(name);
  if (answer.status === 403 && lacks !== undefined) return scopeGone(name, lacks);
  return refused(name, says, fields);
}

export const refused = (name: string, words: string, shopFields: readonly string[]): TypicaError =>
  new TypicaError('invalid', 'shop-refused', `${name} refused this: “${words}” Change that here and send again.`, {
    words,
    shopFields,
  });

/** A listing that the shop must have, and says that it has not. */
export function need<T>(name: string, value: T | null): T {
  if (value === null)
    throw new TypicaError(
      'invalid',
      'shop-refused',
      `${name} no longer knows this listing. Look at it there, or send it again as a new one.`,
      { words: 'gone' },
    );
  return value;
}
