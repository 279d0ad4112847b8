import { cookies, headers } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import { isTypicaError } from '@/core/errors';
import { context, type Context } from '../context';
import { actorOfSession, type Actor } from '../people/people';
import { sessionCookie } from './session-cookie';

/**
 * Sends someone who came by another name of this machine (localhost for 127.0.0.1) to the address that shops send people back to: a
 * session's cookie holds for one of them only.
 */
export async function atOwnAddress(ctx: Context): Promise<void> {
  const host = (await headers()).get('host');
  if (host && host !== new URL(ctx.config.origin).host) redirect(`${ctx.config.origin}/`);
}

/** What a page could not load: for an id that is not there, or cannot be one, the page that says so. */
export function orNotFound(error: unknown): never {
  if (isTypicaError(error, 'not-found') || isTypicaError(error, 'text-impossible')) notFound();
  throw error;
}

/** Who looks at a page; someone not signed in is sent to the sign-in page. */
export async function pageActor(): Promise<{ ctx: Context; actor: Actor }> {
  const ctx = context();
  await atOwnAddress(ctx);
  const token = (await cookies()).get(sessionCookie(ctx))?.value;
  const actor = token ? await actorOfSession(ctx, token) : null;
  if (!actor) redirect('/sign-in');
  return { ctx, actor };
}
