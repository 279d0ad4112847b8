import { readBody } from '@/server/http/body';
import { SignInDto } from '@/server/http/dto/people';
import { json, noContent, publicRoute, SESSION_COOKIE, sessionToken } from '@/server/http/route';
import { signIn, signOut } from '@/server/people/people';

const cookie = (value: string, expires: Date, secure: boolean) =>
  `${SESSION_COOKIE}=${value}; Path=/; HttpOnly; SameSite=Lax; Expires=${expires.toUTCString()}${secure ? '; Secure' : ''}`;

export const POST = publicRoute(async ({ ctx, request }) => {
  const { email, password } = await readBody(request, SignInDto);
  const { token, expiresAt } = await signIn(ctx, email, password);
  return json({ expiresAt }, 201, { 'set-cookie': cookie(token, expiresAt, ctx.config.origin.startsWith('https:')) });
});

export const DELETE = publicRoute(async ({ ctx, request }) => {
  const token = sessionToken(request);
  if (token) await signOut(ctx, token);
  const gone = noContent();
  gone.headers.set('set-cookie', cookie('', new Date(0), false));
  return gone;
});
