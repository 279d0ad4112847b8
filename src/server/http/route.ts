import { randomBytes } from 'node:crypto';
import { TypicaError } from '@/core/errors';
import { context, type Context } from '../context';
import { inLogScope } from '../log';
import { actorOfSession, type SignedIn } from '../people/people';
import { need, type Scope } from '../people/scopes';
import { actorOfAccessToken, TOKEN_PREFIX } from '../people/tokens';
import { problemResponse } from './problem';
import { refuseForeign } from './origin';
import { sessionToken } from './session-cookie';

const SAFE: ReadonlySet<string> = new Set(['GET', 'HEAD']);

/** Who makes a request: a personal token as Bearer, else a browser's session. Throws `not-signed-in`, `token-wrong` or `foreign-origin`. */
export async function authenticate(ctx: Context, request: Request): Promise<SignedIn> {
  const [scheme, bearer] = (request.headers.get('authorization') ?? '').split(' ', 2);
  if (scheme?.toLowerCase() === 'bearer' && bearer) {
    const actor = bearer.startsWith(TOKEN_PREFIX) ? await actorOfAccessToken(ctx, bearer) : null;
    if (!actor)
      throw new TypicaError(
        'unauthenticated',
        'token-wrong',
        'This token is not known, was revoked or has run out; make a new one under Personal tokens.',
      );
    return actor;
  }
  const token = sessionToken(ctx, request);
  const actor = token ? await actorOfSession(ctx, token) : null;
  if (!actor)
    throw new TypicaError('unauthenticated', 'not-signed-in', 'Sign in first, or send a personal token as Bearer.');
  // A browser sends its cookie along from anywhere: what changes something must come from our own pages.
  if (!SAFE.has(request.method)) refuseForeign(ctx, request);
  return actor;
}

export interface RouteInput<P> {
  readonly ctx: Context;
  readonly request: Request;
  readonly params: P;
  readonly query: URLSearchParams;
}

type NextRoute<P> = (request: Request, segment: { params: Promise<P> }) => Promise<Response>;

/** Longest part of an address that names something. */
const MAX_PART = 400;

/** The parts of an address that name something. Throws `not-found` for what cannot be a name: our ids and keys are printable ASCII. */
function readParams<P>(raw: P): P {
  const entries = Object.entries((raw ?? {}) as Record<string, string>).map(([name, part]) => {
    let text = part;
    try {
      // The framework hands parts on as they were sent.
      text = decodeURIComponent(part);
    } catch {
      text = '';
    }
    if (!/^[\x21-\x7e]+$/.test(text) || text.length > MAX_PART)
      throw new TypicaError('not-found', 'not-found', 'There is nothing at this address; a part of it is no id.');
    return [name, text] as const;
  });
  return Object.fromEntries(entries) as P;
}

/** A route that anyone may call. Errors become problem details. */
export function publicRoute<P>(handle: (input: RouteInput<P>) => Promise<Response>): NextRoute<P> {
  return (request, segment) =>
    inLogScope({ request: randomBytes(6).toString('base64url') }, async () => {
      try {
        return await handle({
          ctx: context(),
          request,
          params: readParams(await segment.params),
          query: new URL(request.url).searchParams,
        });
      } catch (error) {
        return problemResponse(error);
      }
    });
}

export type SignedInInput<P> = RouteInput<P> & { readonly actor: SignedIn };

/**
 * A route for someone signed in who holds `scope`: the handler is given the actor, and binds all it reads and writes to the actor's
 * workspace.
 */
export function route<P>(scope: Scope, handle: (input: SignedInInput<P>) => Promise<Response>): NextRoute<P> {
  return publicRoute(async (input) => {
    const actor = await authenticate(input.ctx, input.request);
    need(actor.credential, scope);
    return inLogScope({ workspace: actor.workspaceId }, () => handle({ ...input, actor }));
  });
}

export const json = (value: unknown, status = 200, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(value), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store', ...headers },
  });

export const noContent = (): Response => new Response(null, { status: 204 });
