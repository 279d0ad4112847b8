import type { Context } from '../context';

const isHttps = (ctx: Context): boolean => ctx.config.origin.startsWith('https:');

/** The cookie of a session. Under https its name has a prefix by which browsers take it only for this host, for all paths and with Secure. */
export const sessionCookie = (ctx: Context): string => `${isHttps(ctx) ? '__Host-' : ''}typica_session`;

const TOKEN = /^[A-Za-z0-9_-]{1,100}$/;

/** The session that a request's cookie names, or null. */
export function sessionToken(ctx: Context, request: Request): string | null {
  const wanted = sessionCookie(ctx);
  for (const part of (request.headers.get('cookie') ?? '').slice(0, 8192).split(';')) {
    const at = part.indexOf('=');
    const value = part.slice(at + 1).trim();
    if (at > 0 && part.slice(0, at).trim() === wanted && TOKEN.test(value)) return value;
  }
  return null;
}

/** The header that sets the cookie; with an empty value it takes it away. */
export function setSessionCookie(ctx: Context, value: string, expires: Date): string {
  const secure = isHttps(ctx) ? '; Secure' : '';
  return `${sessionCookie(ctx)}=${value}; Path=/; HttpOnly; SameSite=Lax; Expires=${expires.toUTCString()}${secure}`;
}
