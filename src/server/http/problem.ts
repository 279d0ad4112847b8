import { randomBytes } from 'node:crypto';
import { fromSystem, TypicaError, type ErrorKind } from '@/core/errors';
import { log } from '../log';

const STATUS: Record<ErrorKind, number> = {
  invalid: 422,
  'not-found': 404,
  conflict: 409,
  forbidden: 403,
  unauthenticated: 401,
  'too-large': 413,
  'too-many': 429,
  unavailable: 503,
  bug: 500,
};

const TITLES: Record<ErrorKind, string> = {
  invalid: 'Invalid request',
  'not-found': 'Not found',
  conflict: 'Conflict',
  forbidden: 'Not allowed',
  unauthenticated: 'Not signed in',
  'too-large': 'Too large',
  'too-many': 'Too many',
  unavailable: 'Temporarily unavailable',
  bug: 'Something went wrong in Typica',
};

const MAX_TEXT = 600;
const MAX_ENTRIES = 100;
const MAX_DEPTH = 6;

/** What an error tells, within bounds: it must not grow with what was sent. */
export function clipped(value: unknown, depth = 0): unknown {
  if (typeof value === 'string') return value.length > MAX_TEXT ? `${cut(value, MAX_TEXT)}…` : value;
  if (typeof value !== 'object' || value === null || value instanceof Date) return value;
  if (depth === MAX_DEPTH) return null;
  if (Array.isArray(value)) return value.slice(0, MAX_ENTRIES).map((one) => clipped(one, depth + 1));
  return Object.fromEntries(
    Object.entries(value)
      .slice(0, MAX_ENTRIES)
      .map(([key, one]) => [cut(key, MAX_TEXT), clipped(one, depth + 1)]),
  );
}

/** The beginning of a text, without half of a character at its end. */
const cut = (text: string, most: number): string => text.slice(0, most).toWellFormed();

/** Fields that hold a document's own values whole, each bounded where it is made: a client merges them. */
const WHOLE: ReadonlySet<string> = new Set(['revision-conflict']);

/** An error as problem details (RFC 9457). What is not meant for the user is logged, and only its reference is told. */
export function problemResponse(failure: unknown): Response {
  const error = fromSystem(failure) ?? failure;
  const known = error instanceof TypicaError && error.visible;
  const kind: ErrorKind = known ? error.kind : 'bug';
  const reference = randomBytes(6).toString('base64url');
  if (!known) log.error({ err: error, reference }, 'a request failed');
  const fields = known ? (WHOLE.has(error.code) ? error.fields : (clipped(error.fields) as object)) : { reference };
  const body = {
    // First, so that no field takes the place of a member of the RFC.
    ...fields,
    type: `urn:typica:problem:${known ? error.code : 'internal'}`,
    title: TITLES[kind],
    status: STATUS[kind],
    detail: known
      ? (clipped(error.message) as string)
      : `Nothing of what you sent was lost by us, but it was not done. Try again; if it stays, tell us the reference ${reference}.`,
    code: known ? error.code : 'internal',
  };
  const retryAfterMs = known ? Number(error.fields.retryAfterMs) : NaN;
  return new Response(JSON.stringify(body), {
    status: STATUS[kind],
    headers: {
      'content-type': 'application/problem+json',
      'cache-control': 'no-store',
      ...(retryAfterMs > 0 ? { 'retry-after': String(Math.ceil(retryAfterMs / 1000)) } : {}),
    },
  });
}
