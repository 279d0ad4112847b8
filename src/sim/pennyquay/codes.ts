import { json, NO_CONTENT, type Answer } from '../engine/exchange';
import type { Asked } from './asked';
import type { Voucher } from './shop';

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
export function serveCodes({ world, shop, method, path, fields }: Asked): Answer | null {
  if (path !== '/codes' && !path.startsWith('/codes/')) return null;
  const vouchers = world.records.table<Voucher>('vouchers');
  const code = decodeURIComponent(path.slice('/codes/'.length));
  if (code === '')
    return method === 'GET'
      ? json(200, {
          codes: vouchers
            .all()
            .filter((one) => one.shop === shop.id)
            .map(shown),
        })
      : json(405, { problem: 'method' });
  const key = `${shop.id}/${code}`;
  if (method === 'DELETE') {
    vouchers.drop(key);
    return NO_CONTENT;
  }
  if (method !== 'PUT') return json(405, { problem: 'method' });
  const message = objectionTo(code, fields);
  if (message) return json(422, { problem: 'objections', message, objections: [{ field: 'code', message }] });
  const { percent, amount, items } = fields as unknown as Voucher;
  return json(200, shown(vouchers.put(key, { shop: shop.id, code, percent, amount, items })));
}
