import { TypicaError, type ErrorKind } from '@/core/errors';

const STATUS: Record<ErrorKind, number> = {
  invalid: 422,
  'not-found': 404,
  conflict: 409,
  forbidden: 403,
  unauthenticated: 401,
  'too-large': 413,
  unavailable: 503,
  bug: 500,
};

const TITLES: Record<ErrorKind, string> = {
  invalid: 'This cannot be taken',
  'not-found': 'Not found',
  conflict: 'In conflict with what is there',
  forbidden: 'Not allowed',
  unauthenticated: 'Not signed in',
  'too-large': 'Too large',
  unavailable: 'Not possible just now',
  bug: 'Something went wrong in Typica',
};

/** An error as problem details (RFC 9457). What is not meant for the user is logged, and only its reference is told. */
export function problemResponse(error: unknown, log: (error: unknown, reference: string) => void = logError): Response {
  const known = error instanceof TypicaError && error.visible;
  const kind: ErrorKind = known ? error.kind : 'bug';
  const reference = Math.random().toString(36).slice(2, 10);
  if (!known) log(error, reference);
  const body = {
    type: `urn:typica:problem:${known ? error.code : 'internal'}`,
    title: TITLES[kind],
    status: STATUS[kind],
    detail: known
      ? error.message
      : `Nothing of what you sent was lost by us, but it was not done. Try again; if it stays, tell us the reference ${reference}.`,
    code: known ? error.code : 'internal',
    ...(known ? error.fields : { reference }),
  };
  return new Response(JSON.stringify(body), {
    status: STATUS[kind],
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store' },
  });
}

function logError(error: unknown, reference: string): void {
  const text =
    error instanceof Error
      ? `${error.stack}${error.cause ? `\ncaused by ${(error.cause as Error).stack ?? error.cause}` : ''}`
      : String(error);
  process.stderr.write(`${new Date().toISOString()} error ${reference} ${text}\n`);
}
