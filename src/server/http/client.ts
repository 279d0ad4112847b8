/** The header in which our own server (src/server/web.main.ts) says where a request comes from; what a client sends under it is dropped there. */
export const CLIENT_HEADER = 'x-typica-client';

/** Where a request comes from, as limits count it: an IPv4 address, or the /64 of an IPv6 one, since each household has all of that. */
export function clientOf(request: Request): string {
  const address = (request.headers.get(CLIENT_HEADER) ?? 'unknown').replace(/^::ffff:/, '').slice(0, 64);
  if (!address.includes(':')) return /^[\x21-\x7e]+$/.test(address) ? address : 'unknown';
  return `${address.split(':').slice(0, 4).join(':')}::/64`;
}
