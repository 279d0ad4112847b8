import { send, type Exchange, type World } from './exchange';
import type { Shop, Voucher } from './ledger';

const shown = ({ code, percent, amount, items }: Voucher) => ({ code, percent, amount, items });

/** What is wrong with a code, in the shop's words; null for nothing. */
function objectionTo(code: string, { percent, amount, items }: Record<string, unknown>): string | null {
  if (!/^[A-Z0-9][A-Z0-9-]{2,23}$/.test(code)) return 'A code is 3 to 24 capital letters, digits and hyphens.';
  const share = typeof percent === 'string' && /^\d{1,2}(\.\d)?$/.test(percent) && Number(percent) > 0;
  const sum = typeof amount === 'string' && /^\d{1,6}\.\d{2}$/.test(amount) && Number(amount) > 0;
  if (share === sum) return 'A code takes off either a percentage, in tenths, or an amount.';
  if (items !== null && !(Array.isArray(items) && items.length <= 500 && items.every((id) => typeof id === 'string')))
    return 'A code is for everything, or for up to 500 items.';
  return null;
}

/** Discount codes of a shop: buyers type them, the price stays. A code is put whole and dropped by name. */
export function handleCodes(
  { request, response, url }: Exchange,
  world: World,
  shop: Shop,
  body: () => Record<string, unknown>,
): void {
  const { held } = world.ledger;
  const vouchers = (held.vouchers ??= {});
  const code = decodeURIComponent(url.pathname.slice('/api/codes/'.length));
  if (code === '') {
    if (request.method !== 'GET') return send(response, 405, { problem: 'method' });
    const codes = Object.values(vouchers).filter((one) => one.shop === shop.id);
    return send(response, 200, { codes: codes.map(shown) });
  }
  const key = `${shop.id}/${code}`;
  if (request.method === 'DELETE') {
    delete vouchers[key];
    world.ledger.save();
    return send(response, 204, {});
  }
  if (request.method !== 'PUT') return send(response, 405, { problem: 'method' });
  const fields = body();
  const message = objectionTo(code, fields);
  if (message) return send(response, 422, { problem: 'objections', message, objections: [{ field: 'code', message }] });
  const { percent, amount, items } = fields as unknown as Voucher;
  vouchers[key] = { shop: shop.id, code, percent, amount, items };
  world.ledger.save();
  send(response, 200, shown(vouchers[key]));
}
