import { EMPTY_QUERY, itemOf, type ShelfItem, type ShelfQuery } from '@/core/shelf/shelf';
import { parseQuery } from '@/core/shelf/query';
import { MAX_COMPARED } from '@/core/catalog/limits';
import { isTypicaError } from '@/core/errors';
import { loadBlanks } from '@/server/catalog/blanks';
import type { Browsed } from '@/server/catalog/browsed';
import { browseCatalog } from '@/server/catalog/shelf';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';

/** One page of the catalog as `GET /blanks` answers it. */
export type ShelfPage = Omit<Browsed, 'rows'> & { readonly blanks: readonly ShelfItem[] };

export interface BlanksData {
  readonly query: ShelfQuery;
  readonly page: ShelfPage;
  /** What of the address could not be used. */
  readonly problem: string | null;
  /** Laid aside to be compared. */
  readonly compared: readonly { readonly id: string; readonly name: string; readonly partner: string }[];
  readonly currency: string;
  readonly country: string;
}

/** The first page that the address asks for; an address that cannot be read gives the whole catalog and says so. */
export async function loadBlanksScreen(ctx: Context, actor: Actor, params: URLSearchParams): Promise<BlanksData> {
  let query: ShelfQuery = { ...EMPTY_QUERY, country: actor.country };
  let problem: string | null = null;
  try {
    query = { ...parseQuery(params, actor.currency, actor.country), offset: 0, limit: EMPTY_QUERY.limit };
  } catch (error) {
    if (!isTypicaError(error)) throw error;
    problem = error.message;
  }
  const [{ rows, ...answer }, compared] = await Promise.all([
    browseCatalog(ctx, actor, query),
    loadBlanks(ctx, params.getAll('compare').slice(0, MAX_COMPARED)),
  ]);
  return {
    query,
    page: { ...answer, blanks: rows.map(itemOf) },
    problem,
    compared: compared.map(({ id, name, partner }) => ({ id, name, partner: partner.name })),
    currency: actor.currency,
    country: actor.country,
  };
}
