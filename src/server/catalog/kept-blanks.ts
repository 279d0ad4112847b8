import { LRUCache } from 'lru-cache';
import type { Blank } from '@/core/catalog/blank';
import type { Context } from '../context';
import type { Pools } from '../db/pool';
import { catalogVersion } from './version';

/** Blanks kept in memory at once, the least recently used first to go. */
const MAX_BLANKS = 200;

type Kept = LRUCache<string, Promise<Blank | null>>;

const keeps = new WeakMap<Pools, { readonly version: number; readonly blanks: Kept }>();

/** Blanks by id that this process has read since the catalog changed last; null for an id that there is not. */
export async function keptBlanks(ctx: Context): Promise<Kept> {
  const version = await catalogVersion(ctx);
  const have = keeps.get(ctx.pools);
  if (have?.version === version) return have.blanks;
  const blanks: Kept = new LRUCache({ max: MAX_BLANKS });
  keeps.set(ctx.pools, { version, blanks });
  return blanks;
}
