import { invalid } from '../errors';
import { formatAmount, money, parseAmountMinor } from '../pricing/money';
import { EMPTY_QUERY, SHELF_SORTS, type ShelfQuery, type ShelfSort } from './shelf';

/** Most items of one parcel that are asked about. */
export const MAX_ITEMS = 20;
const MAX_LIMIT = 200;

const LISTS = {
  technique: 'techniques',
  from: 'shipsFrom',
  size: 'sizes',
  color: 'families',
  material: 'materials',
  partner: 'partners',
} as const;

const bad = (name: string, text: string, wants: string) =>
  invalid('query-unreadable', `“${text}” cannot be used for ${name}: it takes ${wants}.`, { name, text });

function whole(params: URLSearchParams, name: string, least: number, most: number): number | null {
  const text = params.get(name);
  if (text === null || text === '') return null;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least || value > most)
    throw bad(name, text, `a whole number from ${least} to ${most}`);
  return value;
}

/**
 * A query from the parameters of an address, such as `?q=tee&size=XL&size=XXL&to=DE&sort=landed`. Amounts are decimal text in `currency`.
 * What is absent is as in `EMPTY_QUERY`, with `country` for the destination. Throws `query-unreadable` or `amount-unreadable`.
 */
export function parseQuery(params: URLSearchParams, currency: string, country: string): ShelfQuery {
  const list = (name: keyof typeof LISTS) => [...new Set(params.getAll(name).filter(Boolean))].slice(0, 60);
  const to = params.get('to') || country;
  if (!/^[A-Z]{2}$/.test(to)) throw bad('to', to, 'the two letters of a country, such as DE');
  const text = (params.get('q') ?? '').trim();
  const sort = params.get('sort') ?? (text ? 'match' : EMPTY_QUERY.sort);
  if (!(SHELF_SORTS as readonly string[]).includes(sort)) throw bad('sort', sort, `one of ${SHELF_SORTS.join(', ')}`);
  const amount = (name: string) => {
    const typed = params.get(name);
    return typed ? parseAmountMinor(typed, currency) : null;
  };
  return {
    ...EMPTY_QUERY,
    techniques: list('technique'),
    shipsFrom: list('from'),
    sizes: list('size'),
    families: list('color'),
    materials: list('material'),
    partners: list('partner'),
    text,
    kind: params.get('kind') || null,
    areasMin: whole(params, 'areas', 1, 50),
    makingMax: whole(params, 'making', 1, 365),
    landedMinMinor: amount('min'),
    landedMaxMinor: amount('max'),
    inStock: params.get('stock') === 'yes',
    favorite: params.get('favorite') === 'yes',
    used: params.get('used') === 'yes',
    country: to,
    items: whole(params, 'items', 1, MAX_ITEMS) ?? 1,
    sort: sort as ShelfSort,
    descending: params.get('down') === 'yes',
    offset: whole(params, 'offset', 0, 1_000_000) ?? 0,
    limit: whole(params, 'limit', 1, MAX_LIMIT) ?? EMPTY_QUERY.limit,
  };
}

/** The parameters that give this query back; what is as usual is left out, so that an address stays short. */
export function queryParams(query: ShelfQuery, currency: string, country: string): URLSearchParams {
  const params = new URLSearchParams();
  const put = (name: string, value: string | null) => value !== null && value !== '' && params.append(name, value);
  put('q', query.text);
  put('kind', query.kind);
  for (const [name, key] of Object.entries(LISTS)) for (const value of query[key]) put(name, value);
  put('areas', query.areasMin === null ? null : String(query.areasMin));
  put('making', query.makingMax === null ? null : String(query.makingMax));
  put('min', query.landedMinMinor === null ? null : formatAmount(money(query.landedMinMinor, currency)));
  put('max', query.landedMaxMinor === null ? null : formatAmount(money(query.landedMaxMinor, currency)));
  put('stock', query.inStock ? 'yes' : null);
  put('favorite', query.favorite ? 'yes' : null);
  put('used', query.used ? 'yes' : null);
  put('to', query.country === country ? null : query.country);
  put('items', query.items === 1 ? null : String(query.items));
  put('sort', query.sort === (query.text ? 'match' : EMPTY_QUERY.sort) ? null : query.sort);
  put('down', query.descending ? 'yes' : null);
  put('offset', query.offset === 0 ? null : String(query.offset));
  return params;
}
