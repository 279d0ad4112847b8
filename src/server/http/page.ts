import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { context, type Context } from '../context';
import { actorOfSession, type Actor } from '../people/people';
import { SESSION_COOKIE } from './route';

/** Who looks at a page; someone not signed in is sent to the sign-in page. */
export async function pageActor(): Promise<{ ctx: Context; actor: Actor }> {
  const ctx = context();
  const token = (await cookies()).get(SESSION_COOKIE)?.value;
  const actor = token ? await actorOfSession(ctx, token) : null;
  if (!actor) redirect('/sign-in');
  return { ctx, actor };
}
