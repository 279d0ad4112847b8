import { TypicaError } from '@/core/errors';
import { context, type Context } from '../context';
import { actorOfAccessToken, actorOfSession, TOKEN_PREFIX, type Actor } from '../people/people';
import { problemResponse } from './problem';

export const SESSION_COOKIE = 'typica_session';

export function sessionToken(request: Request): string | null {
  const match = new RegExp(`(?:^|;\\s*)${SESSION_COOKIE}=([A-Za-z0-9_-]+)`).exec(request.headers.get('cookie') ?? '');
  return match?.[1] ?? null;
}

const SAFE = new Set(['GET', 'HEAD']);

/** Who makes a request: a personal token as Bearer, else a browser's session. Throws `not-signed-in` or `foreign-origin`. */
export async function authenticate(ctx: Context, request: Request): Promise<Actor> {
  const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1];
  if (bearer) {
    const actor = bearer.startsWith(TOKEN_PREFIX) ? await actorOfAccessToken(ctx, bearer) : null;
    if (!actor)
      throw new TypicaError(
        'unauthenticated',
        'token-wrong',
        'This token is not known or was revoked; make a new one in the person’s menu.',
      );
    return actor;
  }
  const token = sessionToken(request);
  const actor = token ? await actorOfSession(ctx, token) : null;
  if (!actor)
    throw new TypicaError('unauthenticated', 'not-signed-in', 'Sign in first, or send a personal token as Bearer.');
  // A browser sends its cookie along from anywhere: what changes something must come from our own pages.
  const origin = request.headers.get('origin');
  if (!SAFE.has(request.method) && origin !== null && origin !== ctx.config.origin) {
    throw new TypicaError('forbidden', 'foreign-origin', 'This request came from another site and was not done.');
  }
  return actor;
}

export interface RouteInput<P> {
  readonly ctx: Context;
  readonly request: Request;
  readonly params: P;
  readonly query: URLSearchParams;
}

type NextRoute<P> = (request: Request, segment: { params: Promise<P> }) => Promise<Response>;

/** A route that anyone may call. Errors become problem details. */
export function publicRoute<P>(handle: (input: RouteInput<P>) => Promise<Response>): NextRoute<P> {
  return async (request, segment) => {
    try {
      return await handle({
        ctx: context(),
        request,
        params: await segment.params,
        query: new URL(request.url).searchParams,
      });
    } catch (error) {
      return problemResponse(error);
    }
  };
}

/** A route for someone signed in: the handler is given the actor, and binds all it reads and writes to the actor's workspace. */
export function route<P>(handle: (input: RouteInput<P> & { actor: Actor }) => Promise<Response>): NextRoute<P> {
  return publicRoute(async (input) => handle({ ...input, actor: await authenticate(input.ctx, input.request) }));
}

export const json = (value: unknown, status = 200, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(value), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store', ...headers },
  });

export const noContent = (): Response => new Response(null, { status: 204 });
