import { TypicaError } from '@/core/errors';
import type { Context } from '../context';

const foreign = () =>
  new TypicaError('forbidden', 'foreign-origin', 'This request came from another site and was not done.');

/**
 * Throws `foreign-origin` for a request that a browser sends for a page of another site. Browsers say so themselves, by `Origin` on all that
 * changes something and by `Sec-Fetch-Site` on everything; a script that says neither is no browser.
 */
export function refuseForeign(ctx: Context, request: Request): void {
  const origin = request.headers.get('origin');
  if (origin !== null && origin !== ctx.config.origin) throw foreign();
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none') throw foreign();
}

/**
 * Throws `not-json-type` unless a request says that it is JSON: a form of another site can send any text as text/plain, but for this type its
 * browser asks us first. For routes that set a cookie.
 */
export function needJsonType(request: Request): void {
  const type = (request.headers.get('content-type') ?? '').split(';', 1)[0]!.trim().toLowerCase();
  if (type !== 'application/json')
    throw new TypicaError(
      'invalid',
      'not-json-type',
      'Send this as JSON, with the header content-type: application/json.',
    );
}
