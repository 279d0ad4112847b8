import { invalid } from '@/core/errors';
import { filterFault, readRangeFilter, type RangeFilter } from '@/core/range';
import { PRODUCT_SORTS, type ProductSort } from '../products/product-page';

/** Products on a page of the range: unless asked, and at most. */
export const PAGE = 100;
const MAX_PAGE = 200;

export interface RangeQuery {
  readonly filter: RangeFilter;
  readonly sort: ProductSort;
  readonly limit: number;
  readonly after: string | null;
}

/** What of the range is asked for: what cannot be read is refused, so that nothing is done with more than was meant. Throws `filter-wrong`. */
export function readFilter(query: URLSearchParams): RangeFilter {
  const fault = filterFault(query);
  if (fault) throw invalid('filter-wrong', fault);
  return readRangeFilter(query);
}

/** What a request asks of the range. Throws `filter-wrong`, `sort-wrong`, `limit-wrong`. */
export function readQuery(query: URLSearchParams): RangeQuery {
  const sort = query.get('sort') ?? 'changed';
  if (!PRODUCT_SORTS.includes(sort as ProductSort))
    throw invalid('sort-wrong', `sort is one of ${PRODUCT_SORTS.join(', ')}; “${sort.slice(0, 40)}” is none of them.`);
  const limit = query.get('limit') ?? String(PAGE);
  if (!/^[1-9]\d{0,2}$/.test(limit) || Number(limit) > MAX_PAGE)
    throw invalid('limit-wrong', `limit is a whole number from 1 to ${MAX_PAGE}.`);
  return { filter: readFilter(query), sort: sort as ProductSort, limit: Number(limit), after: query.get('after') };
}

/** Products that a request names by `?id=`; none where it names none. Throws `limit-wrong`. */
export function readIds(query: URLSearchParams): readonly string[] {
  const ids = [...new Set(query.getAll('id'))];
  if (ids.length > MAX_PAGE) throw invalid('limit-wrong', `id can be given ${MAX_PAGE} times at most.`);
  return ids.map((id) => id.slice(0, 40));
}
