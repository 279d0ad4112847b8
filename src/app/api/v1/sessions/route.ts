import { readBody } from '@/server/http/body';
import { clientOf } from '@/server/http/client';
import { SignInDto } from '@/server/http/dto/people';
import { needJsonType, refuseForeign } from '@/server/http/origin';
import { authenticate, json, noContent, publicRoute } from '@/server/http/route';
import { sessionToken, setSessionCookie } from '@/server/http/session-cookie';
import { signIn, signOut, signOutEverywhere } from '@/server/people/people';
import { need } from '@/server/people/scopes';

/** Signs in: the answer sets the session's cookie. */
export const POST = publicRoute(async ({ ctx, request }) => {
  refuseForeign(ctx, request);
  needJsonType(request);
  const { email, password } = await readBody(request, SignInDto);
  const { token, expiresAt } = await signIn(ctx, email, password, clientOf(request));
  return json({ expiresAt }, 201, { 'set-cookie': setSessionCookie(ctx, token, expiresAt) });
});

/** Signs out; with `?everywhere=true` in all browsers. */
export const DELETE = publicRoute(async ({ ctx, request, query }) => {
  refuseForeign(ctx, request);
  if (query.get('everywhere') === 'true') {
    const actor = await authenticate(ctx, request);
    need(actor.credential, 'keys');
    await signOutEverywhere(ctx, actor);
  } else {
    const token = sessionToken(ctx, request);
    if (token) await signOut(ctx, token);
  }
  const gone = noContent();
  gone.headers.set('set-cookie', setSessionCookie(ctx, '', new Date(0)));
  return gone;
});
